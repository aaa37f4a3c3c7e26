import { clashesOf, heldBy, usable, type Clash, type PlannedHour, type Thing } from './cupboard.ts';
import { changed, optionsFor, takesAfter, type Timetable, type WayOut } from './waysOut.ts';

/** What a solver made of a program: a value for each variable; null where it found none. */
export type Solve = (lp: string) => Promise<Readonly<Record<string, number>> | null>;

/** Changes that leave nothing short, or what is short in any case. */
export interface Untangled {
  chosen: Omit<WayOut, 'left'>[];
  cost: number;
  /** Clashes that no choice of these changes takes away, as they are when the rest is done. */
  left: Clash[];
}

/** A way out may change at most so many hours of a clash; more options than that make no better plan. */
const OPTIONS = 60;
/** What is short costs more than any change could. */
const SHORT = 10_000;

interface Row {
  thing: Thing;
  at: number;
}

/** How much of a thing an hour has in use at a moment. */
function usedAt(hour: Pick<PlannedHour, 'startsAt' | 'minutes' | 'takes'>, { thing, at }: Row): number {
  const take = hour.takes.find((one) => one.thing === thing.id);
  if (!take) return 0;
  const { from, to } = heldBy(hour, thing, take.afterMin);
  return from <= at && at < to ? take.count : 0;
}

/** A sum as the LP format writes it; 0 of the first variable where it is empty. */
const sum = (terms: readonly (readonly [number, string])[], some: string): string =>
  terms.length === 0
    ? `0 ${some}`
    : terms.map(([n, name]) => `${n < 0 ? '-' : '+'} ${Math.abs(n)} ${name}`).join(' ');

/**
 * Which ways out to take so that nothing is short any more, at the least cost: an integer program in the LP format. One variable for
 * each option, and for each thing and moment one for what stays short. Each hour is changed by one option at most, and of a class at
 * most one option changes the order of its lessons, since each was found to keep that order only alone.
 */
export function untangleProgram(
  table: Timetable,
  options: readonly Omit<WayOut, 'left'>[],
): { lp: string; rows: Row[] } {
  const byId = new Map(table.hours.map((hour) => [hour.id, hour]));
  const moments = table.things.flatMap((thing): Row[] => {
    const froms = table.hours.flatMap((hour) => {
      const all = [
        hour.takes,
        ...options.flatMap(({ changes }) =>
          changes
            .filter((change) => change.hour === hour.id)
            .map((change) => takesAfter(table, hour, change)),
        ),
      ];
      return all.some((takes) => takes.some((take) => take.thing === thing.id))
        ? [heldBy(hour, thing).from]
        : [];
    });
    return [...new Set(froms)].map((at) => ({ thing, at }));
  });
  const rows: Row[] = [];
  const lines: string[] = [];
  for (const row of moments) {
    const base = table.hours.reduce((all, hour) => all + usedAt(hour, row), 0);
    const terms = options.flatMap(({ changes }, i): (readonly [number, string])[] => {
      const delta = changes.reduce((all, change) => {
        const hour = byId.get(change.hour)!;
        return all + usedAt({ ...hour, takes: takesAfter(table, hour, change) }, row) - usedAt(hour, row);
      }, 0);
      return delta === 0 ? [] : [[delta, `y${i}`]];
    });
    const most = usable(row.thing);
    const rising = terms.reduce((all, [n]) => all + Math.max(0, n), 0);
    if (base + rising <= most) continue;
    const r = rows.push(row) - 1;
    lines.push(` c${r}: ${sum([...terms, [-1, `s${r}`]], 'y0')} <= ${most - base}`);
  }
  const group = (key: (way: Omit<WayOut, 'left'>) => (number | string)[]) => {
    const groups = new Map<number | string, number[]>();
    options.forEach((way, i) => {
      for (const one of key(way)) groups.set(one, [...(groups.get(one) ?? []), i]);
    });
    return [...groups.values()].filter((members) => members.length > 1);
  };
  const exclusive = [
    ...group(({ changes }) => changes.map(({ hour }) => hour)),
    ...group((way) => (way.kind === 'share' ? [] : [`class ${way.class}`])),
  ];
  exclusive.forEach((members, i) =>
    lines.push(
      ` e${i}: ${sum(
        members.map((m) => [1, `y${m}`] as const),
        'y0',
      )} <= 1`,
    ),
  );
  const cost = sum(
    [
      ...options.map(({ cost: c }, i) => [Number(c.toFixed(3)), `y${i}`] as const),
      ...rows.map((_, r) => [SHORT, `s${r}`] as const),
    ],
    's0',
  );
  const names = options.map((_, i) => `y${i}`);
  return {
    lp: `Minimize\n obj: ${cost}\nSubject To\n${lines.join('\n')}\nBounds\n${rows.map((_, r) => ` s${r} >= 0`).join('\n')}\n${
      names.length > 0 ? `Binary\n ${names.join(' ')}\n` : ''
    }End\n`,
    rows,
  };
}

/**
 * Takes ways out until nothing is short, at the least cost that the solver finds; what cannot be helped is told. Solved in rounds, as a
 * second change of order in one class is judged only after the first.
 */
export async function untangle(
  table: Timetable,
  solve: Solve,
  day: (at: number) => string,
): Promise<Untangled> {
  let now = table;
  const chosen: Omit<WayOut, 'left'>[] = [];
  for (let round = 0; round < 8; round++) {
    const clashes = clashesOf(now.hours, now.things);
    if (clashes.length === 0) break;
    const options = unique(clashes.flatMap((clash) => cheapest(optionsFor(now, clash, day))));
    if (options.length === 0) break;
    const { lp, rows } = untangleProgram(now, options);
    const values = rows.length > 0 ? await solve(lp) : null;
    if (!values) break;
    const taken = options.filter((_, i) => (values[`y${i}`] ?? 0) > 0.5);
    if (taken.length === 0) break;
    const hours = changed(
      now,
      taken.flatMap(({ changes }) => changes),
    );
    if (clashesOf(hours, now.things).length >= clashes.length && round > 0) break;
    chosen.push(...taken);
    now = { ...now, hours };
  }
  return {
    chosen,
    cost: chosen.reduce((all, { cost }) => all + cost, 0),
    left: clashesOf(now.hours, now.things),
  };
}

const cheapest = (options: readonly Omit<WayOut, 'left'>[]) =>
  [...options].sort((a, b) => a.cost - b.cost).slice(0, OPTIONS);

function unique(options: readonly Omit<WayOut, 'left'>[]): Omit<WayOut, 'left'>[] {
  const byChanges = new Map(
    options.map((way) => [JSON.stringify([...way.changes].sort((a, b) => a.hour - b.hour)), way]),
  );
  return [...byChanges.values()];
}
