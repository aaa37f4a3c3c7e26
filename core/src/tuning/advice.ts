import { formatNumber } from '../quantity/index.ts';
import { momentsOf } from '../statistics/index.ts';
import { FLOOR_TRIALS } from './compare.ts';
import type { Knob } from './knobs.ts';
import { aimOf, missOf, resultText, sideOf, type Goal, type ResultKey } from './results.ts';
import { changesBetween, knobAmount, scoreOf, type Trial, type TrialSource } from './walk.ts';

/** What to try next, and why; in the order in which practitioners tune. */
export interface Advice {
  what: 'change' | 'repeat' | 'done' | 'back' | 'look';
  /** The knob to turn and what to, in its unit; null where nothing is to be turned. */
  knob: string | null;
  value: number | null;
  says: string;
  why: string;
}

/** What advice rests on: the trials so far, what the lesson wants, and the numbers that the newest script has now. */
export interface Situation {
  trials: readonly Trial[];
  goals: readonly Goal[];
  knobs: readonly Knob[];
  /** Which evidence is asked about: the floor’s trials or the simulated ones. */
  source: TrialSource;
}

/** A speed to begin with while the gain is looked for, and the gain while the speed is (common practice). */
const FIRST_GAIN = 1;
const LEAST_SPEED = 10;

const snap = (value: number, { low, high, step }: Knob): number => {
  const stepped = Math.round(value / step) * step;
  return Number(Math.min(high, Math.max(low, stepped)).toFixed(6));
};

const told = (knob: Knob, value: number): string => knobAmount({ value, unit: knob.unit });

const change = (knob: Knob, value: number, why: string): Advice => ({
  what: 'change',
  knob: knob.name,
  value: snap(value, knob),
  says: `Set ${knob.name} to ${told(knob, snap(value, knob))}.`,
  why,
});

/** Trials of one value of a knob, all else being as it is now. */
interface Point {
  value: number;
  trials: Trial[];
}

const valueIn = (trial: Trial, name: string): number | undefined =>
  trial.knobs.find((knob) => knob.name === name)?.value;

const same = (a: number, b: number) => Math.abs(a - b) < 1e-6 * Math.max(1, Math.abs(a), Math.abs(b));

/** Trials by the value of one knob, among those that have every other knob where the last one has it; by value. */
function pointsOf(trials: readonly Trial[], name: string): Point[] {
  const last = trials.at(-1);
  if (!last) return [];
  const points: Point[] = [];
  for (const trial of trials) {
    const value = valueIn(trial, name);
    const alike = last.knobs.every(
      ({ name: other, value: now }) => other === name || same(valueIn(trial, other) ?? NaN, now),
    );
    if (value === undefined || !alike) continue;
    const known = points.find((point) => same(point.value, value));
    if (known) known.trials.push(trial);
    else points.push({ value, trials: [trial] });
  }
  return points.sort((a, b) => a.value - b.value);
}

const resultsAt = ({ trials }: Point, key: ResultKey): number[] =>
  trials.flatMap(({ results }) => results[key] ?? []);

const meanAt = (point: Point, key: ResultKey): number | null => {
  const values = resultsAt(point, key);
  return values.length > 0 ? momentsOf(values).mean : null;
};

/** Which way a result goes when a knob grows (+1 more, −1 less), and whether both are told in one unit, so that a miss is a change. */
function lawOf(knob: Knob, key: ResultKey): { sign: 1 | -1; equal: number | null } | null {
  const lengths: Record<string, number> = { mm: 1, cm: 10, in: 25.4 };
  const perMm = { gap: 10, backed: 10, past: 1 } as const;
  const scale =
    key in perMm && knob.unit in lengths ? perMm[key as keyof typeof perMm] / lengths[knob.unit]! : null;
  const { role } = knob;
  if (key === 'gap') {
    if (role === 'threshold' && scale !== null) return { sign: 1, equal: scale };
    if (role === 'speed') return { sign: -1, equal: null };
    if (role === 'way') return { sign: -1, equal: scale };
  }
  if (key === 'backed' && (role === 'way' || role === 'threshold')) return { sign: 1, equal: scale };
  if (key === 'past') {
    if (role === 'speed') return { sign: 1, equal: null };
    if (role === 'way') return { sign: 1, equal: scale };
  }
  if (key === 'turned' && (role === 'leave' || role === 'turn') && knob.unit === 'deg')
    return { sign: 1, equal: 1 };
  if (key === 'turned' && role === 'speed') return { sign: 1, equal: null };
  return null;
}

/** The knob that moves a result by a law that is known, the one that was moved last first. */
function lawfulKnob({ knobs, trials }: Situation, key: ResultKey): Knob | null {
  const fits = knobs.filter((knob) => lawOf(knob, key));
  for (let i = trials.length - 1; i > 0; i--) {
    const moved = changesBetween(trials[i - 1]!, trials[i]!);
    const knob = moved.length === 1 && fits.find(({ name }) => name === moved[0]!.name);
    if (knob) return knob;
  }
  const rank = (knob: Knob) => (lawOf(knob, key)!.equal === null ? 1 : 0);
  return [...fits].sort((a, b) => rank(a) - rank(b))[0] ?? null;
}

/** A value that was tried, with the mean of what came out. */
interface Measured extends Point {
  mean: number;
  n: number;
  side: -1 | 0 | 1;
}

/** How much a result changes for one of the knob: between the two nearest values that were tried, else by the law. */
function slopeAt(
  points: readonly Measured[],
  here: Measured,
  law: { sign: 1 | -1; equal: number | null },
): number | null {
  const others = points.filter((point) => point !== here);
  if (others.length === 0) return law.equal === null ? null : law.sign / law.equal;
  const near = others.reduce((a, b) =>
    Math.abs(b.value - here.value) < Math.abs(a.value - here.value) ? b : a,
  );
  return (near.mean - here.mean) / (near.value - here.value);
}

/** Where the mean is right and single runs are not: to the middle of what is wanted, and when it is there, slower runs scatter less. */
function scattered(
  { knobs }: Situation,
  goal: Goal,
  knob: Knob,
  here: Measured,
  points: readonly Measured[],
): Advice | null {
  const { key } = goal;
  const values = resultsAt(here, key);
  if (values.every((value) => sideOf(goal, value) === 0)) return null;
  const gave = `${here.n} trials gave ${resultText(key, Math.min(...values))} to ${resultText(key, Math.max(...values))}`;
  const slope = slopeAt(points, here, lawOf(knob, key)!);
  const to = slope ? snap(here.value + (aimOf(goal) - here.mean) / slope, knob) : here.value;
  const fresh = !points.some(({ value }) => same(value, to));
  if (fresh)
    return change(
      knob,
      to,
      `${gave}: their mean is right, but at the rim. ${resultText(key, aimOf(goal))} lies in the middle.`,
    );
  const why = `${gave}: their mean is right, their scatter is too large.`;
  const speed = knobs.find(
    ({ role, name, value }) => role === 'speed' && name !== knob.name && value > LEAST_SPEED,
  );
  return speed
    ? change(speed, speed.value * 0.7, `${why} Slower runs scatter less.`)
    : {
        what: 'look',
        knob: null,
        value: null,
        says: `Leave ${knob.name} as it is, and look what differs from run to run.`,
        why,
      };
}

/** A stop gap, an angle, a way: bracket it, then halve what lies between. */
function bracket(situation: Situation, goal: Goal, knob: Knob): Advice | null {
  const { key } = goal;
  const { sign, equal } = lawOf(knob, key)!;
  const points = pointsOf(situation.trials, knob.name).flatMap((point): Measured[] => {
    const mean = meanAt(point, key);
    return mean === null
      ? []
      : [{ ...point, mean, side: sideOf(goal, mean), n: resultsAt(point, key).length }];
  });
  const last = situation.trials.at(-1);
  const now = last && valueIn(last, knob.name);
  const here = points.find(({ value }) => now !== undefined && same(value, now));
  if (!here) return null;
  const wanted = `${resultText(key, aimOf(goal))} is wanted`;
  if (here.side === 0) {
    const enough = situation.source === 'floor' ? FLOOR_TRIALS : 1;
    if (here.n < enough)
      return {
        what: 'repeat',
        knob: knob.name,
        value: here.value,
        says: `Drive ${knob.name} ${told(knob, here.value)} again: ${here.n} of ${enough}.`,
        why: `${resultText(key, here.mean)} is within what is wanted. One run may be luck: believe it after ${enough}.`,
      };
    return scattered(situation, goal, knob, here, points);
  }
  const inGoal = points.find(({ side }) => side === 0);
  if (inGoal) return change(knob, inGoal.value, `It came out right there: ${resultText(key, inGoal.mean)}.`);
  // Whether the value must grow, for each point: what is too much there is too much here for a result that grows with it.
  const grow = (side: number) => side * sign < 0;
  const [under, over] = [
    points.filter(({ side }) => grow(side)).at(-1),
    points.find(({ side }) => !grow(side)),
  ];
  if (under && over && under.value < over.value) {
    const middle = snap((under.value + over.value) / 2, knob);
    if (same(middle, under.value) || same(middle, over.value)) return null;
    return change(
      knob,
      middle,
      `${told(knob, under.value)} gave ${resultText(key, under.mean)}, ${told(knob, over.value)} gave ${resultText(key, over.mean)}; ${wanted}. Halve what lies between.`,
    );
  }
  // A number at the end of its slider, or less than half a step from where it should be, is no change: another one must help.
  const moved = (to: number, why: string) =>
    same(snap(to, knob), here.value) ? null : change(knob, to, why);
  if (equal !== null)
    return moved(
      here.value + sign * (aimOf(goal) - here.mean) * equal,
      `It came out at ${resultText(key, here.mean)}, ${wanted}: change ${knob.name} by what is missing.`,
    );
  const up = grow(here.side);
  return moved(
    here.value * (up ? 1.3 : 0.7),
    `It came out at ${resultText(key, here.mean)}, ${wanted}. ${up ? 'More' : 'Less'} ${knob.name} takes it there; then halve.`,
  );
}

/** How well one setting did: what the lesson misses first, then how smooth it was. */
const better = (a: Trial, b: Trial, goals: readonly Goal[], less: ResultKey): boolean => {
  const [p, q] = [scoreOf(a, goals) ?? Infinity, scoreOf(b, goals) ?? Infinity];
  if (Math.abs(p - q) > 0.02) return p < q;
  return (a.results[less] ?? Infinity) < (b.results[less] ?? Infinity);
};

const bestOf = (trials: readonly Trial[], goals: readonly Goal[], less: ResultKey): Trial =>
  trials.reduce((a, b) => (better(b, a, goals, less) ? b : a));

/**
 * One knob, uphill: on while it gets better, back and half as far when it got worse. `last` is the change just made; null where the
 * step has become too small to matter.
 */
export function nextUphill(
  knob: Knob,
  points: readonly { value: number; bad: number }[],
  firstStep: number,
  least = knob.step,
): { value: number; why: string } | null {
  const inOrder = [...points].sort((a, b) => a.value - b.value);
  const best = inOrder.reduce((a, b) => (b.bad < a.bad ? b : a));
  const at = inOrder.indexOf(best);
  const [below, above] = [inOrder[at - 1], inOrder[at + 1]];
  const free = (value: number) => {
    const to = snap(value, knob);
    return inOrder.some((point) => same(point.value, to)) ? null : to;
  };
  if (!above || !below) {
    const neighbour = above ?? below;
    const stride = neighbour ? Math.abs(best.value - neighbour.value) : firstStep;
    const way = above ? -1 : 1;
    const on = free(best.value + way * Math.max(stride, least));
    if (on !== null)
      return {
        value: on,
        why: neighbour
          ? `${knobAmount({ value: best.value, unit: knob.unit })} was better than ${knobAmount({ value: neighbour.value, unit: knob.unit })}: go on the same way.`
          : 'One step, and look whether it gets better.',
      };
  }
  // Both sides are known, or the end of the range is reached: half as far, on the side where more room is.
  const gaps = [below, above].flatMap((point) =>
    point ? [{ point, gap: Math.abs(point.value - best.value) }] : [],
  );
  const widest = gaps.sort((a, b) => b.gap - a.gap)[0];
  if (!widest || widest.gap / 2 < least - 1e-9) return null;
  const half = free((best.value + widest.point.value) / 2);
  return half === null
    ? null
    : {
        value: half,
        why: `${knobAmount({ value: widest.point.value, unit: knob.unit })} was worse than ${knobAmount({ value: best.value, unit: knob.unit })}: turn back and halve the step.`,
      };
}

/** Speed first, with gain 1; then the gain up until it gets worse, and back. */
function gainAndSpeed(situation: Situation, gain: Knob, speed: Knob, less: ResultKey): Advice | null {
  const { trials, goals } = situation;
  const last = trials.at(-1)!;
  const about = (trial: Trial, value: number) => same(valueIn(trial, gain.name) ?? NaN, value);
  const good = (trial: Trial) => (scoreOf(trial, goals) ?? Infinity) < 0.02;
  // A speed has been found when, with a gain of 1, one was held and a faster one (or none) was not.
  const atOne = trials.filter((trial) => about(trial, FIRST_GAIN * Math.sign(gain.value || 1)));
  const sign = gain.value < 0 ? -1 : 1;
  const speedOf = (trial: Trial) => valueIn(trial, speed.name)!;
  const held = atOne.filter(good).sort((a, b) => speedOf(b) - speedOf(a))[0];
  const searched = trials.some((trial) => !about(trial, sign * FIRST_GAIN)) && atOne.length > 0;
  if (good(last)) return null;
  if (atOne.length === 0 && trials.length < 12) {
    return change(gain, sign * FIRST_GAIN, 'Find the speed first, with a gain of 1; the gain comes after.');
  }
  if (!held && about(last, sign * FIRST_GAIN)) {
    const slowest = Math.min(...atOne.map(speedOf));
    if (slowest > LEAST_SPEED + 1e-9) {
      const to = Math.max(LEAST_SPEED, Math.round(slowest / 2));
      return change(
        speed,
        to,
        `It lost the edge at ${told(speed, slowest)}. Half as fast, until it holds the line.`,
      );
    }
  }
  const base = held ?? bestOf(atOne, goals, less);
  const atSpeed = trials.filter((trial) => same(speedOf(trial), speedOf(base)));
  if (!same(speedOf(last), speedOf(base)) && !searched)
    return change(
      speed,
      speedOf(base),
      'That speed was the best with a gain of 1. Stay with it, and look for the gain.',
    );
  const points = [...new Set(atSpeed.map((trial) => valueIn(trial, gain.name)!))].map((value) => {
    const mine = atSpeed.filter((trial) => about(trial, value));
    const best = bestOf(mine, goals, less);
    return { value, bad: (scoreOf(best, goals) ?? 9) + (best.results[less] ?? 99) / 1000 };
  });
  const next = nextUphill(gain, points, sign * 0.5, Math.max(gain.step, 0.1));
  if (next) {
    if (!same(speedOf(last), speedOf(base)))
      return change(
        speed,
        speedOf(base),
        'One thing at a time: back to the speed where the gain is looked for.',
      );
    return change(gain, next.value, next.why);
  }
  const slower = Math.round(speedOf(base) * 0.7);
  if (slower < LEAST_SPEED) return null;
  return change(
    speed,
    slower,
    `No gain holds the line at ${told(speed, speedOf(base))}: drive more slowly, then look for the gain again.`,
  );
}

/** The inner wheel of a two-state follower: 30, 20, then back, by the bend (common practice: 40/30, 40/20, 50/−20). */
function wheelPair(situation: Situation, inner: Knob): Advice | null {
  const last = situation.trials.at(-1)!;
  const now = valueIn(last, inner.name) ?? inner.value;
  const to = now > 20 ? 20 : now > 0 ? 0 : now > -20 ? -20 : now - 10;
  if (to < -60) return null;
  return change(
    inner,
    to,
    `It lost the edge in the bend: let the inner wheel do less. ${told(inner, to)} turns more sharply.`,
  );
}

/** Where the last step changed more than one number, or other steps, nobody can tell what helped. */
function twoAtOnce({ trials, knobs }: Situation): Advice | null {
  const [before, last] = [trials.at(-2), trials.at(-1)];
  if (!before || !last) return null;
  const changes = changesBetween(before, last);
  if (changes.length < 2) return null;
  const names = changes.map(({ name }) => name);
  const second = changes.at(-1)!;
  const knob = knobs.find(({ name }) => name === second.name);
  if (!knob) return null;
  return {
    what: 'back',
    knob: knob.name,
    value: second.from,
    says: `Put ${knob.name} back to ${told(knob, second.from)}.`,
    why: `You changed ${names.slice(0, -1).join(', ')} and ${names.at(-1)} at once: nobody can tell which of them did it.`,
  };
}

/**
 * What to try next. Trials of other steps than the newest are left out, and so is other evidence than the one asked about: a
 * simulated run does not tell where the real robot stops.
 */
export function adviseNext(situation: Situation): Advice {
  const { goals, knobs, source } = situation;
  const newest = situation.trials.at(-1);
  const trials = situation.trials.filter(
    (trial) => trial.shape === newest?.shape && (trial.source === 'floor') === (source === 'floor'),
  );
  const mine: Situation = { ...situation, trials };
  const last = trials.at(-1);
  const floor = source === 'floor';
  if (!last)
    return {
      what: 'look',
      knob: null,
      value: null,
      says: floor ? 'Drive it once and measure what comes out.' : 'Run it once as it stands.',
      why: 'What to change is told by what comes out.',
    };
  if (knobs.length === 0)
    return {
      what: 'look',
      knob: null,
      value: null,
      says: 'There is no number to tune.',
      why: 'This script has none.',
    };
  const measured = goals.filter(({ key }) => last.results[key] !== undefined);
  if (measured.length === 0 && last.kept === null)
    return {
      what: 'look',
      knob: null,
      value: null,
      says: 'Measure what came out.',
      why: 'The last trial has no number that the lesson asks for.',
    };
  const both = twoAtOnce(mine);
  if (both && (scoreOf(last, goals) ?? 1) > 0) return both;
  const missed = measured.filter((goal) => missOf(goal, last.results[goal.key]!) > 0);
  const goal = missed.sort((a, b) => missOf(b, last.results[b.key]!) - missOf(a, last.results[a.key]!))[0];
  // A goal that is kept is looked at too: on the floor it wants to be driven again.
  for (const one of goal ? [goal] : measured) {
    const knob = lawfulKnob(mine, one.key);
    const advice = knob && bracket(mine, one, knob);
    if (advice) return advice;
  }
  const done = (scoreOf(last, goals) ?? 1) === 0 && last.kept !== false;
  if (done)
    return {
      what: 'done',
      knob: null,
      value: null,
      says: floor ? 'Keep these numbers.' : 'It keeps to the lesson: prove it.',
      why: floor
        ? 'What came out is within what the lesson wants, more than once.'
        : 'One run says little: the proof runs it many times in changing conditions.',
    };
  const gain = knobs.find(({ role }) => role === 'gain');
  const speed = knobs.find(({ role }) => role === 'speed');
  const less: ResultKey = last.results.rms !== undefined ? 'rms' : 'time';
  const follows = last.results.lost !== undefined || last.results.rms !== undefined;
  const advice =
    follows && gain && speed
      ? gainAndSpeed(mine, gain, speed, less)
      : follows && knobs.some(({ name }) => name.startsWith('inner wheel'))
        ? wheelPair(
            mine,
            knobs.find(({ name }) => name.startsWith('inner wheel'))!,
          )
        : null;
  if (advice) return advice;
  // Nothing is known of how these numbers act: one of them, step by step.
  const moved = trials.length > 1 ? changesBetween(trials.at(-2)!, last) : [];
  const knob =
    knobs.find(({ name }) => name === moved[0]?.name) ??
    knobs.find(({ role }) => role !== 'number') ??
    knobs[0]!;
  const points = pointsOf(trials, knob.name).map(({ value, trials: at }) => {
    const best = bestOf(at, goals, less);
    return { value, bad: (scoreOf(best, goals) ?? 9) + (best.results[less] ?? 99) / 1000 };
  });
  const next =
    points.length > 0
      ? nextUphill(knob, points, Math.max(knob.step, Math.abs(valueIn(last, knob.name) ?? knob.value) / 4))
      : null;
  if (next) return change(knob, next.value, next.why);
  const others = knobs.filter(({ name, role }) => name !== knob.name && role !== 'number');
  const rest = others[0];
  return rest
    ? change(
        rest,
        rest.value + Math.max(rest.step, Math.abs(rest.value) / 4),
        `${knob.name} alone does not do it any more: turn ${rest.name}.`,
      )
    : {
        what: 'look',
        knob: null,
        value: null,
        says: 'Look at the steps.',
        why: `Turning ${knob.name} alone does not do it: ${formatNumber(points.length, 0)} values were tried.`,
      };
}
