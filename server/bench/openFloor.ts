// Open floor and light sensors: the kernel against the plain stepper and against bare kinematics.
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { median } from 'simple-statistics';
import type { Course } from '@vigilum/core/course';
import { canRun, parseScript } from '@vigilum/core/script';
import { nominalLight, simulate, type RunSetup } from '@vigilum/core/sim';
import { cobbleBuild } from '../src/starter/build.ts';
import { cobble } from '../src/starter/cobble.ts';
import { tideLine } from '../src/starter/tideLine.ts';

/** A bend of about 3 m for line following: half a circle of 95 cm radius. */
export const curve: Course = {
  name: 'curve',
  widthMm: 2200,
  heightMm: 1300,
  base: { name: 'floor', reflectance: 0.76 },
  marks: [
    {
      kind: 'path',
      surface: { name: 'line', reflectance: 0.15 },
      widthMm: 30,
      points: Array.from({ length: 61 }, (_, i) => ({
        xMm: 1100 - 950 * Math.cos((Math.PI * i) / 60),
        yMm: 150 + 950 * Math.sin((Math.PI * i) / 60),
      })),
    },
  ],
  starts: [{ name: 'A', xMm: 165, yMm: 70, bearingDeg: 0 }],
  landmarks: [],
};

function setup(text: string, course: Course, timeLimitMs: number): RunSetup {
  const program = parseScript(`sensor floor is light on K3\n${text}`);
  if (!canRun(program)) throw new Error(program.findings[0]?.says);
  return {
    program,
    course,
    thresholds: { K3: 46 },
    timeLimitMs,
    robot: {
      ...cobbleBuild,
      drive: cobble.drive,
      stepTimeMs: cobble.stepTimeMs,
      atProgramEnd: cobble.atProgramEnd,
      sensors: [
        {
          kind: 'light',
          socket: 'K3',
          unit: '%',
          aheadMm: 80,
          rightMm: 0,
          heightMm: 12,
          facingDeg: null,
          samplePeriodMs: 20,
          min: 0,
          max: 100,
          step: 1,
          model: nominalLight(12),
        },
      ],
    },
    circumstances: { start: course.starts[0]!, lightShift: 0, mismatch: 0.004, seed: 1 },
  };
}

/** A program that follows a line for 20 s. */
export const follow =
  'repeat for 20 s\nif floor < threshold\nwheels 38 % and 22 %\nelse\nwheels 22 % and 38 %\nend\nend\nstop';
export const scenes: [name: string, given: RunSetup, wanted: number][] = [
  ['stop on the line', setup('drive 30 %\nwait until floor < threshold\nstop', tideLine.course, 15_000), 20],
  ['line following, 3 m curve', setup(follow, curve, 21_000), 100],
];
/** Lag and arc alone, the least any simulator of this robot must compute. */
export function bareKinematics(simulatedMs: number): number {
  let [x, y, theta, vLeft, vRight] = [0, 0, 0, 0, 0];
  const fade = Math.exp(-1 / 70);
  const slide = 0.07 * (1 - fade);
  for (let t = 0; t < simulatedMs; t++) {
    const [offLeft, offRight] = [vLeft - 150, vRight - 140];
    const dLeft = 150 * 0.001 + offLeft * slide;
    const dRight = 140 * 0.001 + offRight * slide;
    vLeft = 150 + offLeft * fade;
    vRight = 140 + offRight * fade;
    const half = (dLeft - dRight) / 240;
    const h2 = half * half;
    const chord = ((dLeft + dRight) / 2) * (1 - (h2 / 6) * (1 - h2 / 20));
    x += chord * Math.sin(theta + half);
    y += chord * Math.cos(theta + half);
    theta += 2 * half;
  }
  return x + y;
}

/** What one fresh thread found of a scene: how many times as fast as the plain stepper, and what share of it bare kinematics takes. */
export interface Measured {
  ofPlain: number;
  ofBare: number;
  secondsPerSecond: number;
}

/**
 * How far the engine has come to translate the plain stepper decides its time, and differs from start to start: each thread runs it
 * as few times as somebody would who has no other, and the middle one of these threads is told.
 */
const THREADS = 5;

const measured = (scene: number): Promise<Measured> =>
  new Promise((resolve, reject) => {
    const program = join(process.env.VIGILUM_PROGRAMS!, 'openFloorWorker.js');
    new Worker(program, { workerData: scene }).once('message', resolve).once('error', reject);
  });

/** Rows of the bench's table. */
export async function openFloorRows(): Promise<string[][]> {
  const rows: string[][] = [];
  for (const [scene, [name, given, wanted]] of scenes.entries()) {
    const found: Measured[] = [];
    for (let k = 0; k < THREADS; k++) found.push(await measured(scene));
    const middle = (of: (one: Measured) => number) => median(found.map(of));
    const ratios = found.map(({ ofPlain }) => ofPlain);
    rows.push([
      name,
      `${middle(({ ofPlain }) => ofPlain).toFixed(0)} × plain reference (${Math.min(...ratios).toFixed(0)} to ${Math.max(...ratios).toFixed(0)} in ${THREADS} threads; wanted ${wanted})`,
      `${middle(({ ofBare }) => ofBare).toFixed(2)} of bare kinematics`,
      `${Math.round(middle(({ secondsPerSecond }) => secondsPerSecond))} s/s`,
      simulate(given).ended.how,
    ]);
  }
  return rows;
}
