import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Course } from '../course/index.ts';
import { stoppingDistance } from '../motion/index.ts';
import { parseScript } from '../script/index.ts';
import {
  ambientLeak,
  boxMuller,
  calm,
  drawCircumstances,
  fitLight,
  footprintRadius,
  heightFactor,
  nominalLight,
  Noise,
  quantise,
  sampleAt,
  scatterAt,
  simulate,
} from './index.ts';
import { referenceRun } from './test/referenceStepper.ts';
import { course, eye, quiet, setup } from './test/setup.ts';

const lastOf = (run: ReturnType<typeof simulate>, signal: string) =>
  run.trace.signals[signal]!.values.at(-1)!;
const TOP = 534.0707511102648;

describe('motion in the simulator', () => {
  it('reaches 30 % of top speed, regulated', () => {
    const run = simulate(setup('drive 30 %\nwait 1 s\nstop'));
    expect(run.trace.signals.speed!.values[sampleAt(run.trace, 0.9)]).toBeCloseTo(0.3 * TOP, 2);
  });

  it('drives 300 mm by its encoder and brakes there, v·τ later', () => {
    const run = simulate(setup('drive 20 % for 30 cm'));
    const travelled = lastOf(run, 'y') - 150;
    const v = 0.2 * TOP;
    // Encoder in whole degrees, one step late at most, command delay, then the braking lag.
    expect(travelled).toBeGreaterThan(300 + v * (0.008 + 0.045) - 1);
    expect(travelled).toBeLessThan(300 + v * (0.005 + 0.008 + 0.045) + 1);
  });

  it('rolls on for the kit’s time after a program that forgot the stop, and no farther than that', () => {
    const run = simulate(setup('drive 30 %\nwait until floor < threshold'));
    const stopped = simulate(setup('drive 30 %\nwait until floor < threshold\nstop'));
    const extra = lastOf(run, 'y') - lastOf(stopped, 'y');
    expect(extra).toBeGreaterThan(0.3 * TOP * 0.48);
    expect(extra).toBeLessThan(0.3 * TOP * 0.52);
  });

  it('coasts farther than it brakes', () => {
    const far = (how: string) =>
      lastOf(
        simulate(
          setup(`drive 40 %\nwait 0.6 s\n${how}`, { robot: { atProgramEnd: { kind: 'roll', forMs: 5000 } } }),
        ),
        'y',
      );
    expect(far('stop and coast') - far('stop')).toBeCloseTo(0.4 * TOP * (0.3 - 0.045), 0);
  });

  it('turns right, counting up, when the left wheel is faster', () => {
    expect(lastOf(simulate(setup('wheels 30 % and 10 % for 1 s')), 'bearing')).toBeGreaterThan(20);
    expect(
      lastOf(simulate(setup('drive 30 % for 1 s', { circumstances: { mismatch: 0.05 } })), 'bearing'),
    ).toBeGreaterThan(1);
  });
});

describe('stopping on the line', () => {
  it('lies between the earliest and latest stop that delays and lag allow', () => {
    const reaction = { samplePeriodS: 0.05, stepTimeS: 0.005, commandDelayS: 0.008, tauBrakeS: 0.045 };
    for (const percent of [20, 40, 60]) {
      const v = (percent / 100) * TOP;
      const { leastMm, mostMm } = stoppingDistance(v, reaction);
      for (let seed = 1; seed <= 12; seed++) {
        const past =
          lastOf(
            simulate(
              setup(`drive ${percent} %\nwait until floor < threshold\nstop`, { circumstances: { seed } }),
            ),
            'y',
          ) +
          80 -
          450;
        expect(past).toBeGreaterThan(leastMm - 1.5);
        expect(past).toBeLessThan(mostMm + 1.5);
      }
    }
  });

  // Common practice: halving the speed at least halves the overrun.
  it('halving the speed about halves the overrun', () => {
    const mean = (percent: number) => {
      let sum = 0;
      for (let seed = 1; seed <= 20; seed++) {
        sum +=
          lastOf(
            simulate(
              setup(`drive ${percent} %\nwait until floor < threshold\nstop`, { circumstances: { seed } }),
            ),
            'y',
          ) - 370;
      }
      return sum / 20;
    };
    expect(mean(30) / mean(60)).toBeLessThan(0.55);
  });

  it('passes the line between two looks when v·T is wider than it, and never when it is narrower', () => {
    const missed = (percent: number) => {
      let n = 0;
      for (let seed = 1; seed <= 60; seed++) {
        const run = simulate(
          setup(`drive ${percent} %\nwait until floor < threshold\nstop`, { circumstances: { seed } }),
        );
        if (run.ended.how === 'left the mat') n++;
      }
      return n;
    };
    // 100 %: 26.7 mm between looks, line 18 mm: about a third is missed.
    expect(missed(100)).toBeGreaterThan(8);
    expect(missed(100)).toBeLessThan(32);
    expect(missed(60)).toBe(0);
  });
});

describe('programs over time', () => {
  const shown = (text: string) =>
    simulate(setup(text))
      .events.filter((e) => e.kind === 'display')
      .map((e) => e.text);

  it('counts, decides, leaves and shows', () => {
    expect(shown('let n = 0\nrepeat 4 times\nset n to n + 1\nend\nshow "n: " and n')).toEqual(['n: 4']);
    expect(shown('if floor > 50\nshow "bright"\nelse\nshow "dark"\nend')).toEqual(['bright']);
    expect(shown('let n = 0\nrepeat\nset n to n + 1\nif n >= 3\nleave\nend\nend\nshow n')).toEqual(['3']);
    expect(
      shown('let n = 5\nrepeat while n > 2\nset n to n - 1\nend\nshow n\nclear\nfinish\nshow "never"'),
    ).toEqual(['2', '']);
    expect(shown('if floor < 3\nelse if floor > 3\nend\nshow 1 + 2 * 3')).toEqual(['7']);
  });

  it('takes time for waits and for timed repeats', () => {
    expect(simulate(setup('wait 0.5 s\nwait 250 ms')).programOverS).toBeCloseTo(0.76, 1);
    expect(simulate(setup('repeat for 1 s\nshow floor\nend')).programOverS).toBeCloseTo(1.01, 1);
  });

  it('knows a socket whatever the case it is written in', () => {
    const written = {
      ...setup(''),
      program: parseScript('sensor eye is light on k3\ndrive 30 %\nwait until eye < threshold\nstop'),
    };
    expect(simulate(written).ended.how).toBe('at rest');
  });

  it('gives no reading for a socket without a sensor: no comparison holds, and it shows nothing', () => {
    const run = simulate(
      setup(
        'sensor nose is distance on K1\nif nose < 10 cm or nose > 10 cm\nshow "echo"\nelse\nshow nose\nend',
      ),
    );
    expect(run.events.map((e) => e.text)).toContain('nothing');
  });

  it('stops a division by zero with its line', () => {
    const run = simulate(setup('let n = 0\nwait 0.1 s\nset n to 3 / n'));
    expect(run.ended).toMatchObject({ how: 'error', line: 4, says: 'It divided by zero.' });
  });

  it('is ended by the time limit when it would go on for ever', () => {
    const run = simulate(setup('repeat\nend', { timeLimitMs: 2000 }));
    expect(run.ended).toMatchObject({ how: 'time limit', atS: 2 });
    expect(run.programOverS).toBeNull();
  });

  it('cannot be hung or crashed by odd numbers and empty blocks', () => {
    const step = fc.constantFrom(
      'drive 999999 %',
      'drive -40 % for 3 cm',
      'wheels 0 % and -5 %',
      'wait -3 s',
      'repeat 1000000 times\nend',
      'repeat while floor > 200\nend',
      'repeat for 0 s\nstop\nend',
      'if floor > 3\nif floor > 4\nend\nelse\nend',
      'stop and coast',
      'show floor',
      'drive 20 % for 0 cm',
      'set n to n * 10',
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), fc.integer(), (steps, seed) => {
        const run = simulate(
          setup(['let n = 1', ...steps].join('\n'), { timeLimitMs: 1500, circumstances: { seed } }),
        );
        const { x, y, speed } = run.trace.signals;
        return run.ended.atS <= 1.6 && [x, y, speed].every((s) => s!.values.every(Number.isFinite));
      }),
      { numRuns: 120 },
    );
  });
});

describe('determinism', () => {
  const noisy = { sensors: [eye({ ...quiet, lowSd: 1.5, highSd: 2.5 })] };
  const bytes = (seed: number) => {
    const { trace } = simulate(
      setup('drive 40 %\nwait until floor < threshold\nstop', { robot: noisy, circumstances: { seed } }),
    );
    return Object.values(trace.signals)
      .map((s) => new Uint8Array(s.values.buffer).join())
      .join(';');
  };

  it('the same setup gives the same bytes, another seed gives others', () => {
    expect(bytes(3)).toBe(bytes(3));
    expect(bytes(3)).not.toBe(bytes(4));
  });

  it('another run in between changes nothing, longer or shorter, with more or fewer columns', () => {
    const before = bytes(3);
    for (const [text, timeLimitMs] of [
      ['drive 60 %\nwait 3 s\nstop', 40_000],
      ['set a = 7\nset b = 8\nwait 1 s', 1500],
    ] as const)
      simulate(setup(text, { timeLimitMs, circumstances: { seed: 9 } }));
    expect(bytes(3)).toBe(before);
  });

  // Box and Muller 1958.
  it('draws normal noise by the Box–Muller transform', () => {
    expect(boxMuller(0.5, 0)[0]).toBeCloseTo(1.17741002251547, 12);
    expect(boxMuller(0.5, 0.125)[1]).toBeCloseTo(0.832554611157698, 12);
    const noise = new Noise(1);
    const draws = Array.from({ length: 20_000 }, () => noise.normal());
    const mean = draws.reduce((a, b) => a + b) / draws.length;
    const sd = Math.sqrt(draws.reduce((a, b) => a + (b - mean) ** 2, 0) / draws.length);
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(Math.abs(sd - 1)).toBeLessThan(0.03);
  });

  it('draws circumstances within their ranges, the same for the same seed', () => {
    const conditions = {
      ...calm,
      alongMm: [-60, 60] as [number, number],
      lightShift: [-4, 4] as [number, number],
    };
    for (let seed = 0; seed < 50; seed++) {
      const c = drawCircumstances(conditions, course.starts, seed);
      expect(c).toEqual(drawCircumstances(conditions, course.starts, seed));
      expect(Math.abs(c.lightShift)).toBeLessThanOrEqual(4);
      expect(Math.abs(c.start.yMm - 150)).toBeLessThanOrEqual(60.01);
    }
  });
});

describe('against the plain reference', () => {
  const snake: Course = {
    ...course,
    marks: [
      {
        kind: 'path',
        surface: { name: 'line', reflectance: 0.1 },
        points: [
          { xMm: 200, yMm: 0 },
          { xMm: 220, yMm: 400 },
          { xMm: 120, yMm: 700 },
        ],
        widthMm: 30,
      },
    ],
  };
  it.each([
    ['a stop on the line', 'drive 40 %\nwait until floor < threshold\nstop', course],
    ['no stop', 'drive 30 %\nwait until floor < threshold', course],
    ['an arc by wheel turns', 'wheels 35 % and 25 % for 2 turns', course],
    [
      'two-state line following',
      'repeat for 3 s\nif floor < 45\nwheels 30 % and 12 %\nelse\nwheels 12 % and 30 %\nend\nend\nstop',
      snake,
    ],
  ])('agrees on %s', (_, text, on) => {
    const given = setup(text, { course: on });
    const fast = simulate(given);
    const plain = referenceRun(given);
    const n = Math.min(fast.trace.timesS.length, plain.poses.length);
    const { x, y, bearing } = fast.trace.signals;
    for (let i = 0; i < n; i++) {
      expect(
        Math.hypot(x!.values[i]! - plain.poses[i]!.xMm, y!.values[i]! - plain.poses[i]!.yMm),
      ).toBeLessThan(0.5);
      expect(Math.abs(bearing!.values[i]! - plain.poses[i]!.bearingDeg)).toBeLessThan(0.5);
    }
    expect(Math.hypot(lastOf(fast, 'x') - plain.end.xMm, lastOf(fast, 'y') - plain.end.yMm)).toBeLessThan(
      0.6,
    );
  });

  it('a step ten times finer moves the stop by less than 2 %', () => {
    const given = setup('drive 40 %\nwait until floor < threshold\nstop');
    const [coarse, fine] = [referenceRun(given, 1), referenceRun(given, 0.1)];
    const gap = (y: number) => y + 80 - 450;
    expect(Math.abs(gap(coarse.end.yMm) - gap(fine.end.yMm)) / gap(fine.end.yMm)).toBeLessThan(0.02);
  });
});

describe('the light sensor', () => {
  it('collapses when mounted too high or too low (common practice: 8–16 mm)', () => {
    expect(heightFactor(11)).toBeCloseTo(1, 12);
    for (const h of [8, 12, 16]) expect(heightFactor(h)).toBeGreaterThan(0.75);
    for (const h of [2, 30]) expect(heightFactor(h)).toBeLessThan(0.2);
    expect(footprintRadius(20)).toBeGreaterThan(footprintRadius(10));
    // Facing the ceiling it reads 0–3 (common practice).
    expect(ambientLeak(12, 20)).toBeLessThan(3);
  });

  it('takes gain, leak and scatter from the robot’s own readings', () => {
    const model = fitLight(
      { values: [20, 22, 24], reflectance: 0.2 },
      { values: [74, 78, 82], reflectance: 0.76 },
      12,
    );
    expect(100 * model.gain * 0.2 + model.leak).toBeCloseTo(22, 9);
    expect(100 * model.gain * 0.76 + model.leak).toBeCloseTo(78, 9);
    expect([scatterAt(model, 10), scatterAt(model, 50), scatterAt(model, 99)]).toEqual([2, 3, 4]);
  });

  it('falls back to the maker’s figures when a surface was not read or both read alike', () => {
    expect(fitLight(null, { values: [70], reflectance: 0.7 }, 12)).toEqual(nominalLight(12));
    expect(fitLight({ values: [50], reflectance: 0.2 }, { values: [50], reflectance: 0.8 }, 12)).toEqual(
      nominalLight(12),
    );
  });

  it('reports whole steps within its range', () => {
    expect([-3, 49.6, 130].map((v) => quantise(v, { min: 0, max: 100, step: 1 }))).toEqual([0, 50, 100]);
  });
});
