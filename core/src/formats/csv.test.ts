import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readCsv, unguarded, writeCsv } from './index.ts';

const rows = (text: string) => readCsv(text).records.map(({ fields }) => fields);

describe('a CSV file (RFC 4180)', () => {
  it.each([
    [
      'quoted comma',
      'a,b\r\n"1,5",2\r\n',
      [
        ['a', 'b'],
        ['1,5', '2'],
      ],
    ],
    ['doubled quotes', 'a\r\n"say ""hi"""\r\n', [['a'], ['say "hi"']]],
    [
      'CRLF inside quotes',
      'a,b\r\n"line1\r\nline2",x\r\n',
      [
        ['a', 'b'],
        ['line1\r\nline2', 'x'],
      ],
    ],
    [
      'LF line ends, no last one',
      'a,b\n1,2',
      [
        ['a', 'b'],
        ['1', '2'],
      ],
    ],
    [
      'byte order mark before a quoted header',
      '\ufeff"name",x\r\nAda,1\r\n',
      [
        ['name', 'x'],
        ['Ada', '1'],
      ],
    ],
    [
      'empty and empty quoted fields',
      'a,b,c\r\n,"",\r\n',
      [
        ['a', 'b', 'c'],
        ['', '', ''],
      ],
    ],
    [
      'spaces belong to the field',
      'a,b\r\n 1 , 2\r\n',
      [
        ['a', 'b'],
        [' 1 ', ' 2'],
      ],
    ],
    [
      'semicolons',
      'a;b\r\n1,5;2\r\n',
      [
        ['a', 'b'],
        ['1,5', '2'],
      ],
    ],
  ])('%s', (_, text, records) => {
    expect(readCsv(text)).toMatchObject({ faults: [] });
    expect(rows(text)).toEqual(records);
  });

  it('tells the line of what it will not mend in silence', () => {
    expect(readCsv('a,b\r\n1,2\r\n"1,2\r\n').faults).toEqual([
      { line: 3, says: 'A quotation mark is opened here and never closed.' },
    ]);
    expect(readCsv('a,b\r\n"1"x,2\r\n').faults[0]).toMatchObject({ line: 2 });
  });

  it('counts lines over fields that hold line ends', () => {
    expect(readCsv('a\n"x\ny"\nz\n').records.map(({ line }) => line)).toEqual([1, 2, 4]);
  });

  it('comes back as it was written, and a spreadsheet runs none of it', () => {
    expect(writeCsv([['=1+1', -5, null]])).toBe("'=1+1,-5,\r\n");
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.string(), fc.string()), { minLength: 1, maxLength: 6 }), (table) => {
        // An empty line cannot be told from a record of one empty field; two fields always can.
        const header = ['a', 'b'];
        const clean = table.map((row) => row.map((f) => (/^'[=+\-@\t\r]/.test(f) ? '' : f)));
        const back = rows(writeCsv([header, ...clean])).map((row) => row.map(unguarded));
        expect(back).toEqual([header, ...clean]);
        return true;
      }),
    );
  });
});
