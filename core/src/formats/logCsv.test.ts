import { describe, expect, it } from '@jest/globals';
import { logCsv } from './index.ts';

describe('a log as CSV', () => {
  it('has a head with units, a row for each time, and nothing where nothing was', () => {
    const log = {
      columns: [
        { name: 'floor', unit: '%' },
        { name: '2 * front', unit: 'cm' },
        { name: 'n', unit: '' },
      ],
      rows: [
        { atS: 0.005, values: [48.25, NaN, 1] },
        { atS: 1.23456, values: [NaN, 20.1, Infinity] },
      ],
      full: false,
    };
    expect(logCsv(log)).toBe('time (s),floor (%),2 * front (cm),n\r\n0.005,48.25,,1\r\n1.235,,20.1,\r\n');
  });

  it('a column that a spreadsheet would work out is guarded', () => {
    const log = { columns: [{ name: '-floor', unit: '' }], rows: [], full: false };
    expect(logCsv(log)).toBe("time (s),'-floor\r\n");
  });
});
