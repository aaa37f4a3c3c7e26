import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { exp, log } from '../quantity/index.ts';
import { Noise } from '../sim/index.ts';
import { SPREAD, type Belief, type Learnt } from './learn.ts';
import type { HourStep } from './plan.ts';
import { byRule, type Turn, type Waiting } from './queue.ts';
import type { Standing } from './visits.ts';

/** A team as a forecast sees it. */
export interface PaceTeam extends Standing {
  id: number;
  /** Turns on a mat that it has had. */
  turns: number;
}
export interface PaceGiven {
  steps: readonly HourStep[];
  teams: readonly PaceTeam[];
  learnt: Learnt;
  /** Minutes of the hour that are over, and that it lasts. */
  nowMin: number;
  endMin: number;
  mats: number;
  /** Turns that are going on. */
  turns: readonly Turn[];
}
/** When something is done: the middle, and the ends of an interval of 80 %, minutes of the hour. */
export interface When {
  low: number;
  mid: number;
  high: number;
}
export interface StepForecast extends When {
  /** Probability that it is done before the hour is over. */
  byEnd: number;
}
export interface PaceForecast {
  /** By team, then by step; a step that is done was done for sure. */
  teams: { id: number; steps: StepForecast[] }[];
  /** By step: how many teams will have done it when the hour is over; the middle, and the ends of an interval of 80 %. */
  reached: When[];
}

/** Draws of a forecast: the ends of an interval of 80 % are then good to some 2 % of probability. */
export const DRAWS = 400;

const quantile = (sorted: Float64Array, p: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))]!;
const whenOf = (values: Float64Array): When => {
  const sorted = values.slice().sort();
  return { low: quantile(sorted, 0.1), mid: quantile(sorted, 0.5), high: quantile(sorted, 0.9) };
};

/** A draw that is refused is drawn again so often at most. */
const MOST_TRIES = 40;

/** A number of a belief, and a time of a step that is known to take longer than it took already. */
class Dice {
  private readonly noise: Noise;
  constructor(seed: number) {
    this.noise = new Noise(seed);
  }
  of({ mean, sd }: Belief): number {
    return mean + sd * this.noise.normal();
  }
  /**
   * A number of a belief, given that a step of so many minutes (its median where the number is 0) takes longer than `spent`: by
   * rejection, so that a team which is long over its time is taken for a slow one.
   */
  ofSlow({ mean, sd }: Belief, median: number, spent: number): number {
    let drawn = mean;
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      drawn = mean + sd * this.noise.normal();
      if (spent <= 0 || median <= 0) return drawn;
      const longer = 1 - normalCdf((log(spent / median) - drawn) / SPREAD.within, 0, 1);
      if (this.noise.uniform() < longer) return drawn;
    }
    return drawn;
  }
  /** Minutes that a step still takes after `spent`: the log-normal time given that it is longer. */
  left(median: number, spent: number): number {
    if (median <= 0) return 0;
    if (spent <= 0) return median * exp(SPREAD.within * this.noise.normal());
    const below = normalCdf(log(spent / median) / SPREAD.within, 0, 1);
    const p = below + (1 - below) * this.noise.uniform();
    // So long over its time that the tail has run out of numbers: a tenth of what it took comes on top.
    if (p >= 1 - 1e-12) return spent * 0.1;
    return Math.max(0, median * exp(SPREAD.within * normalQuantile(Math.max(p, 1e-12), 0, 1)) - spent);
  }
}

/** The step that a team is in the middle of, and how long it has been, min; on a mat, whatever its tablet shows, it is the first open one there. Who waits for a mat is in none. */
function openStep(
  { steps, turns, mats, nowMin }: PaceGiven,
  team: PaceTeam,
): { step: number; spent: number; mat?: number } | null {
  const on = turns.find((turn) => turn.team === team.id && turn.mat <= mats);
  const floor = on ? steps.findIndex((one, i) => i >= team.at && one.onMat) : -1;
  if (on && floor >= 0) return { step: floor, spent: nowMin - on.beganMin, mat: on.mat };
  const step = steps[team.at];
  return step && !(step.onMat && mats > 0) ? { step: team.at, spent: nowMin - team.sinceMin } : null;
}

/** One possible course of an hour: when each team has done each step, minutes of the hour. */
function oneCourse(given: PaceGiven, seed: number): number[][] {
  const { steps, teams, learnt, nowMin, mats } = given;
  const dice = new Dice(seed);
  const shared = dice.of(learnt.class);
  const ofStep = steps.map(({ id }) => dice.of(learnt.step(id)));
  const done = teams.map(({ at }) => steps.map((_, i) => (i < at ? Math.min(nowMin, 0) : Infinity)));
  const open = teams.map((team) => openStep(given, team));
  const ofTeam = teams.map(({ id }, t) => {
    const now = open[t];
    if (!now) return dice.of(learnt.team(id));
    const median = steps[now.step]!.minutes * exp(shared + ofStep[now.step]!);
    return dice.ofSlow(learnt.team(id), median, now.spent);
  });
  const took = (team: number, step: number, spent: number) =>
    dice.left(steps[step]!.minutes * exp(shared + ofStep[step]! + ofTeam[team]!), spent);

  interface Ask extends Waiting {
    index: number;
    step: number;
  }
  const waiting: Ask[] = [];
  const had = teams.map((team) => team.turns);
  /** Goes on from a step at a time until a mat is needed or all is done. */
  const goOn = (index: number, from: number, at: number) => {
    let time = at;
    for (let step = from; step < steps.length; step++) {
      if (steps[step]!.onMat && mats > 0) {
        waiting.push({
          index,
          step,
          team: teams[index]!.id,
          readyMin: time,
          turns: had[index]!,
          pinned: null,
        });
        return;
      }
      time += took(index, step, step === open[index]?.step ? open[index].spent : 0);
      done[index]![step] = time;
    }
  };
  const free = Array.from({ length: mats }, () => nowMin);
  const serve = (mat: number, { index, step }: Pick<Ask, 'index' | 'step'>, from: number, spent: number) => {
    const end = from + took(index, step, spent);
    free[mat] = end;
    had[index]! += 1;
    done[index]![step] = end;
    goOn(index, step + 1, end);
  };
  teams.forEach((team, index) => {
    const now = open[index];
    if (now?.mat === undefined) return goOn(index, team.at, nowMin);
    for (let i = team.at; i < now.step; i++) done[index]![i] = nowMin;
    had[index]! -= 1;
    serve(now.mat - 1, { index, step: now.step }, nowMin, now.spent);
  });
  while (waiting.length > 0) {
    const mat = free.indexOf(Math.min(...free));
    const at = Math.max(free[mat]!, Math.min(...waiting.map(({ readyMin }) => readyMin)));
    const [next] = waiting.filter(({ readyMin }) => readyMin <= at).sort(byRule);
    waiting.splice(waiting.indexOf(next!), 1);
    serve(mat, next!, at, 0);
  }
  return done;
}

/**
 * How an hour will go on: many courses of it, drawn from what was learnt of the class, with its mats taken in turns. All times are minutes
 * of the hour. The same given and seed give the same forecast.
 */
export function forecastPace(given: PaceGiven, { draws = DRAWS, seed = 1 } = {}): PaceForecast {
  const { steps, teams, endMin } = given;
  const times = teams.map(() => steps.map(() => new Float64Array(draws)));
  const counts = steps.map(() => new Float64Array(draws));
  for (let draw = 0; draw < draws; draw++) {
    const course = oneCourse(given, seed * 100_003 + draw);
    course.forEach((own, t) =>
      own.forEach((time, i) => {
        times[t]![i]![draw] = time;
        if (time <= endMin) counts[i]![draw]! += 1;
      }),
    );
  }
  return {
    teams: teams.map(({ id }, t) => ({
      id,
      steps: times[t]!.map((values) => ({
        ...whenOf(values),
        byEnd: values.filter((time) => time <= endMin).length / draws,
      })),
    })),
    reached: counts.map(whenOf),
  };
}
