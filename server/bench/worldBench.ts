// Walls and distance sensors: the kernel against the plain stepper, and against the same body and rays in a general physics engine.
import { Box as Rectangle, Edge, Vec2, World as Physics } from 'planck';
import { buildCourse, familyOf, solidsAt, type Course } from '@vigilum/core/course';
import { simRobot } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { simulate, type RunSetup } from '@vigilum/core/sim';
import { plainWorldRun } from '../../core/src/sim/test/plainWorld.ts';
import { cobble } from '../src/starter/cobble.ts';
import { stopShort, throughTheBasin } from '../src/starter/lessons/distance.ts';

const FIRST_MS = 1;

function setupOf(lesson: typeof stopShort, course: Course, timeLimitMs: number): RunSetup {
  const known = { kit: cobble, build: lesson.robot!.build, sets: [], thresholds: lesson.robot!.thresholds };
  const program = parseScript(lesson.modelScript);
  if (!canRun(program)) throw new Error('The model answer cannot run.');
  return {
    program,
    course,
    robot: simRobot(known, lesson),
    thresholds: { K2: 180 },
    circumstances: { start: course.starts[0]!, lightShift: 0, mismatch: 0, seed: FIRST_MS },
    timeLimitMs,
  };
}

/** The same rigid body among the same walls, stepped each ms, with 29 rays a sensor at its own period. */
function physics({ robot, course, circumstances }: RunSetup, simulatedMs: number): number {
  const world = new Physics({ gravity: Vec2(0, 0) });
  const ground = world.createBody();
  for (const { sides } of solidsAt(course, 0))
    for (const [a, b] of sides)
      ground.createFixture(new Edge(Vec2(a.xMm / 1000, a.yMm / 1000), Vec2(b.xMm / 1000, b.yMm / 1000)));
  const { xMm, yMm, bearingDeg } = circumstances.start;
  const body = world.createBody({
    type: 'dynamic',
    position: Vec2(xMm / 1000, yMm / 1000),
    angle: (-bearingDeg * Math.PI) / 180,
  });
  body.createFixture(new Rectangle(robot.widthMm / 2000, robot.lengthMm / 2000), { density: 1 });
  const sensors = robot.sensors.filter(({ kind }) => kind === 'distance');
  let met = 0;
  for (let t = 0; t < simulatedMs; t++) {
    // To and fro, so that it neither rests nor leaves: what a robot among walls does.
    const way = Math.floor(t / 2000) % 2 === 0 ? 0.13 : -0.13;
    const angle = body.getAngle();
    body.setLinearVelocity(Vec2(-Math.sin(angle) * way, Math.cos(angle) * way));
    world.step(0.001);
    for (const { samplePeriodMs, facingDeg } of sensors) {
      if (t % samplePeriodMs !== 0) continue;
      const from = body.getPosition();
      for (let k = -14; k <= 14; k++) {
        const a = angle - (((facingDeg ?? 0) + k) * Math.PI) / 180;
        world.rayCast(
          from,
          Vec2(from.x - 2 * Math.sin(a), from.y + 2 * Math.cos(a)),
          (_fixture, _point, _normal, fraction) => {
            met += fraction;
            return fraction;
          },
        );
      }
    }
  }
  return met;
}

/** A maze of about thirty walls. */
const maze = buildCourse(familyOf('basin'), { turns: 4, cellMm: 420 });

/** Rows of the bench: `seconds` measures some work, as in the other rows. */
export function worldRows(
  seconds: (work: () => void, rounds?: number, warming?: number, warmingMs?: number) => number,
): string[][] {
  const scenes: [string, RunSetup, string][] = [
    ['stop before the wall', setupOf(stopShort, stopShort.course, 12_000), 'wanted 4 and 30'],
    [
      `maze of ${maze.walls!.length} walls, three distance sensors`,
      setupOf(throughTheBasin, maze, 40_000),
      'wanted 20 and 20',
    ],
  ];
  return scenes.map(([name, setup, wanted]) => {
    const run = simulate(setup);
    const ms = Math.round(1000 * run.trace.timesS.at(-1)!);
    const repeats = Math.ceil(60_000 / ms);
    let sink = 0;
    const fast = seconds(
      () => {
        for (let i = 0; i < repeats; i++) sink += simulate(setup).trace.timesS.length;
      },
      7,
      3,
      500,
    );
    const plain = seconds(() => void (sink += plainWorldRun(setup).atMs), 1, 0) * repeats;
    const engine = seconds(() => void (sink += physics(setup, ms)), 1, 0) * repeats;
    return [
      name,
      `${(plain / fast).toFixed(1)} × plain reference, ${(engine / fast).toFixed(1)} × a physics engine (${wanted})`,
      '',
      `${Math.round((ms * repeats) / 1000 / fast)} s/s`,
      Number.isFinite(sink) ? run.ended.how : '',
    ];
  });
}
