import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { buildCourse, courseFamilies, familyOf, type Course } from '../course/index.ts';
import {
  drawCircumstances,
  calm,
  furtherConditions,
  simulate,
  type Conditions,
  type Run,
  type SimSensor,
} from './index.ts';
import { Turret } from './turret.ts';
import { bumper, eye, gyro, nominal, setup, sounder } from './test/setup.ts';

/** FNV-1a over the bytes of a run's signals, with its events and its end. */
function bytes({ trace, events, ended }: Run, only = Object.keys(trace.signals)): string {
  let hash = 0x811c9dc5;
  for (const name of only) {
    for (const byte of new Uint8Array(trace.signals[name]!.values.buffer))
      hash = Math.imul(hash ^ byte, 0x01000193);
  }
  return JSON.stringify([hash, events, ended]);
}

const everything: SimSensor[] = [eye(nominal), sounder({ scatter: 0.3 }), bumper(), gyro('heading', 0.1)];
const wander = `sensor floor is light on K3
sensor front is distance on K2
sensor nose is touch on K1
repeat for 6 s
  if front < 20 cm or nose is pressed
    drive -30 % for 6 cm
    turn right 70 deg
  else
    steer 0.2 * (floor - 50) at 25 %
  end
end
stop`;

function run(course: Course, sensors: SimSensor[], more: Parameters<typeof setup>[1] = {}): Run {
  const { circumstances, ...rest } = more;
  return simulate(
    setup(wander, {
      course,
      robot: { sensors },
      timeLimitMs: 7000,
      ...rest,
      circumstances: { start: course.starts[0]!, seed: 11, ...circumstances },
    }),
  );
}

describe('determinism among walls, boxes and other robots', () => {
  it.each(courseFamilies.map((family) => [family.name, family] as const))(
    '%s: the same bytes again, others for another seed',
    (_, family) => {
      const course = buildCourse(family);
      const first = bytes(run(course, everything));
      expect(bytes(run(course, everything))).toBe(first);
      expect(bytes(run(structuredClone(course), everything))).toBe(first);
      expect(bytes(run(course, everything, { circumstances: { seed: 12 } }))).not.toBe(first);
    },
  );

  it('one more sensor that no step asks changes nothing for the others', () => {
    const course = buildCourse(familyOf('boathouse'));
    const extra = sounder({ socket: 'K6', facingDeg: 90 });
    const [without, with_] = [run(course, everything), run(course, [...everything, extra])];
    expect(bytes(with_, Object.keys(without.trace.signals))).toBe(bytes(without));
  });

  it('a box that comes later does so by exactly that', () => {
    const at = (fromS: number, laterS: number): Course => ({
      ...buildCourse(familyOf('quay')),
      boxes: [
        {
          id: 'b',
          name: 'b',
          xMm: 350,
          yMm: 500,
          widthMm: 300,
          depthMm: 40,
          stays: [{ fromS: fromS - laterS, toS: 5 - laterS }],
        },
      ],
    });
    const shifted = run(at(2, 1), everything, { circumstances: { laterS: 1 } });
    const plain = run(at(2, 0), everything);
    expect(bytes(shifted)).toBe(bytes(plain));
  });
});

describe('physics that must hold whatever the numbers', () => {
  it('a mirrored room gives the mirrored run, to a hundredth of a millimetre', () => {
    const room = buildCourse(familyOf('boathouse'), { crates: 0 });
    fc.assert(
      fc.property(
        fc.integer({ min: -90, max: 90 }),
        fc.integer({ min: -60, max: 60 }),
        fc.integer({ min: -60, max: 60 }),
        (bearingDeg, l, r) => {
          const drive = (left: number, right: number, side: 1 | -1) =>
            simulate(
              setup(`wheels ${left} % and ${right} % for 3 s`, {
                course: room,
                robot: { sensors: [] },
                circumstances: {
                  start: { xMm: room.widthMm / 2 + side * 200, yMm: 600, bearingDeg: side * bearingDeg },
                },
              }),
            ).trace.signals;
          const [a, b] = [drive(l, r, 1), drive(r, l, -1)];
          return a.x!.values.every(
            (x, i) =>
              Math.abs(x + b.x!.values[i]! - room.widthMm) < 0.02 &&
              Math.abs(a.y!.values[i]! - b.y!.values[i]!) < 0.02,
          );
        },
      ),
      { numRuns: 12 },
    );
  });

  it('scrub shortens a turn by wheels and leaves straight driving alone', () => {
    const end = (text: string, scrub: number) =>
      simulate(
        setup(text, {
          robot: { sensors: [] },
          circumstances: { scrub, start: { xMm: 200, yMm: 150, bearingDeg: 0 } },
        }),
      ).trace.signals;
    const turned = (scrub: number) => end('turn right 180 deg', scrub).bearing!.values.at(-1)!;
    expect(turned(0.05) / turned(0)).toBeCloseTo(1 / 1.05, 3);
    expect(end('drive 30 % for 20 cm', 0.05).y!.values.at(-1)).toBe(
      end('drive 30 % for 20 cm', 0).y!.values.at(-1),
    );
  });

  it('an empty battery slows raw power and not regulated speed', () => {
    const far = (text: string, battery: number) =>
      simulate(
        setup(text, {
          robot: { sensors: [] },
          circumstances: { battery, start: { xMm: 200, yMm: 150, bearingDeg: 0 } },
        }),
      ).trace.signals.y!.values.at(-1)!;
    expect(far('raw drive 40 %\nwait 1 s\nstop', 20)).toBeLessThan(
      far('raw drive 40 %\nwait 1 s\nstop', 100) - 20,
    );
    expect(far('drive 40 %\nwait 1 s\nstop', 20)).toBe(far('drive 40 %\nwait 1 s\nstop', 100));
  });

  it('a turret goes at an even rate, reports that it is there, and comes to rest where it should', () => {
    fc.assert(
      fc.property(fc.integer({ min: -180, max: 180 }), fc.integer({ min: 5, max: 100 }), (deg, percent) => {
        const turret = new Turret();
        const there = turret.turn(1000, deg, percent);
        const half = turret.angleAt(1000 + (there - 1000 - 120) / 2);
        return (
          Math.abs(half - deg / 2) < 1e-6 &&
          Math.abs(turret.angleAt(there + 5000) - deg) < 1e-9 &&
          there >= 1120
        );
      }),
    );
    expect(new Turret().turn(5, NaN, 100)).toBe(5);
  });
});

describe('conditions', () => {
  const starts = [{ xMm: 100, yMm: 100, bearingDeg: 0 }];
  const ranges: Conditions = {
    ...calm,
    alongMm: [-20, 20],
    battery: [40, 100],
    noise: [0.5, 2],
    scrub: [-0.02, 0.02],
    laterS: [0, 3],
    echoes: [0, 0.1],
    driftPerS: [-1, 1],
    headingAtStart: [-40, 40],
    gyroScale: [0.97, 1.03],
    deadPercent: [0, 2],
  };
  it('draw every run from their ranges, the same for the same seed', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const drawn = drawCircumstances(ranges, starts, seed);
        const again = drawCircumstances(ranges, starts, seed);
        return (
          JSON.stringify(drawn) === JSON.stringify(again) &&
          furtherConditions.every(
            (name) => drawn[name]! >= ranges[name]![0] && drawn[name]! <= ranges[name]![1],
          ) &&
          Math.abs(drawn.start.yMm - 100) <= 20
        );
      }),
    );
  });

  it('one more condition changes nothing that was drawn before it', () => {
    const before = drawCircumstances({ ...calm, alongMm: [-20, 20], noise: [1, 2] }, starts, 5);
    const after = drawCircumstances(
      { ...calm, alongMm: [-20, 20], noise: [1, 2], echoes: [0, 1] },
      starts,
      5,
    );
    expect(after).toEqual({ ...before, echoes: expect.any(Number) });
  });
});
