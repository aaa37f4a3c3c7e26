import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { LONGEST_TEAM, MOST_TEAMS, readTeamNames } from './index.ts';

const names = (text: string) => readTeamNames(text).names;

describe('team names', () => {
  it.each([
    ['one a line', 'Wren\nLark\n\n  Finch  \r\n'],
    ['numbered', '1. Wren\n2) Lark\n3. Finch'],
    ['with dashes', '- Wren\n– Lark\n• Finch'],
    ['in one line', 'Wren, Lark, Finch'],
    ['in one line with semicolons', 'Wren; Lark; Finch'],
    ['as a column with its head', 'Team\nWren\nLark\nFinch'],
    ['as CSV from a sheet', '\ufeffNo;Team;Room\r\n1;Wren;A\r\n2;Lark;A\r\n3;Finch;B\r\n'],
    ['as a table copied from a sheet', 'Group\tSeats\nWren\t2\nLark\t3\nFinch\t2'],
    ['as a table without a head', 'Wren,2\nLark,3\nFinch,2'],
    ['as a list of members', 'member,team\nA,Wren\nB,Wren\nC,Lark\nD,Finch\nE,Lark'],
    ['in quotation marks', '"team","seats"\n"Wren",2\n"Lark",3\n"Finch",2'],
  ])('are read %s', (_, text) => {
    expect(readTeamNames(text)).toEqual({ names: ['Wren', 'Lark', 'Finch'], fault: null });
  });

  it('never reads who is in a team, where a column says which are teams', () => {
    expect(names('name,team\nAnna,Wren\nBen,Lark')).toEqual(['Wren', 'Lark']);
  });

  it('keeps a comma in a name where lines differ in commas', () => {
    expect(names('Red, White\nLark\nFinch')).toEqual(['Red, White', 'Lark', 'Finch']);
  });

  it.each([
    ['nothing', ' \n \n', /At least one team/],
    ['a head alone', 'team,room\n,\n', /At least one team/],
    ['one name twice', 'Wren\nLark\nwren', /“wren” stands twice/],
    ['too long a name', `Wren\n${'x'.repeat(41)}`, /longer than 40 letters/],
    [
      'too many',
      Array.from({ length: 21 }, (_, i) => `T${i}`).join('\n'),
      /Twenty teams at most; these are 21/,
    ],
    ['a quotation mark never closed', 'team,seats\n"Wren,2\nLark,3', /Line \d+: .*never closed/],
    ['something else altogether', 'x'.repeat(20_001), /far longer/],
  ])('are refused for %s', (_, text, says) => {
    expect(readTeamNames(text).fault).toMatch(says);
  });

  it('are read back from a plain list, and whatever is pasted is read or refused', () => {
    const name = fc.stringMatching(/^[A-Za-z][A-Za-z ]{0,20}[A-Za-z]$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(name, { minLength: 2, maxLength: 20, selector: (text) => text.toLowerCase() }),
        (list) => {
          fc.pre(!/^(team|nickname|group|crew|name)$/i.test(list[0]!));
          expect(names(list.join('\n'))).toEqual(list);
        },
      ),
    );
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        const read = readTeamNames(text);
        if (read.fault === null) {
          expect(read.names.length).toBeLessThanOrEqual(MOST_TEAMS);
          expect(read.names.every((one) => one.trim() === one && one.length <= LONGEST_TEAM)).toBe(true);
        }
      }),
      { numRuns: 500 },
    );
  });
});
