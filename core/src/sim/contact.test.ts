import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { solidsAt, type Box, type Course } from '../course/index.ts';
import { boxSignals, Outline, simulate, World, type Run, type RunSetup, type SimSensor } from './index.ts';
import { bareFloor as room, bumper, setup, sounder } from './test/setup.ts';

const at = (xMm: number, yMm: number) => ({ xMm, yMm });
const wall = (x1: number, y1: number, x2: number, y2: number) => ({ from: at(x1, y1), to: at(x2, y2) });
const box = (x: number, y: number, more: Partial<Box> = {}): Box => ({
  id: 'b',
  name: 'b',
  ...at(x, y),
  widthMm: 200,
  depthMm: 100,
  ...more,
});
type More = Partial<Omit<RunSetup, 'robot' | 'circumstances'>> & {
  robot?: Partial<RunSetup['robot']>;
  circumstances?: Partial<RunSetup['circumstances']>;
};
/** A run from (500, 400), looking ahead. The robot is 190 mm long and 150 wide, its axle 112 mm behind its front. */
function run(text: string, course: Course, sensors: SimSensor[] = [], more: More = {}): Run {
  const given = setup(text, {
    course,
    ...more,
    robot: { sensors, ...more.robot },
    circumstances: { start: { ...at(500, 400), bearingDeg: 0 }, noise: 0, ...more.circumstances },
  });
  expect(given.program.findings).toEqual([]);
  return simulate(given);
}
const of = (done: Run, signal: string): number[] => [...done.trace.signals[signal]!.values];
const last = (done: Run, signal: string): number => of(done, signal).at(-1)!;
const STAND = 'wait 8 s';
/** Random runs of each kind; more where asked for. */
const RUNS = Number(process.env.CONTACT_RUNS ?? 80);

describe('a standing robot', () => {
  const coming = (fromY: number): Course =>
    room({ boxes: [box(500, fromY, { moves: { to: at(500, 300), speedMmPerS: 100, fromS: 1 } })] });

  it('is pushed along by a box that comes, and feels it', () => {
    const done = run(`sensor nose is touch on K1\n${STAND}`, coming(1000), [bumper()], { timeLimitMs: 6000 });
    // The box is 100 mm deep: its near face is at 1000 − 50 − 100·(t − 1).
    const face = (t: number) => 950 - 100 * Math.max(0, t - 1);
    of(done, 'y').forEach((y, i) => {
      const t = done.trace.timesS[i]!;
      if (t < 5.8) expect([t, face(t) - (y + 112) > -2.5]).toEqual([t, true]);
    });
    expect(last(done, 'y')).toBeLessThan(360);
    expect(of(done, 'K1').some((v) => v > 0)).toBe(true);
    expect(of(done, 'touching').at(-1)).toBe(1);
  });

  it('is let go when the box is gone', () => {
    const course = room({ boxes: [box(500, 561, { stays: [{ fromS: 1, toS: 2 }] })] });
    const done = run(`sensor nose is touch on K1\n${STAND}`, course, [bumper()], { timeLimitMs: 4000 });
    const pressed = of(done, 'K1');
    const during = (from: number, to: number) =>
      pressed.filter((_, i) => done.trace.timesS[i]! > from && done.trace.timesS[i]! < to);
    expect([during(0, 0.9), during(1.1, 1.9), during(2.1, 4)].map((some) => Math.max(...some))).toEqual([
      0, 1, 0,
    ]);
    expect(Math.max(...of(done, 'touching').slice(-50))).toBe(0);
  });

  it('is pushed out of a box that is larger than itself and appears over it', () => {
    const course = room({
      boxes: [box(500, 500, { widthMm: 600, depthMm: 500, stays: [{ fromS: 1, toS: null }] })],
    });
    const done = run(STAND, course, [], { timeLimitMs: 3000 });
    // The nearest way out is back: the box begins at y = 250.
    expect(last(done, 'y') + 112).toBeLessThanOrEqual(250.1);
  });

  it('holds off a robot that charges, which stays outside it', () => {
    const course = room({
      opponent: {
        name: 'o',
        ...at(500, 1200),
        bearingDeg: 180,
        radiusMm: 60,
        does: 'charges',
        speedMmPerS: 120,
        gives: 0.5,
      },
    });
    const done = run('wait 20 s', course, [], { timeLimitMs: 20_000 });
    const [x, y, ox, oy] = ['x', 'y', 'opponent x', 'opponent y'].map((name) => of(done, name));
    const gaps = x!.map((_, i) => {
      const theta = (done.trace.signals.bearing!.values[i]! * Math.PI) / 180;
      const [dx, dy] = [ox![i]! - x![i]!, oy![i]! - y![i]!];
      const [f, g] = [
        dx * Math.sin(theta) + dy * Math.cos(theta),
        dx * Math.cos(theta) - dy * Math.sin(theta),
      ];
      const [nf, ng] = [Math.max(-78, Math.min(112, f)), Math.max(-75, Math.min(75, g))];
      return Math.hypot(f - nf, g - ng) - 60;
    });
    expect(Math.min(...gaps)).toBeGreaterThan(-1);
  });
});

describe('clocks', () => {
  it.each([1, 2.5, 16.67, 33.3, 50])(
    'a sensor that looks each %d ms does not change how far the robot goes',
    (period) => {
      const done = run('sensor front is distance on K2\ndrive 30 %\nwait 1 s\nstop', room(), [
        sounder({ samplePeriodMs: period }),
      ]);
      const without = run('drive 30 %\nwait 1 s\nstop', room());
      expect(last(done, 'y')).toBeCloseTo(last(without, 'y'), 6);
    },
  );

  it('nor does a box that begins to move between two milliseconds', () => {
    const course = room({
      boxes: [box(100, 1300, { moves: { to: at(300, 1300), speedMmPerS: 33, fromS: 0.01234 } })],
    });
    const [with_, without] = [course, room()].map((c) =>
      run('drive 30 %\nwait 1 s\nstop', c, [], { circumstances: { laterS: 0.00077 } }),
    );
    expect(last(with_!, 'y')).toBeCloseTo(last(without!, 'y'), 6);
  });

  it('a step that takes a tenth of a millisecond takes a tenth of a millisecond', () => {
    const count = (stepTimeMs: number) =>
      last(
        run('let n = 0\nrepeat for 1 s\n  set n to n + 1\nend\nstop', room(), [], { robot: { stepTimeMs } }),
        'value n',
      );
    const [tenth, one, five] = [count(0.1), count(1), count(5)];
    expect(tenth / one).toBeCloseTo(10, 0);
    expect(one / five).toBeCloseTo(5, 0);
  });
});

describe('what hides what', () => {
  const slanted = (deg: number, y: number) => {
    const b = (deg * Math.PI) / 180;
    const [dx, dy] = [900 * Math.cos(b), 900 * Math.sin(b)];
    return wall(500 - dx, y - dy, 500 + dx, y + dy);
  };
  const reads = (course: Course, sensor = sounder()) =>
    of(run('sensor front is distance on K2\nwait 0.2 s', course, [sensor]), 'K2')[0]!;

  it('a wall that sends its echo elsewhere hides the one behind it', () => {
    expect(reads(room({ walls: [wall(0, 1400, 1000, 1400)] }))).toBeCloseTo(89.6, 1);
    expect(reads(room({ walls: [slanted(35, 640), wall(0, 1400, 1000, 1400)] }))).toBeNaN();
  });

  it('a thin post hides only what is right behind it', () => {
    const post = box(500, 700, { widthMm: 4, depthMm: 4, round: true });
    expect(reads(room({ boxes: [post], walls: [wall(0, 1400, 1000, 1400)] }))).toBeGreaterThan(10);
  });

  it('a face and a post of the same width are heard up to the same distance', () => {
    const heard = (round: boolean, far: number) =>
      !Number.isNaN(reads(room({ boxes: [box(500, 504 + far, { widthMm: 5, depthMm: 5, round })] })));
    for (const far of [150, 250]) expect([heard(true, far), heard(false, far)]).toEqual([true, true]);
    for (const far of [400, 700]) expect([heard(true, far), heard(false, far)]).toEqual([false, false]);
  });

  it('a sensor that is pressed to a wall does not read the next one', () => {
    const course = room({ walls: [wall(0, 512, 1000, 512), wall(0, 900, 1000, 900)] });
    const done = run('sensor front is distance on K2\ndrive 30 %\nwait 1 s\nstop', course, [
      sounder({ aheadMm: 112 }),
    ]);
    expect(of(done, 'K2').every(Number.isNaN)).toBe(true);
  });

  // Lambert's cosine law, 1760.
  it('infrared falls with the cosine of the slant and is not gone at 16°', () => {
    const eye: SimSensor = {
      kind: 'proximity',
      socket: 'K2',
      unit: '%',
      aheadMm: 104,
      rightMm: 0,
      heightMm: 60,
      facingDeg: 0,
      samplePeriodMs: 20,
      min: 0,
      max: 100,
      step: 0.01,
      scatter: 0,
    };
    const of35 = (deg: number) =>
      of(
        run('sensor front is proximity on K2\nwait 0.2 s', room({ walls: [slanted(deg, 640)] }), [eye]),
        'K2',
      )[0]!;
    const [straight, sixteen, sixty] = [of35(0), of35(16), of35(60)];
    expect(sixteen).toBeGreaterThan(0.9 * straight);
    expect(sixteen).toBeLessThan(1.1 * straight);
    expect(sixty).toBeGreaterThan(0.4 * straight);
    expect(sixty).toBeLessThan(0.95 * straight);
    expect(of35(80)).toBeLessThan(0.2 * straight);
  });
});

describe('pushing against things', () => {
  it('stalls the wheels: a way that is blocked never ends, and the robot does not move', () => {
    const done = run('drive 30 % for 50 cm\nshow "there"', room({ walls: [wall(0, 600, 1000, 600)] }), [], {
      timeLimitMs: 8000,
    });
    expect(done.ended.how).toBe('time limit');
    const speeds = of(done, 'speed');
    expect(Math.max(...speeds.slice(-100).map(Math.abs))).toBeLessThan(1);
    expect(Math.max(...speeds)).toBeGreaterThan(100);
  });

  it('a robot cannot turn round in a corridor that is narrower than it is long', () => {
    const corridor = room({ walls: [wall(420, 0, 420, 1500), wall(580, 0, 580, 1500)] });
    const done = run('spin right at 40 %\nwait 3 s\nstop', corridor);
    expect(Math.abs(last(done, 'bearing'))).toBeLessThan(45);
    // It is 242 mm from corner to corner; in a wide one it turns freely.
    const wide = room({ walls: [wall(350, 0, 350, 1500), wall(650, 0, 650, 1500)] });
    expect(Math.abs(last(run('spin right at 40 %\nwait 3 s\nstop', wide), 'bearing'))).toBeGreaterThan(180);
  });

  it('a wall without length stops it, and the other robot stops at walls', () => {
    expect(
      last(run('drive 40 %\nwait 3 s\nstop', room({ walls: [wall(500, 800, 500, 800)] })), 'y') + 112,
    ).toBeLessThan(800.2);
    const course = room({
      walls: [wall(0, 900, 1000, 900)],
      opponent: {
        name: 'o',
        ...at(500, 1300),
        bearingDeg: 180,
        radiusMm: 60,
        does: 'charges',
        speedMmPerS: 100,
        gives: 0.5,
      },
    });
    const done = run('wait 9 s', course, [], { timeLimitMs: 9000 });
    expect(Math.min(...of(done, 'opponent y'))).toBeGreaterThan(959);
  });

  it('driving on against a slanted wall turns the robot along it', () => {
    const b = (20 * Math.PI) / 180;
    const [dx, dy] = [700 * Math.cos(b), 700 * Math.sin(b)];
    const done = run(
      'drive 30 %\nwait 6 s\nstop',
      room({ walls: [wall(500 - dx, 750 - dy, 500 + dx, 750 + dy)] }),
      [],
      {
        timeLimitMs: 7000,
      },
    );
    // Square to it the robot would look 20° to the left of ahead; it turns that way.
    expect(last(done, 'bearing')).toBeLessThan(-5);
  });

  it('turns as small as a degree are made', () => {
    for (const deg of [1, 2, 5])
      expect(Math.abs(last(run(`turn right ${deg} deg`, room()), 'bearing') - deg)).toBeLessThan(0.7);
  });
});

describe('motors', () => {
  it('do not turn below their dead zone', () => {
    const gone = (percent: number, dead: number) =>
      last(
        run(`drive ${percent} %\nwait 2 s\nstop`, room(), [], {
          robot: { drive: { ...driveOf(), deadPercent: dead } },
        }),
        'y',
      ) - 400;
    expect([gone(3, 0) > 5, gone(3, 4), gone(4, 4) > 5]).toEqual([true, 0, true]);
  });

  it('that are regulated sag near the top when the battery is low, and nowhere else', () => {
    const gone = (percent: number, battery: number) =>
      last(
        run(`drive ${percent} %\nwait 1 s\nstop`, room({ heightMm: 3000 }), [], {
          circumstances: { battery },
        }),
        'y',
      ) - 400;
    expect(gone(50, 20)).toBe(gone(50, 100));
    // 80 % of 25 % are lost: 0.75 + 0.25·0.2.
    expect(gone(100, 20) / gone(100, 100)).toBeCloseTo(0.8, 2);
  });

  const driveOf = () => setup('stop').robot.drive;
});

describe('a display that changes all the time', () => {
  it('keeps what it said last', () => {
    const done = run('let n = 0\nrepeat for 5 s\n  set n to n + 1\n  show n\nend\nshow "done"', room(), [], {
      robot: { stepTimeMs: 1 },
    });
    const texts = done.events.filter(({ kind }) => kind === 'display').map(({ text }) => text);
    expect(texts.length).toBeGreaterThan(500);
    expect(texts.at(-1)).toBe('done');
  });
});

/** Whether a straight piece goes through the robot's outline made smaller by 1 mm all round (Liang and Barsky 1984). */
function goesThrough(
  pose: { x: number; y: number; theta: number },
  a: { xMm: number; yMm: number },
  b: { xMm: number; yMm: number },
): boolean {
  const [s, c] = [Math.sin(pose.theta), Math.cos(pose.theta)];
  const own = ({ xMm, yMm }: { xMm: number; yMm: number }) => {
    const [dx, dy] = [xMm - pose.x, yMm - pose.y];
    return [dx * s + dy * c, dx * c - dy * s] as const;
  };
  const [[f1, g1], [f2, g2]] = [own(a), own(b)];
  let [from, to] = [0, 1];
  for (const [start, way, low, high] of [
    [f1, f2 - f1, -77, 111],
    [g1, g2 - g1, -74, 74],
  ] as const) {
    if (way === 0) {
      if (start < low || start > high) return false;
      continue;
    }
    const [t1, t2] = [(low - start) / way, (high - start) / way];
    from = Math.max(from, Math.min(t1, t2));
    to = Math.min(to, Math.max(t1, t2));
  }
  return from < to;
}

type Pushed = (box: number) => { xMm: number; yMm: number; turnDeg: number } | null;
/** Where a light box stands at a sample; null for one that is not light. */
function boxAt(done: Run, id: string, i: number): ReturnType<Pushed> {
  const [x, y, turned] = boxSignals(id).map((name) => done.trace.signals[name]?.values[i]);
  return x === undefined ? null : { xMm: x, yMm: y!, turnDeg: turned! };
}

describe('light boxes', () => {
  const light = (x: number, y: number, more: Partial<Box> = {}) => box(x, y, { light: true, ...more });
  const end = (done: Run, id = 'b') => boxAt(done, id, done.trace.timesS.length - 1)!;

  it('go before the robot that pushes them, and stay where it stops', () => {
    const text = 'drive 30 %\nwait 3 s\ndrive -30 %\nwait 1 s\nstop';
    const more = { timeLimitMs: 6000 };
    const done = run(text, room({ boxes: [light(500, 700)] }), [], more);
    const free = run(text, room(), [], more);
    // It costs no strength.
    expect(last(done, 'y')).toBeCloseTo(last(free, 'y'), 3);
    const front = Math.max(...of(done, 'y')) + 112;
    expect(Math.abs(end(done).yMm - 50 - front)).toBeLessThan(0.1);
    expect(Math.abs(end(done).xMm - 500) + Math.abs(end(done).turnDeg)).toBeLessThan(0.1);
  });

  it('turn away from a push beside their middle, to the side that is pushed', () => {
    const at30 = (x: number) => end(run('drive 30 %\nwait 3 s\nstop', room({ boxes: [light(x, 700)] })));
    // The robot is 150 mm wide: its front meets a box on its left with the box's right part, which goes ahead.
    expect(at30(360).turnDeg).toBeLessThan(-5);
    expect(at30(640).turnDeg).toBeGreaterThan(5);
    expect(at30(640).turnDeg).toBeCloseTo(-at30(360).turnDeg, 0);
    expect(at30(640).yMm).toBeLessThan(
      end(run('drive 30 %\nwait 3 s\nstop', room({ boxes: [light(500, 700)] }))).yMm,
    );
  });

  it('stop at a wall, at a box that stands, at another light one, and stop the robot', () => {
    const text = 'drive 40 %\nwait 5 s\nstop';
    const more = { timeLimitMs: 6000 };
    const behind: [Partial<Course>, number][] = [
      [{ walls: [wall(0, 1000, 1000, 1000)] }, 1000],
      [{ boxes: [box(500, 1050, { id: 'c' })] }, 1000],
      [{ boxes: [light(500, 1050, { id: 'c' })] }, 1000],
      [{ rim: 'wall' }, 1500],
    ];
    for (const [course, face] of behind) {
      const done = run(
        text,
        room({ ...course, boxes: [light(500, 700), ...(course.boxes ?? [])] }),
        [],
        more,
      );
      const far = end(done).yMm + 50;
      expect([face, Math.abs(far - face) < 1.5]).toEqual([face, true]);
      expect([face, Math.abs(last(done, 'y') + 112 - (far - 100)) < 1.5]).toEqual([face, true]);
      expect(last(done, 'touching')).toBe(1);
    }
  });

  it('may be round, may come and go, and never move when nobody pushes', () => {
    const post = light(530, 700, { round: true, widthMm: 60, depthMm: 60 });
    const done = run('drive 30 %\nwait 3 s\nstop', room({ boxes: [post] }));
    expect(end(done).yMm).toBeGreaterThan(850);
    expect(end(done).turnDeg).toBe(0);
    const gone = run(
      'drive 30 %\nwait 3 s\nstop',
      room({ boxes: [light(500, 700, { stays: [{ fromS: 9, toS: null }] })] }),
    );
    expect(end(gone)).toEqual({ xMm: 500, yMm: 700, turnDeg: 0 });
    expect(last(gone, 'y')).toBeCloseTo(last(run('drive 30 %\nwait 3 s\nstop', room()), 'y'), 6);
    const still = run('turn right 90 deg', room({ boxes: [light(500, 900, { turnDeg: 33 })] }));
    expect(end(still).turnDeg).toBeCloseTo(33, 4);
  });

  it('are pushed twice in a row, and each of two for itself', () => {
    const text = 'drive 30 %\nwait 2 s\ndrive -30 %\nwait 1 s\ndrive 30 %\nwait 2 s\nstop';
    const boxes = [light(450, 700, { widthMm: 60 }), light(550, 800, { widthMm: 60, id: 'c' })];
    const done = run(text, room({ boxes }), [], { timeLimitMs: 7000 });
    const front = Math.max(...of(done, 'y')) + 112;
    for (const id of ['b', 'c']) expect(end(done, id).yMm).toBeGreaterThan(front);
  });
});

describe('friction at what stands fast', () => {
  /** How far a robot slides whose face stands `deep` in a wall across its way, and which came `aside` mm to the right. */
  const slides = (wallFriction: number, deep: number, aside: number) => {
    const { robot } = setup('stop');
    const outline = new Outline({ ...robot, drive: { ...robot.drive, wallFriction } });
    const world = new World(room({ walls: [wall(0, 600, 1000, 600)] }));
    const [x, y] = [500, 600 - 112 + deep];
    world.nearest(x, y, 500);
    outline.push(world, x, y, 0, false, { x: x - aside, y: y - 1, theta: 0 });
    // The place of the front's middle that touches.
    return aside + outline.dx + 112 * Math.sin(outline.turn);
  };

  // Coulomb: friction is at most μ times the push, and never more than stops the sliding (Halliday and Resnick, eq. 6-1 and 6-2; recalled).
  // What friction turns of the robot into the wall is pushed out as well, and rubs in its turn: up to a half more.
  it.each([
    [0, 0.2, 0.3],
    [0.3, 0.2, 0.3],
    [0.5, 0.4, 0.1],
    [0.5, 0.4, -0.3],
    [1, 0.1, 5],
  ])('μ %d, push %d mm, sliding %d mm', (mu, deep, aside) => {
    const held = Math.abs(aside) - Math.abs(slides(mu, deep, aside));
    const most = Math.min(mu * deep, Math.abs(aside));
    expect(held).toBeGreaterThan(most - 0.01);
    expect(held).toBeLessThan(Math.min(1.6 * most, Math.abs(aside)) + 0.01);
    expect(Math.sign(slides(mu, deep, aside)) * Math.sign(aside)).toBeGreaterThanOrEqual(
      Math.abs(aside) <= most ? -1 : 1,
    );
  });

  it('holds a corner that comes steeply, and lets it slide when it comes flatly', () => {
    const { drive } = setup('stop').robot;
    const corner = (deg: number, wallFriction: number) => {
      const done = run('drive 30 %\nwait 2 s\nstop', room({ walls: [wall(-500, 620, 1500, 620)] }), [], {
        robot: { drive: { ...drive, wallFriction } },
        circumstances: { start: { ...at(500, 400), bearingDeg: deg } },
        timeLimitMs: 2200,
      });
      const [x, y, bearing] = ['x', 'y', 'bearing'].map((name) => of(done, name));
      // The left corner of the front comes first where the robot looks to the right.
      const ofCorner = (i: number) => {
        const b = (bearing![i]! * Math.PI) / 180;
        return {
          x: x![i]! + 112 * Math.sin(b) - 75 * Math.cos(b),
          y: y![i]! + 112 * Math.cos(b) + 75 * Math.sin(b),
        };
      };
      const first = x!.findIndex((_, i) => ofCorner(i).y > 619.5);
      expect(first).toBeGreaterThan(0);
      return ofCorner(first + 30).x - ofCorner(first).x;
    };
    expect(Math.abs(corner(12, 0.6))).toBeLessThan(3);
    expect(corner(60, 0.1)).toBeGreaterThan(20);
    expect(corner(60, 0.1)).toBeLessThan(corner(60, 0));
  });
});

describe('a corner that swings round', () => {
  // The circle round the outline is 121 mm wide; the end of the wall stands inside it before anything is touched.
  it.each([
    ['in its front half', 112],
    ['in its middle', 95],
  ])('feels the end of a wall at once, the axle %s', (_, axleFromFrontMm) => {
    const course = room({ walls: [wall(415, 512, 200, 512)] });
    const done = run('wheels -8 % and 8 % for 1 s\nstop', course, [], {
      robot: { axleFromFrontMm },
      circumstances: { start: { ...at(500, 442 - (axleFromFrontMm - 95)), bearingDeg: 0 } },
    });
    const [x, y, bearing] = ['x', 'y', 'bearing'].map((name) => of(done, name));
    const deepest = x!.map((_, i) => {
      const b = (bearing![i]! * Math.PI) / 180;
      const [dx, dy] = [415 - x![i]!, 512 - y![i]!];
      const [f, g] = [dx * Math.sin(b) + dy * Math.cos(b), dx * Math.cos(b) - dy * Math.sin(b)];
      return Math.min(axleFromFrontMm - f, f + 190 - axleFromFrontMm, 75 - Math.abs(g));
    });
    expect(Math.max(...deepest)).toBeLessThan(0.35);
    expect(Math.max(...of(done, 'touching'))).toBe(1);
  });
});

describe('a post that begins under the edge of the robot', () => {
  it.each([
    ['at its left edge', 425, 0.5],
    ['just within it', 426, 3],
    ['at its front', 480, 0.5, 512],
  ])('%s: the robot gives way beside it, and stands nowhere else', (_, x, width, y = 326) => {
    const done = run(
      'wait 0.5 s',
      room({ rim: 'wall', boxes: [box(x, y, { widthMm: width, depthMm: width, round: true })] }),
    );
    expect(Math.hypot(last(done, 'x') - 500, last(done, 'y') - 400)).toBeLessThan(5);
    expect(Math.abs(last(done, 'bearing'))).toBeLessThan(3);
  });
});

describe('whatever stands and moves', () => {
  const place = fc.integer({ min: 50, max: 950 });
  const thing = (moves: fc.Arbitrary<boolean>) =>
    fc.record({
      x: place,
      y: fc.integer({ min: 50, max: 1450 }),
      wide: fc.integer({ min: 1, max: 400 }),
      deep: fc.integer({ min: 1, max: 400 }),
      turned: fc.integer({ min: -180, max: 180 }),
      round: fc.boolean(),
      moves,
      light: fc.boolean(),
      toX: place,
      fast: fc.integer({ min: 1, max: 400 }),
    });
  const drawn = (moves: fc.Arbitrary<boolean>) =>
    fc.tuple(
      fc.array(thing(moves), { maxLength: 4 }),
      fc.array(fc.tuple(place, place, place, place), { maxLength: 3 }),
      fc.tuple(fc.integer({ min: -100, max: 100 }), fc.integer({ min: -100, max: 100 })),
      fc.integer(),
      fc.constantFrom(0, 0.3, 1),
      fc.constantFrom(undefined, 1000, 4000),
    );
  type Drawn = ReturnType<typeof drawn> extends fc.Arbitrary<infer T> ? T : never;
  const courseOf = ([things, walls]: Drawn): Course =>
    room({
      rim: 'wall',
      walls: walls.map(([a, b, c, d]) => wall(a, b, c, d)),
      boxes: things.map((t, i) => ({
        ...box(t.x, t.y, { widthMm: t.wide, depthMm: t.deep, round: t.round }),
        id: `b${i}`,
        turnDeg: t.turned,
        ...(t.light && !t.moves ? { light: true } : {}),
        ...(t.moves ? { moves: { to: at(t.toX, t.y), speedMmPerS: t.fast, fromS: 0.3 } } : {}),
      })),
    });
  const posesOf = (course: Course, [, , [left, right], seed, wallFriction, limit]: Drawn) => {
    const { drive } = setup('stop').robot;
    const done = run(
      `wheels ${left} % and ${right} % for 2 s\nstop`,
      course,
      [bumper(), sounder({ samplePeriodMs: 33.3 })],
      {
        timeLimitMs: 2500,
        circumstances: { seed },
        robot: { drive: { ...drive, wallFriction, ...(limit ? { accelLimitMmPerS2: limit } : {}) } },
      },
    );
    const [x, y, bearing] = ['x', 'y', 'bearing'].map((name) => of(done, name));
    return x!.map((_, i) => ({
      x: x![i]!,
      y: y![i]!,
      theta: (bearing![i]! * Math.PI) / 180,
      boxes: (box: number) => boxAt(done, `b${box}`, i),
    }));
  };

  it('no run has a number that is none', () => {
    fc.assert(
      fc.property(drawn(fc.boolean()), (all) =>
        posesOf(courseOf(all), all).every(({ x, y, theta, boxes }) => {
          const places = [0, 1, 2, 3].flatMap((i) => Object.values(boxes(i) ?? {}));
          return [x, y, theta, ...places].every(Number.isFinite);
        }),
      ),
      { numRuns: RUNS },
    );
  });

  it('nothing jumps farther than it could go, and no robot stands a millimetre deep in what stands fast', () => {
    fc.assert(
      fc.property(drawn(fc.constant(false)), (all) => {
        const course = courseOf(all);
        const inside = (pose: { x: number; y: number; theta: number; boxes?: Pushed }) =>
          solidsAt(course, 0, pose.boxes).some(({ box: index, sides, round }) => {
            if (sides.some(([a, b]) => goesThrough(pose, a, b))) return true;
            // Its sides run anticlockwise: what is to the left of all of them is inside.
            const middle = { x: pose.x + 17 * Math.sin(pose.theta), y: pose.y + 17 * Math.cos(pose.theta) };
            const left = ([a, b]: (typeof sides)[number]) =>
              (b.xMm - a.xMm) * (middle.y - a.yMm) - (b.yMm - a.yMm) * (middle.x - a.xMm) > 0;
            if (index >= 0 && sides.length === 4 && sides.every(left)) return true;
            if (!round) return false;
            const [s, c] = [Math.sin(pose.theta), Math.cos(pose.theta)];
            const [dx, dy] = [round.centre.xMm - pose.x, round.centre.yMm - pose.y];
            const [f, g] = [dx * s + dy * c, dx * c - dy * s];
            const [nf, ng] = [Math.max(-78, Math.min(112, f)), Math.max(-75, Math.min(75, g))];
            return Math.hypot(f - nf, g - ng) < round.radiusMm - 1;
          });
        // A robot that is put into something has nowhere to be.
        fc.pre(!inside({ x: 500, y: 400, theta: 0 }));
        const poses = posesOf(course, all);
        poses.forEach((pose, i) => {
          expect([i, inside(pose)]).toEqual([i, false]);
          const before = poses[Math.max(0, i - 1)]!;
          // 534 mm/s for 20 ms, and a little for being pushed round a corner.
          expect(Math.hypot(pose.x - before.x, pose.y - before.y)).toBeLessThan(14);
        });
      }),
      { numRuns: RUNS },
    );
  });
});
