import { describe, expect, it } from '@jest/globals';
import { shownOf, skills, type SkillEvidence } from '../year/index.ts';
import { readCsv, skillsCsv, skillsMarkdown } from './index.ts';

const seen = (skill: string, at: number): SkillEvidence => ({
  skill,
  weight: 'firm',
  at,
  says: 'proved: 50 of 50 runs',
  lesson: { slug: 'tide-line', title: 'Tide | line' },
  hour: 1,
});
const day = (at: number) => new Date(at).toISOString().slice(0, 10);
const overruled = {
  standing: 'not yet',
  reason: '=it "was" copied',
  by: 'Demo Teacher',
  at: 86_400_000,
} as const;
const teams = [
  {
    name: 'Gannet',
    by: new Map(
      skills.map(({ id }) => [
        id,
        shownOf(id === 'stops' ? [seen('stops', 0)] : [], 0, id === 'stops' ? overruled : null),
      ]),
    ),
  },
  { name: '=Plover', by: new Map(skills.map(({ id }) => [id, shownOf([], 0)])) },
];

describe('the record of a class as a file', () => {
  it('as CSV has a row for each team and skill, and nothing that a spreadsheet would run', () => {
    const { records, faults } = readCsv(skillsCsv(teams, skills, day));
    expect(faults).toEqual([]);
    expect(records.length).toBe(1 + teams.length * skills.length);
    const stops = records.find(
      ({ fields }) => fields[0] === 'Gannet' && fields[1] === 'stops in time',
    )!.fields;
    expect(stops).toEqual([
      'Gannet',
      'stops in time',
      'not yet',
      '1970-01-02',
      'no',
      '1',
      'shown',
      `'=it "was" copied`,
      'Demo Teacher',
    ]);
    expect(records.some(({ fields }) => fields[0] === "'=Plover")).toBe(true);
  });

  it('as Markdown says team by team what was shown and by what, with words that break no table', () => {
    const text = skillsMarkdown('7 Kittiwake', teams, skills, day);
    expect(text).toMatch(/^# 7 Kittiwake\n/);
    expect(text).toContain('- **stops in time**: not yet');
    expect(text).toContain('  - Tide \\| line, no date: proved: 50 of 50 runs');
    expect(text).toContain('Demo Teacher says so, 1970-01-02');
    // What was not tried is left out of a team’s own part.
    expect(text.split('## =Plover')[1]!.trim()).toBe('');
    expect(skillsMarkdown('Empty', [], skills, day)).toContain('# Empty');
  });
});
