import { log } from '../quantity/index.ts';
import type { HourStep } from './plan.ts';
import type { Took } from './visits.ts';

/**
 * How times scatter, as standard deviations of their logarithms: a choice of ours, from memory of lessons and not from a published
 * study. A step takes one team 60 % longer or shorter than another of the same speed (0.45), a whole class is 30 % off the plan
 * (0.3), one step of a plan is 35 % off the others (0.35), a team is 30 % faster or slower than its class (0.3).
 */
export const SPREAD = { within: 0.45, class: 0.3, step: 0.35, team: 0.3 } as const;

/** A normal belief about the logarithm of a factor. */
export interface Belief {
  mean: number;
  sd: number;
}
/** What times told of how far the plan is off: as factors on its minutes, for the class, a step, a team. */
export interface Learnt {
  class: Belief;
  step: (id: string) => Belief;
  team: (id: number) => Belief;
  /** Times that it was learnt from. */
  from: number;
}

const ROUNDS = 60;

/**
 * What the times of a class in a lesson say about its plan: the posterior of a mixed model log(took ÷ planned) = class + step + team +
 * scatter, all normal around nought (Henderson's mixed model equations, solved by Gauss–Seidel; Henderson 1975). Without times it is
 * the plan with its spread.
 */
export function learnFrom(steps: readonly HourStep[], times: readonly Took[]): Learnt {
  const planned = new Map(steps.filter(({ minutes }) => minutes > 0).map(({ id, minutes }) => [id, minutes]));
  const seen = times.flatMap(({ team, step, minutes }) => {
    const plan = planned.get(step);
    return plan === undefined || !(minutes > 0) ? [] : [{ team, step, y: log(minutes / plan) }];
  });
  const step = new Map<string, number>();
  const team = new Map<number, number>();
  let all = 0;
  const noise = SPREAD.within ** 2;
  const shrunk = (rest: readonly number[], sd: number) =>
    rest.reduce((sum, y) => sum + y, 0) / (rest.length + noise / sd ** 2);
  const of = <K>(map: Map<K, number>, key: K) => map.get(key) ?? 0;
  for (let round = 0; round < ROUNDS; round++) {
    all = shrunk(
      seen.map((one) => one.y - of(step, one.step) - of(team, one.team)),
      SPREAD.class,
    );
    for (const id of new Set(seen.map((one) => one.step)))
      step.set(
        id,
        shrunk(
          seen.filter((one) => one.step === id).map((one) => one.y - all - of(team, one.team)),
          SPREAD.step,
        ),
      );
    for (const id of new Set(seen.map((one) => one.team)))
      team.set(
        id,
        shrunk(
          seen.filter((one) => one.team === id).map((one) => one.y - all - of(step, one.step)),
          SPREAD.team,
        ),
      );
  }
  const belief = (mean: number, n: number, sd: number): Belief => ({
    mean,
    sd: 1 / Math.sqrt(1 / sd ** 2 + n / noise),
  });
  return {
    class: belief(all, seen.length, SPREAD.class),
    step: (id) => belief(of(step, id), seen.filter((one) => one.step === id).length, SPREAD.step),
    team: (id) => belief(of(team, id), seen.filter((one) => one.team === id).length, SPREAD.team),
    from: seen.length,
  };
}
