import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { guessColumn, LOG_COLUMNS, LOG_ROWS, logHead, readRunLog, type LogColumn } from './index.ts';

const time: LogColumn = { as: 'time', unit: 's' };
const front: LogColumn = { as: 'signal', signal: 'K2', unit: 'cm', target: 'cm' };
const none: LogColumn = { as: 'nothing' };
const sockets = [
  { socket: 'K2', unit: 'cm' as const },
  { socket: 'K3', unit: '%' as const },
  { socket: 'S-b', unit: '%' as const },
];

describe('the head of a log', () => {
  it('is its names and how many rows there are', () => {
    expect(logHead('t, K2 ,note\n0,15,a\n0.1,14,b\n')).toEqual({
      ok: true,
      value: { columns: ['t', 'K2', 'note'], rows: 2 },
    });
  });

  it.each<[string, string, RegExp]>([
    ['nothing', '', /holds no rows/],
    ['names only', 't,K2\n', /holds no rows/],
    ['too many rows', `t\n${'1\n'.repeat(LOG_ROWS + 1)}`, /more than 20000 rows/],
    [
      'too many columns',
      `${'a,'.repeat(LOG_COLUMNS)}b\n${'1,'.repeat(LOG_COLUMNS)}2\n`,
      /more than 24 columns/,
    ],
    ['a quote that is never closed', 't,K2\n0,"15\n', /^Line \d+: /],
  ])('%s is refused in one sentence', (_, text, says) => {
    const head = logHead(text);
    expect(head.ok ? '' : head.says).toMatch(says);
  });
});

describe('what a column most likely is', () => {
  it.each<[string, LogColumn]>([
    ['t', time],
    ['time_ms', { as: 'time', unit: 'ms' }],
    ['millis', { as: 'time', unit: 'ms' }],
    ['K2', front],
    ['k3 light', { as: 'signal', signal: 'K3', unit: '%', target: '%' }],
    ['front K2 mm', { as: 'signal', signal: 'K2', unit: 'mm', target: 'cm' }],
    ['S-b', { as: 'signal', signal: 'S-b', unit: '%', target: '%' }],
    ['distance_in', { as: 'signal', signal: 'gap ahead', unit: 'in', target: 'mm' }],
    ['Heading', { as: 'signal', signal: 'turned', unit: 'deg', target: 'deg' }],
    ['speed', { as: 'signal', signal: 'speed', unit: 'mm', target: 'mm/s' }],
    ['laps counted', { as: 'signal', signal: 'number shown', unit: '', target: '' }],
    ['K22', none],
    ['remark', none],
  ])('“%s”', (name, column) => expect(guessColumn(name, sockets)).toEqual(column));

  it('never throws on a name', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (name) => {
        expect(['time', 'signal', 'nothing']).toContain(guessColumn(name, sockets).as);
      }),
    );
  });
});

describe('a real robot’s log', () => {
  const trace = (text: string, ...columns: LogColumn[]) => {
    const read = readRunLog(text, columns);
    if (!read.ok) throw new Error(read.says);
    return read.value;
  };

  it('counts time from its first row, and takes each column in its signal’s own unit', () => {
    const log = trace(
      't_ms,front_mm,gap_cm\n5000,150,15\n5100,140,14\n',
      { as: 'time', unit: 'ms' },
      { ...front, unit: 'mm' },
      { as: 'signal', signal: 'gap ahead', unit: 'cm', target: 'mm' },
    );
    expect([...log.timesS].map((t) => Math.round(1000 * t))).toEqual([0, 100]);
    expect([...log.signals.K2!.values]).toEqual([15, 14]);
    expect([log.signals.K2!.unit, log.signals['gap ahead']!.unit]).toEqual(['cm', 'mm']);
    expect([...log.signals['gap ahead']!.values]).toEqual([150, 140]);
  });

  it('takes an empty field, and the word none, as no reading', () => {
    const { values } = trace('t,K2\n0,15\n1,\n2,none\n3,12\n', time, front).signals.K2!;
    expect([...values].map((v) => (Number.isNaN(v) ? null : v))).toEqual([15, null, null, 12]);
  });

  it('takes a sensor’s own number for nothing as no reading, not as a distance', () => {
    const far = { ...front, noReading: 255 };
    expect([...trace('t,K2\n0,255\n1,20\n', time, far).signals.K2!.values]).toEqual([NaN, 20]);
    expect(guessColumn('K2', [{ socket: 'K2', unit: 'cm', noReading: 255 }])).toMatchObject({
      noReading: 255,
    });
  });

  it.each([
    ['a decimal comma among commas', 't,K2\n0,35\n0,5,36\n', /^Line 3 has 3 fields, the first line names 2/],
    ['a row that is short', 't,K2\n0,35\n1\n', /^Line 3 has 1 field, the first line names 2/],
  ])('%s is told, and nothing is taken for a reading', (_, text, says) => {
    const read = readRunLog(text, [time, front]);
    expect(read.ok ? '' : read.says).toMatch(says);
  });

  it('reads decimal commas where semicolons part the fields', () => {
    const { values } = trace('t;K2\n0,0;15,5\n0,1;14,5\n', time, front).signals.K2!;
    expect([...values]).toEqual([15.5, 14.5]);
  });

  it.each<[string, string, LogColumn[], RegExp]>([
    ['no time', 'a,b\n1,2\n', [none, front], /No column is the time/],
    ['no signal', 'a,b\n1,2\n', [time, none], /No column is a signal/],
    ['one signal twice', 't,b,c\n1,2,3\n', [time, front, front], /Two columns are “K2”/],
    ['a time that is a word', 't,b\n0,1\nsoon,2\n', [time, front], /^Line 3: the time “soon” is no number/],
    ['a time that stands', 't,b\n0,1\n0,2\n', [time, front], /^Line 3: the time does not go forward/],
    ['a time that runs back', 't,b\n2,1\n1,2\n', [time, front], /^Line 3: the time does not go forward/],
    ['a reading that is a word', 't,b\n0,far\n', [time, front], /^Line 2: “far” is no number/],
  ])('with %s is refused, with its line', (_, text, columns, says) => {
    const read = readRunLog(text, columns);
    expect(read.ok ? '' : read.says).toMatch(says);
    expect(read.ok ? '' : read.mend).not.toBe('');
  });

  it('comes back from text as it went, whatever was measured', () => {
    const reading = fc.option(fc.integer({ min: 0, max: 2550 }), { nil: null });
    fc.assert(
      fc.property(fc.array(reading, { minLength: 1, maxLength: 60 }), (readings) => {
        const text = `t,K2\n${readings.map((mm, i) => `${i / 10},${mm === null ? '' : mm / 10}`).join('\n')}\n`;
        const { values } = trace(text, time, front).signals.K2!;
        readings.forEach((mm, i) => {
          if (mm === null) expect(values[i]).toBeNaN();
          else expect(values[i]).toBeCloseTo(mm / 10, 4);
        });
      }),
    );
  });
});
