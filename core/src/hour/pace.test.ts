import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { learnFrom, SPREAD } from './learn.ts';
import { forecastPace, type PaceGiven, type PaceTeam } from './pace.ts';
import { hourSteps, milestonesOf, plannedLesson, type HourStep } from './plan.ts';
import { standingIn, tookOf } from './visits.ts';
import { newStep, type Lesson, type StepKind } from '../lesson/index.ts';

const stepsOf = (...minutes: [id: string, minutes: number, onMat?: boolean][]): HourStep[] => {
  let used = 0;
  return minutes.map(([id, min, onMat = false]) => {
    const fromMin = used;
    used += min;
    return {
      id,
      kind: onMat ? 'floor' : 'script',
      word: id,
      title: id,
      minutes: min,
      fromMin,
      toMin: used,
      onMat,
      trials: onMat ? 3 : null,
    };
  });
};
const steps = stepsOf(['wire', 4], ['script', 10], ['prove', 5], ['floor', 8, true]);
const team = (id: number, at: number, sinceMin: number, turns = 0): PaceTeam => ({ id, at, sinceMin, turns });
const given = (over: Partial<PaceGiven>): PaceGiven => ({
  steps,
  teams: [team(1, 0, 0)],
  learnt: learnFrom(steps, []),
  nowMin: 0,
  endMin: 50,
  mats: 1,
  turns: [],
  ...over,
});

/** A uniform source of the test's own (Park and Miller 1988), and normals by the sum of twelve. */
function dice(seed: number) {
  let state = seed;
  const uniform = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  return () => Array.from({ length: 12 }, uniform).reduce((sum, u) => sum + u, 0) - 6;
}

/**
 * The same hour by brute force: a clock that goes on a quarter of a minute at a time, every team working, waiting or on a mat; times of
 * current steps drawn again until they are longer than what was spent.
 */
function bruteForce(
  { teams, nowMin, endMin, mats }: PaceGiven,
  plan: readonly HourStep[],
  draws: number,
): number[] {
  const normal = dice(77);
  const reached = plan.map(() => 0);
  for (let draw = 0; draw < draws; draw++) {
    const all = SPREAD.class * normal();
    const ofStep = plan.map(() => SPREAD.step * normal());
    const work = teams.map((one) => {
      const spent = plan[one.at]!.onMat ? 0 : nowMin - one.sinceMin;
      // How fast the team is and how long it takes now, drawn together until it takes longer than it did.
      let own = 0;
      let left = 0.1 * spent;
      for (let again = 0; again < 300; again++) {
        own = SPREAD.team * normal();
        const minutes =
          plan[one.at]!.minutes * Math.exp(all + ofStep[one.at]! + own + SPREAD.within * normal());
        if (minutes <= spent) continue;
        left = minutes - spent;
        break;
      }
      const takes = plan.map((step, i) =>
        i === one.at ? left : step.minutes * Math.exp(all + ofStep[i]! + own + SPREAD.within * normal()),
      );
      return { id: one.id, at: one.at, left: takes[one.at]!, takes, on: false, ready: -1, turns: one.turns };
    });
    for (let t = nowMin; t < endMin; t += 0.25) {
      for (const one of work) if (plan[one.at]?.onMat && one.ready < 0) one.ready = t;
      while (work.filter(({ on }) => on).length < mats) {
        const [next] = work
          .filter((one) => plan[one.at]?.onMat && !one.on)
          .sort((a, b) => a.turns - b.turns || a.ready - b.ready || a.id - b.id);
        if (!next) break;
        next.on = true;
      }
      for (const one of work) {
        if (one.at >= plan.length || (plan[one.at]!.onMat && !one.on)) continue;
        one.left -= 0.25;
        if (one.left > 0) continue;
        one.on = false;
        one.at += 1;
        one.left = one.takes[one.at] ?? 0;
      }
    }
    for (const one of work) plan.forEach((_, i) => (reached[i]! += one.at > i ? 1 : 0));
  }
  return reached.map((sum) => sum / draws);
}

describe('the forecast of an hour', () => {
  it('agrees with a brute-force simulation of the same hour, mats and all', () => {
    const teams = [
      team(1, 1, 2),
      team(2, 1, 6),
      team(3, 2, 12),
      team(4, 3, 14),
      team(5, 0, 0),
      team(6, 1, 10),
    ];
    const errors: number[] = [];
    for (const [mats, endMin] of [
      [1, 35],
      [2, 30],
      [3, 26],
    ] as const) {
      const hour = given({ teams, nowMin: 16, endMin, mats });
      const forecast = forecastPace(hour, { draws: 3000 });
      const expected = bruteForce(hour, steps, 1000);
      steps.forEach((_, i) => {
        const mean = forecast.teams.reduce((sum, one) => sum + one.steps[i]!.byEnd, 0);
        errors.push(Math.abs(mean - expected[i]!));
      });
    }
    // Teams out of six: 0.15 is a chance error of 2.5 % for each.
    console.log(
      `forecast and brute force: teams of six through by the end differ by at most ${Math.max(...errors).toFixed(2)}`,
    );
    expect(Math.max(...errors)).toBeLessThan(0.15);
  });

  it('knows what is done, is the plan where nothing was learnt, and widens with the way to go', () => {
    const one = forecastPace(given({ teams: [team(1, 1, 4)], nowMin: 4 }), { draws: 2000 }).teams[0]!.steps;
    expect(one[0]).toMatchObject({ high: 0, byEnd: 1 });
    expect(one[1]!.mid).toBeCloseTo(14, 0);
    expect(one[3]!.mid).toBeGreaterThan(26);
    expect(one[3]!.mid).toBeLessThan(31);
    const widths = one.map(({ low, high }) => high - low);
    expect(widths).toEqual([...widths].sort((a, b) => a - b));
    // With teams more than the mats can take, they come one after the other.
    const many = Array.from({ length: 8 }, (_, i) => team(i + 1, 3, 20));
    const crowd = forecastPace(given({ teams: many, nowMin: 20, endMin: 50 }), { draws: 1000 });
    expect(crowd.reached[3]!.mid).toBeGreaterThanOrEqual(3);
    expect(crowd.reached[3]!.mid).toBeLessThanOrEqual(4);
    expect(
      forecastPace(given({ teams: many, nowMin: 20, endMin: 50, mats: 8 }), { draws: 1000 }).reached[3]!.mid,
    ).toBe(8);
  });

  it('a team that is long over its time is not done in the past', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4 }),
        fc.double({ min: 0, max: 400, noNaN: true }),
        (at, spent) => {
          const hour = given({
            teams: [team(1, at, 0)],
            nowMin: spent,
            endMin: spent + 20,
            turns: at === 3 ? [{ team: 1, mat: 1, beganMin: 0 }] : [],
          });
          const [own] = forecastPace(hour, { draws: 30 }).teams;
          own!.steps.forEach(({ low, mid, high, byEnd }, i) => {
            expect([low, mid, high, byEnd].every(Number.isFinite)).toBe(true);
            expect(low).toBeLessThanOrEqual(mid);
            expect(mid).toBeLessThanOrEqual(high);
            if (i >= at) expect(low).toBeGreaterThanOrEqual(spent);
          });
        },
      ),
      { numRuns: 60 },
    );
  });

  it('covers what happens: of hours drawn from its own model, 80 % fall into its intervals', () => {
    const normal = dice(5);
    let inside = 0;
    const hours = 300;
    const forecast = forecastPace(given({ teams: [team(1, 0, 0)], mats: 1 }), { draws: 2000 }).teams[0]!
      .steps[2]!;
    for (let i = 0; i < hours; i++) {
      const common = SPREAD.class * normal() + SPREAD.team * normal();
      const end = steps
        .slice(0, 3)
        .reduce(
          (sum, { minutes }) =>
            sum + minutes * Math.exp(common + SPREAD.step * normal() + SPREAD.within * normal()),
          0,
        );
      if (end >= forecast.low && end <= forecast.high) inside += 1;
    }
    expect(inside / hours).toBeGreaterThan(0.74);
    expect(inside / hours).toBeLessThan(0.86);
  });
});

describe('what times tell', () => {
  it('a slow class, a step that was planned too short, a fast team: each is told from the others', () => {
    const normal = dice(9);
    const plan = stepsOf(['a', 5], ['b', 5], ['c', 5], ['d', 5]);
    const times = Array.from({ length: 8 }, (_, t) =>
      plan.map(({ id }) => ({
        team: t,
        step: id,
        minutes: 5 * 1.4 * (id === 'c' ? 2 : 1) * (t === 3 ? 0.5 : 1) * Math.exp(0.15 * normal()),
      })),
    ).flat();
    const learnt = learnFrom(plan, times);
    const factor = (x: number) => Math.exp(x);
    expect(factor(learnt.class.mean)).toBeGreaterThan(1.2);
    expect(learnt.step('c').mean - learnt.step('a').mean).toBeGreaterThan(0.4);
    expect(learnt.team(3).mean - learnt.team(1).mean).toBeLessThan(-0.2);
    expect(learnt.from).toBe(32);
    // What nobody has done yet is as the plan says, with all its spread.
    expect(learnt.step('unseen').mean).toBe(0);
    expect(learnt.step('unseen').sd).toBeCloseTo(SPREAD.step, 9);
    expect(learnt.step('c').sd).toBeLessThan(SPREAD.step);
  });

  it('solves the normal equations: the posterior of one factor from n times has its closed form', () => {
    // One team, one step, all told alike: the sum of the three factors is y · V / (V + σ²/n), V the sum of their variances.
    const times = Array.from({ length: 6 }, () => ({ team: 1, step: 'wire', minutes: 8 }));
    const learnt = learnFrom(steps, times);
    const y = Math.log(2);
    const v = SPREAD.class ** 2 + SPREAD.step ** 2 + SPREAD.team ** 2;
    const sum = learnt.class.mean + learnt.step('wire').mean + learnt.team(1).mean;
    expect(sum).toBeCloseTo((y * v) / (v + SPREAD.within ** 2 / 6), 6);
  });
});

describe('where a team is in its hour', () => {
  const strip = (...states: ('done' | 'now' | 'risk' | 'fault' | 'none')[]) =>
    states.map((state, i) => ({ id: steps[i]!.id, word: '', title: '', state, figure: '' }));
  it('at the first step that is not done, since it came there last', () => {
    const visits = [
      { step: 'wire', atMin: 1 },
      { step: 'script', atMin: 5 },
      { step: 'wire', atMin: 9 },
      { step: 'script', atMin: 11 },
    ];
    const at = standingIn(steps, strip('done', 'fault', 'none', 'none'), visits);
    expect(at).toEqual({ at: 1, sinceMin: 11 });
    // Two stays at Wire count together; the stay at Script is not over.
    expect(tookOf(7, steps, visits, at)).toEqual([{ team: 7, step: 'wire', minutes: 6 }]);
    expect(standingIn(steps, strip('done', 'risk', 'done', 'done'), visits)).toEqual({ at: 4, sinceMin: 11 });
    expect(standingIn(steps, strip('none', 'none', 'none', 'none'), [])).toEqual({ at: 0, sinceMin: 0 });
  });
});

describe('the plan of an hour', () => {
  const lessonOf = (...kinds: StepKind[]): Lesson =>
    ({
      steps: kinds.reduce<ReturnType<typeof newStep>[]>((list, kind) => [...list, newStep(kind, list)], []),
      read: { burst: 20, tasks: [] },
      need: { socket: 'K3' },
      floor: { trials: 3, landmark: '' },
    }) as unknown as Lesson;
  const lesson = lessonOf('brief', 'script', 'prove', 'floor', 'extend', 'homework');

  it('is laid along the clock without homework, with milestones where something must be there', () => {
    const plan = hourSteps(lesson);
    expect(plan.map(({ id }) => id)).toEqual(['brief', 'script', 'prove', 'floor', 'extend']);
    expect(milestonesOf(plan).map(({ word, byMin }) => `${word} by :${byMin}`)).toEqual([
      'Script by :12',
      'Prove by :15',
      'Floor by :23',
    ]);
  });

  it('is cut and stretched: fewer trials, other minutes, a step at home or left out; what others need stays', () => {
    const changed = plannedLesson(lesson, {
      trials: { floor: 2 },
      minutes: { script: 14 },
      atHome: ['extend', 'script'],
      skipped: ['brief', 'prove'],
    });
    expect(changed.steps!.map(({ id, kind }) => `${id} ${kind}`)).toEqual([
      'script script',
      'prove prove',
      'floor floor',
      'extend homework',
      'homework homework',
    ]);
    expect(changed.floor.trials).toBe(2);
    expect(hourSteps(changed).find(({ id }) => id === 'floor')!.trials).toBe(2);
    expect(hourSteps(changed)[0]).toMatchObject({ id: 'script', minutes: 14, fromMin: 0 });
    expect(plannedLesson(lesson, {})).toBe(lesson);
  });
});
