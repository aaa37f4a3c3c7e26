import { describe, expect, it } from '@jest/globals';
import { built, kit, lesson } from '../test/index.ts';
import {
  OLD_MIN,
  thresholdTable,
  withRecord,
  type StoredSet,
  type StoredThreshold,
  type TeamInLesson,
} from './index.ts';

const NOW = 100 * 60_000;
const around = (mean: number, sd = 1) =>
  Array.from({ length: 20 }, (_, i) => mean + sd * (((i * 7) % 5) - 2));

interface Given {
  line?: number;
  floor?: number;
  sd?: number;
  threshold?: Partial<StoredThreshold> | null;
  readMinutesAgo?: number;
  looks?: number[];
}

let nextId = 1;
function team(
  name: string,
  { line = 22, floor = 76, sd = 1, threshold = { value: 49 }, readMinutesAgo = 10, looks }: Given = {},
): TeamInLesson {
  const at = NOW - readMinutesAgo * 60_000;
  const set = (surface: string, values: number[]): StoredSet => ({
    id: nextId++,
    socket: 'K3',
    kind: 'light',
    surface,
    values,
    truth: null,
    lightNote: '',
    at,
  });
  const sets = [set('line', around(line, sd)), set('floor', around(floor, sd))];
  const decided: StoredThreshold | null = threshold && {
    id: nextId++,
    value: 49,
    method: 'halfway',
    compare: 'level',
    leave: null,
    reason: '',
    at: NOW,
    ...threshold,
  };
  return withRecord({
    hour: null,
    team: { id: nextId++, name },
    robot: { id: nextId++, name: `robot of ${name}`, standIn: true },
    kit,
    build: built(),
    lesson,
    sensors: {
      K3: {
        wireCheck: null,
        sets,
        quickLooks: looks ? [{ surface: 'line', values: looks, at: NOW }] : [],
        threshold: decided,
        sweep: null,
        touch: null,
      },
    },
    script: null,
    tries: [],
    proof: null,
    trials: [],
    braking: null,
    twist: null,
    place: null,
    notes: {},
  });
}
const remarks = (teams: TeamInLesson[]) =>
  Object.fromEntries(
    thresholdTable(teams, NOW).rows.map((row) => [row.team, row.remarks.map(({ says }) => says)]),
  );

describe('the thresholds of a class', () => {
  it('stand side by side, with nothing to say where all is well', () => {
    const table = thresholdTable([team('A'), team('B', { threshold: { value: 51 } }), team('C')], NOW);
    expect(table).toMatchObject({ unit: '%', lowName: 'line', highName: 'floor', median: 49 });
    expect(
      table.rows.map(({ team: name, value, misreads, remarks: said }) => [name, value, said, misreads! < 1]),
    ).toEqual([
      ['A', 49, [], true],
      ['B', 51, [], true],
      ['C', 49, [], true],
    ]);
  });

  it('name who differs from the class, and leave small differences alone', () => {
    const said = remarks([
      team('A'),
      team('B', { threshold: { value: 50 } }),
      team('C', { threshold: { value: 48 } }),
      team('D', { threshold: { value: 52 } }),
      team('far', { threshold: { value: 64 } }),
    ]);
    expect(said.far).toEqual(['14 from the class’s middle']);
    expect([said.A, said.B, said.C, said.D]).toEqual([[], [], [], []]);
  });

  it('name who is poor and who misreads', () => {
    const said = remarks([team('A'), team('high', { line: 24, floor: 28, sd: 2, threshold: { value: 26 } })]);
    expect(said.high![0]).toBe('surfaces too close');
    expect(said.high![1]).toMatch(/^\d+ misreads in 1000$/);
  });

  it('name who is stale, or at least old', () => {
    const said = remarks([
      team('stale', { looks: [34, 35, 34, 33, 34] }),
      team('fresh', { looks: [22, 22, 23, 22, 21] }),
      team('old', { readMinutesAgo: OLD_MIN + 5 }),
    ]);
    expect(said.stale).toEqual(['stale: the light has changed']);
    expect(said.fresh).toEqual([]);
    expect(said.old).toEqual([`readings ${OLD_MIN + 5} min old`]);
  });

  it('do not compare a change with levels, and bear teams that have not begun', () => {
    const waiting = team('waiting', { threshold: { value: 32, method: 'change by', compare: 'change' } });
    const nothing = team('nothing', { threshold: null });
    nothing.record = { ...nothing.record, sets: [] };
    const table = thresholdTable([team('A'), waiting, nothing], NOW);
    expect(table.median).toBe(49);
    expect(table.rows[1]).toMatchObject({ value: 32, misreads: null, remarks: [] });
    expect(table.rows[2]).toMatchObject({ value: null, low: null, apart: null, readAt: null, remarks: [] });
    expect(thresholdTable([], NOW)).toMatchObject({ rows: [], median: null });
  });
});
