import { describe, expect, it } from '@jest/globals';
import type { Kit } from '../sensing/index.ts';
import { kit as plain } from '../test/index.ts';
import {
  guessMapping,
  readCsv,
  ReadingsImport,
  writeReadings,
  type FileSet,
  type ImportChoices,
} from './index.ts';

const kit: Kit = {
  ...plain,
  sensors: [
    ...plain.sensors,
    {
      id: 'ear',
      name: 'sounder',
      modes: [
        { kind: 'distance', unit: 'cm', min: 3, max: 200, step: 0.1, samplePeriodMs: 60, noReading: 255 },
      ],
    },
    {
      id: 'rgb',
      name: 'rgb eye',
      modes: [{ kind: 'rgb', unit: '', min: 0, max: 255, step: 1, samplePeriodMs: 50 }],
    },
  ],
};

function take(text: string, more: Partial<ImportChoices> = {}) {
  const [header, ...records] = readCsv(text).records;
  const into = new ReadingsImport(kit, header!.fields, {
    mapping: guessMapping(header!.fields),
    socket: 'K3',
    kind: 'light',
    surface: '',
    unit: '',
    decimalComma: false,
    ...more,
  });
  records.forEach((record) => into.add(record));
  return into;
}

describe('readings from a file', () => {
  it('come in whatever the order of the columns', () => {
    const into = take(
      'surface,note,reading\nline,blinds down,22\nline,blinds down,24\nboards,blinds down,76\n',
    );
    expect(into.faults).toEqual([]);
    expect(into.result()).toEqual([
      {
        socket: 'K3',
        kind: 'light',
        surface: 'line',
        truth: null,
        lightNote: 'blinds down',
        samples: [22, 24],
      },
      {
        socket: 'K3',
        kind: 'light',
        surface: 'boards',
        truth: null,
        lightNote: 'blinds down',
        samples: [76],
      },
    ]);
  });

  it('go out and come back the same, gaps and colours too', () => {
    const sets: (FileSet & { unit: string })[] = [
      {
        socket: 'K3',
        kind: 'light',
        surface: 'a, "b"',
        truth: null,
        lightNote: '=lamp',
        samples: [1, null, 3],
        unit: '%',
      },
      {
        socket: 'K1',
        kind: 'distance',
        surface: 'ruler',
        truth: 15,
        lightNote: '',
        samples: [15.3],
        unit: 'cm',
      },
      {
        socket: 'K4',
        kind: 'rgb',
        surface: 'red',
        truth: null,
        lightNote: '',
        samples: [[180, 40, 41]],
        unit: '',
      },
    ];
    const into = take(writeReadings('Cobble 1', sets));
    expect(into.faults).toEqual([]);
    expect(into.result()).toEqual(sets.map(({ unit: _, ...set }) => set));
  });

  it('tell each row that cannot be taken, with its line and why', () => {
    const into = take(
      [
        'surface,value,socket',
        'line,22,K3',
        'line,abc,K3',
        'line,"12,5",K3',
        'line,140,K3',
        'line,22,K9',
        ',22,K3',
        'line,22',
        'line,none,K3',
        'line,NaN,K3',
      ].join('\n'),
    );
    expect(into.faults).toEqual([
      { line: 3, says: 'value: “abc” is not a number.' },
      { line: 4, says: 'value: “12,5” has a comma: is it a decimal comma?' },
      { line: 5, says: 'value: 140 % is outside what the sensor can read (0 to 100 %).' },
      { line: 6, says: 'Test has no sensor socket “K9”.' },
      { line: 7, says: 'No surface is named.' },
      { line: 8, says: '2 fields instead of 3: a comma too many or too few?' },
      { line: 10, says: 'value: “NaN” is not a number.' },
    ]);
    expect(into.result()).toMatchObject([{ samples: [22, null] }]);
  });

  // Common practice: 255 is no reading; 1 in = 25.4 mm exactly.
  it('turn units, keep 255 out, and refuse a unit of another kind', () => {
    const far = { kind: 'distance' as const, socket: 'K1', surface: 'wall' };
    expect(take('value\n10\n255\n', { ...far, unit: 'in' }).result()[0]!.samples).toEqual([25.4, null]);
    expect(take('value,unit\n150,mm\n', far).result()[0]!.samples).toEqual([15]);
    expect(take('value\n15\n', { ...far, unit: '%' }).faults[0]!.says).toMatch(
      /“%” cannot be turned into cm/,
    );
  });

  it('take a decimal comma when told so', () => {
    expect(take('surface;value\nline;22,5\n', { decimalComma: true }).result()[0]!.samples).toEqual([22.5]);
  });

  it('say what is missing in a file that holds no readings', () => {
    expect(take('a,b\n1,2\n', { surface: 'x' }).faults[0]!.says).toBe('No column holds the readings.');
    expect(take('red,green\n1,2\n', { kind: 'rgb', surface: 'x' }).faults[0]!.says).toMatch(
      /needs red, green and blue/,
    );
  });
});
