import { describe, expect, it } from '@jest/globals';
import {
  driveFitOf,
  fieldsOf,
  fitRobot,
  lagWay,
  measuresOfDrive,
  twoTerms,
  type Estimate,
  type RobotFit,
  type RobotTrial,
} from './index.ts';
import { studentHalf } from '../statistics/index.ts';

const drive = {
  topDegPerS: 900,
  tauDriveS: 0.08,
  tauBrakeS: 0.05,
  tauCoastS: 0.3,
  commandDelayMs: 10,
};
const STEP_MS = 10;
const LOOK_MS = 20;
/** What the program takes the track for. */
const TRACK = 120;

/** A robot as the floor knows it; nothing of the application's own simulator is used here. */
interface Real {
  top: number;
  mismatch: number;
  track: number;
  dead: number;
  tauBrake: number;
  delay: number;
  /** The most that a wheel gains or loses, mm/s². */
  limit?: number;
}

/** Seeded noise (mulberry32) and normal numbers from it (Box and Muller 1958). */
function dice(seed: number) {
  let a = seed >>> 0;
  const uniform = () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  const normal = (sd: number) =>
    sd * Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}

/** Drives until `stopsAt` s by small Euler steps: each wheel follows its goal with a lag, the pose follows the wheels. */
function drives(
  real: Real,
  percent: number,
  stopsAt: number,
  headingRad: number,
): { along: number; aside: number } {
  const dt = 2e-4;
  let [x, y, theta, left, right] = [0, 0, headingRad, 0, 0];
  for (let t = 0; t < stopsAt + real.delay + 8 * real.tauBrake; t += dt) {
    const on = t >= real.delay && t < stopsAt + real.delay && percent >= real.dead;
    const goal = on ? (real.top * percent) / 100 : 0;
    const tau = on ? drive.tauDriveS : real.tauBrake;
    const most = real.limit ?? Infinity;
    const gains = (v: number, to: number) => Math.max(-most, Math.min(most, (to - v) / tau)) * dt;
    left += gains(left, goal * (1 + real.mismatch / 2));
    right += gains(right, goal * (1 - real.mismatch / 2));
    theta += ((left - right) / real.track) * dt;
    const v = (left + right) / 2;
    x += v * Math.sin(theta) * dt;
    y += v * Math.cos(theta) * dt;
  }
  return { along: y, aside: x };
}

/** The way that a wheel rolls while it brakes, by small Euler steps. */
function brakes(speed: number, { tauBrake, limit = Infinity }: Real): number {
  let [v, way] = [speed, 0];
  for (const dt = 1e-4; v > 0.01; way += v * dt) v -= Math.min(v / tauBrake, limit) * dt;
  return way;
}

/** Three times five trials of each kind, read by hand: tape to 3 mm, protractor to 2°, set down to half a degree. */
function trialsOf(real: Real, seed: number, times = 5, speeds = [20, 40, 60]): RobotTrial[] {
  const { uniform, normal } = dice(seed);
  const five = <T>(of: () => T): T[] => Array.from({ length: times }, of);
  const ways = [0.5, 1, 2].flatMap((seconds) =>
    five((): RobotTrial => {
      const { along, aside } = drives(real, 100, seconds, normal(0.5 * (Math.PI / 180)));
      return {
        kind: 'way',
        speedPercent: 100,
        seconds,
        wentMm: along + normal(3),
        asideMm: aside + normal(3),
      };
    }),
  );
  const turns = [360, 720, 1080].flatMap((askedDeg) =>
    five((): RobotTrial => ({
      kind: 'turn',
      askedDeg,
      turnedDeg: (askedDeg * TRACK) / real.track + normal(2),
      trackMm: TRACK,
    })),
  );
  const stops = speeds.flatMap((speedPercent) =>
    five((): RobotTrial => {
      const v = (real.top * speedPercent) / 100;
      // The look may come at once or one period late, the step as well, and a further step passes before the command.
      const late = (uniform() * LOOK_MS + uniform() * STEP_MS + STEP_MS) / 1000 + real.delay;
      return {
        kind: 'stop',
        speedPercent,
        pastMm: v * late + brakes(v, real) + normal(2),
        samplePeriodMs: LOOK_MS,
      };
    }),
  );
  const creeps = Array.from({ length: 3 * times }, (_, i): RobotTrial => {
    const speedPercent = 0.5 + (5.5 * i) / (3 * times - 1);
    return { kind: 'creep', speedPercent, moved: speedPercent >= real.dead + normal(0.05) };
  });
  return [...ways, ...turns, ...stops, ...creeps];
}

const fitOf = (trials: RobotTrial[]): RobotFit =>
  fitRobot({ trials, drive, stepTimeMs: STEP_MS, trackMm: TRACK, kitTopMmPerS: 400 });

function realOf(seed: number): Real {
  const { uniform } = dice(seed * 7 + 3);
  return {
    top: 250 + 350 * uniform(),
    mismatch: (uniform() < 0.5 ? -1 : 1) * (0.015 + 0.03 * uniform()),
    track: 100 + 60 * uniform(),
    dead: 1.5 + 3 * uniform(),
    tauBrake: 0.05 + 0.1 * uniform(),
    delay: 0.02 + 0.05 * uniform(),
  };
}

describe('a robot fitted from three times five trials of each kind', () => {
  const robots = Array.from({ length: 120 }, (_, i) => {
    const real = realOf(i);
    return { real, fit: fitOf(trialsOf(real, i + 1)) };
  });
  const numbers: [string, (fit: RobotFit) => RobotFit['trackMm'], (real: Real) => number, least: number][] = [
    ['speed', (fit) => fit.topMmPerS, (real) => real.top, 1],
    ['track', (fit) => fit.trackMm, (real) => real.track, 1],
    ['dead zone', (fit) => fit.deadPercent, (real) => real.dead, 0.9],
    ['wheel mismatch', (fit) => fit.mismatch, (real) => real.mismatch, 0.9],
    [
      'time to a stand',
      (fit) => fit.stopsAfterS,
      (real) => LOOK_MS / 2000 + (1.5 * STEP_MS) / 1000 + real.delay + real.tauBrake,
      0.95,
    ],
  ];
  it.each(numbers)('has its %s within 10 %%', (name, of, truth, least) => {
    const near = robots.filter(({ real, fit }) => {
      const one = of(fit);
      return one.ok && Math.abs(one.value.value / truth(real) - 1) <= 0.1;
    }).length;
    console.log(`${name}: ${near} of ${robots.length} robots within 10 %`);
    expect(near / robots.length).toBeGreaterThanOrEqual(least);
  });

  it('tells braking and delay apart within 10 ms where it tells them', () => {
    const told = robots.filter(({ fit }) => fit.tauBrakeS.ok && fit.commandDelayS.ok);
    const value = (one: RobotFit['trackMm']) => (one.ok ? one.value.value : NaN);
    const near = told.filter(
      ({ real, fit }) =>
        Math.abs(value(fit.tauBrakeS) - real.tauBrake) < 0.01 &&
        Math.abs(value(fit.commandDelayS) - real.delay) < 0.013,
    );
    console.log(
      `braking and delay: told of ${told.length} of ${robots.length}, ${near.length} of these within 10 ms`,
    );
    expect(told.length).toBeGreaterThan(90);
    expect(near.length / told.length).toBeGreaterThan(0.9);
  });

  it('has intervals that hold the truth about as often as they say', () => {
    let [held, all] = [0, 0];
    for (const { real, fit } of robots)
      for (const [one, truth] of [
        [fit.topMmPerS, real.top],
        [fit.trackMm, real.track],
        [fit.tauBrakeS, real.tauBrake],
        [fit.commandDelayS, real.delay],
      ] as const) {
        if (!one.ok) continue;
        all++;
        const { low, high } = one.value;
        if (truth >= low && truth <= high) held++;
      }
    console.log(`95 % intervals held ${held} of ${all}`);
    expect(held / all).toBeGreaterThan(0.9);
  });
});

describe('a robot whose wheels cannot brake as fast as τ asks', () => {
  const robots = Array.from({ length: 60 }, (_, i) => {
    const { uniform } = dice(i * 13 + 5);
    const real: Real = {
      ...realOf(i + 500),
      top: 450 + 250 * uniform(),
      tauBrake: 0.03 + 0.04 * uniform(),
      limit: 1500 + 3000 * uniform(),
    };
    return { real, fit: fitOf(trialsOf(real, i + 1, 5, [20, 60, 100])) };
  });
  const value = (one: RobotFit['trackMm']) => (one.ok ? one.value.value : NaN);

  it('has its limit told, and the truth within its interval', () => {
    const told = robots.filter(({ fit }) => fit.accelLimitMmPerS2.ok);
    const near = told.filter(
      ({ real, fit }) => Math.abs(value(fit.accelLimitMmPerS2) / real.limit! - 1) < 0.25,
    );
    const held = told.filter(
      ({ real, fit: { accelLimitMmPerS2: one } }) =>
        one.ok && one.value.low <= real.limit! && one.value.high >= real.limit!,
    );
    console.log(
      `limit: told of ${told.length} of ${robots.length}, ${near.length} within 25 %, intervals held ${held.length}`,
    );
    expect(told.length).toBeGreaterThan(50);
    expect(near.length / told.length).toBeGreaterThan(0.85);
    expect(held.length / told.length).toBeGreaterThan(0.85);
  });

  it('stops from full speed in the simulation as it did on the floor, whether or not τ and the limit are told apart', () => {
    const near = robots.filter(({ real, fit }) => {
      const stops = driveFitOf(fit, {
        drive,
        stepTimeMs: STEP_MS,
        trackMm: TRACK,
        wheelDiameterMm: 50,
        lookS: LOOK_MS / 1000,
      }).stops;
      const before = LOOK_MS / 2000 + (1.5 * STEP_MS) / 1000;
      const v = real.top;
      const told =
        v * (before + stops!.commandDelayMs! / 1000) + lagWay(v, stops!.tauBrakeS!, stops!.accelLimitMmPerS2);
      const truth = v * (before + real.delay) + brakes(v, real);
      return Math.abs(told / truth - 1) < 0.1 && Math.abs(value(fit.topMmPerS) / v - 1) < 0.03;
    });
    console.log(`stop from full speed within 10 %: ${near.length} of ${robots.length}`);
    expect(near.length).toBeGreaterThan(55);
  });

  it('is not told a limit that it does not have, nor by stops at one speed', () => {
    const none = Array.from({ length: 60 }, (_, i) => {
      const real = { ...realOf(i + 900), tauBrake: 0.06 };
      return fitOf(trialsOf(real, i + 1, 5, [20, 60, 100])).accelLimitMmPerS2;
    });
    const wrongly = none.filter((one) => one.ok).length;
    console.log(`limit told of ${wrongly} of 60 robots that have none`);
    expect(wrongly).toBeLessThan(5);
    const one = fitOf(trialsOf(robots[0]!.real, 3, 5, [100])).accelLimitMmPerS2;
    expect(one.ok ? '' : one.says).toBe('Stops at one speed cannot tell how hard it brakes at most.');
  });
});

describe('what trials cannot tell is said', () => {
  const real: Real = { top: 400, mismatch: 0, track: 130, dead: 2.4, tauBrake: 0.08, delay: 0.03 };
  const trials = trialsOf(real, 5);
  const says = (one: { ok: true; value: Estimate } | { ok: false; says: string; mend: string }) =>
    one.ok ? `told ${one.value.value}` : one.says;

  it('nothing logged, one trial, two trials', () => {
    const none = fitOf([]);
    for (const one of Object.values(none)) expect(one.ok).toBe(false);
    expect(says(none.topMmPerS)).toBe('No timed way has been logged.');
    expect(says(none.stopsAfterS)).toBe('No stop has been logged.');
    const turns = trials.filter(({ kind }) => kind === 'turn');
    expect(says(fitOf(turns.slice(0, 1)).trackMm)).toBe('One known turn cannot tell how well they agree.');
    expect(says(fitOf(turns.slice(0, 2)).trackMm)).toBe('Two known turns cannot tell how well they agree.');
    expect(fitOf(turns.slice(0, 3)).trackMm.ok).toBe(true);
  });

  it('stops are told by the kit’s speed until ways tell better; a way driven once is not enough', () => {
    const stops = trials.filter(({ kind }) => kind === 'stop');
    const value = (fit: RobotFit) => (fit.stopsAfterS.ok ? fit.stopsAfterS.value.value : NaN);
    expect(value(fitOf(stops))).toBeCloseTo(value(fitOf(trials)), 2);
    expect(says(fitOf([...stops, trials[0]!]).topMmPerS)).toBe(
      'One timed way cannot tell how well they agree.',
    );
  });

  it('delay and braking, where all ways took the same time', () => {
    const same = trials.filter((one) => one.kind !== 'way' || one.seconds === 2);
    const fit = fitOf(same);
    expect(fit.topMmPerS.ok && Math.abs(fit.topMmPerS.value.value / 400 - 1)).toBeLessThan(0.05);
    expect(says(fit.tauBrakeS)).toBe('Ways of one length cannot tell run-up and braking from speed.');
    expect(says(fit.commandDelayS)).toBe(
      'Stops alone cannot tell the delay from the braking: both grow with the speed alike.',
    );
    expect(fit.stopsAfterS.ok).toBe(true);
  });

  it('a mismatch that is not there', () => {
    expect(says(fitOf(trials).mismatch)).toMatch(
      /drives straight as far as these trials can tell: its wheels differ by less than \d\.\d+ %/,
    );
  });

  it('a dead zone of which only one side was tried, or where it contradicts itself', () => {
    const creep = (speedPercent: number, moved: boolean): RobotTrial => ({
      kind: 'creep',
      speedPercent,
      moved,
    });
    expect(says(fitOf([creep(5, true), creep(8, true)]).deadPercent)).toBe('It always moved.');
    expect(says(fitOf([creep(1, false)]).deadPercent)).toBe('It never moved.');
    expect(says(fitOf([creep(1, false), creep(9, true)]).deadPercent)).toBe(
      'It lies somewhere between 1 and 9 %.',
    );
    expect(says(fitOf([1, 2, 3, 4].flatMap((p) => [creep(p, true), creep(p, false)])).deadPercent)).toMatch(
      'It moved at speeds',
    );
    expect(
      fitOf([creep(2, false), creep(2.5, false), creep(3, true), creep(3.5, true)]).deadPercent,
    ).toMatchObject({
      ok: true,
      value: { value: 2.75, low: 2.5, high: 3 },
    });
  });

  it('trials that scatter too much, and nonsense', () => {
    const stop = (pastMm: number): RobotTrial => ({
      kind: 'stop',
      speedPercent: 40,
      pastMm,
      samplePeriodMs: 20,
    });
    const wild = [...trials.filter(({ kind }) => kind === 'way'), stop(5), stop(90), stop(12)];
    expect(says(fitOf(wild).stopsAfterS)).toBe('The trials differ too much to tell how it stops.');
    const stood = (['way', 'turn', 'stop'] as const).flatMap((kind) =>
      trials
        .filter((one) => one.kind === kind)
        .map((one) => ({ ...one, wentMm: 0, turnedDeg: 0, pastMm: 0 }) as unknown as RobotTrial),
    );
    for (const one of Object.values(fitOf(stood))) expect(one.ok).toBe(false);
    expect(
      says(
        fitOf([...trials.filter(({ kind }) => kind === 'way'), ...[1, 1.1, 0.9, 1, 1.1, 0.9].map(stop)])
          .commandDelayS,
      ),
    ).toMatch('It stops sooner than');
  });

  it('what rounding hides, where all readings are alike', () => {
    const way: RobotTrial = { kind: 'way', speedPercent: 100, seconds: 2, wentMm: 1000, asideMm: 0 };
    const fit = fitOf([way, way, way]);
    expect(fit.topMmPerS.ok && fit.topMmPerS.value.high - fit.topMmPerS.value.low).toBeGreaterThan(0.5);
    expect(says(fit.mismatch)).toMatch(/less than 0\.0[1-9] %|less than 0\.[1-9]/);
  });

  it('is not thrown by order, or by a trial logged twice', () => {
    const turned = fitOf([...trials].reverse());
    const value = (one: RobotFit['trackMm']) => (one.ok ? one.value.value : NaN);
    expect(value(turned.topMmPerS)).toBeCloseTo(value(fitOf(trials).topMmPerS), 6);
    expect(value(fitOf([...trials, trials[0]!]).topMmPerS) / 400).toBeCloseTo(1, 1);
  });
});

describe('the figures behind', () => {
  // NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.2, table of Student's t, 0.975.
  it.each([
    [1, 12.706],
    [2, 4.303],
    [3, 3.182],
    [4, 2.776],
    [5, 2.571],
    [10, 2.228],
    [13, 2.16],
    [30, 2.042],
    [100, 1.984],
  ])('Student’s t for %d degrees of freedom', (degrees, t) =>
    expect(Math.abs(studentHalf(degrees) - t)).toBeLessThan(0.008),
  );

  it('two terms of exact data are found, and told to be one where they are', () => {
    const points = [1, 2, 3, 5].map((p) => ({ p, q: 1, y: 4 * p - 2 }));
    expect(twoTerms(points)!.a.value).toBeCloseTo(4, 9);
    expect(twoTerms(points)!.b.value).toBeCloseTo(-2, 9);
    expect(twoTerms([1, 2, 3].map((p) => ({ p, q: 2 * p, y: p })))).toBeNull();
  });
});

describe('what the simulation takes over', () => {
  const real: Real = { top: 400, mismatch: 0.03, track: 132, dead: 2.4, tauBrake: 0.09, delay: 0.03 };
  const trials = trialsOf(real, 9);
  const asked = { drive, stepTimeMs: STEP_MS, trackMm: TRACK, wheelDiameterMm: 50, lookS: LOOK_MS / 1000 };

  it('is each measure in the fields of a drive, and nothing where trials cannot tell', () => {
    const all = driveFitOf(fitOf(trials), asked);
    expect((Math.PI * 50 * all.speed!.topDegPerS!) / 360 / 400).toBeCloseTo(1, 1);
    expect(all.straight!.mismatch! / 0.03).toBeCloseTo(1, 0);
    expect(all.turns!.scrub).toBeCloseTo(0.1, 2);
    expect(all['dead zone']!.deadPercent! / 2.4).toBeCloseTo(1, 0);
    expect(Object.keys(all.stops!).sort()).toEqual(['commandDelayMs', 'tauBrakeS']);
    for (const measure of measuresOfDrive) {
      expect(driveFitOf(fitOf([]), asked)[measure]).toBeNull();
      expect(Object.keys(all[measure]!).every((field) => fieldsOf[measure].includes(field as never))).toBe(
        true,
      );
    }
  });

  it('puts to the braking what the kit’s delay leaves, where stops alone are known', () => {
    const stops = driveFitOf(fitOf(trials.filter(({ kind }) => kind === 'stop')), asked).stops!;
    expect(stops.commandDelayMs).toBe(10);
    // 20 ms of delay that the kit does not know are braking here.
    expect(Math.abs(stops.tauBrakeS! - 0.11)).toBeLessThan(0.012);
  });
});
