// npm run bench: how fast the simulator is, as ratios of measurements made in this same run. Never a test.
import type { Course } from '@vigilum/core/course';
import { canRun, parseScript } from '@vigilum/core/script';
import { Kernel, nominalLight, simulate, type Machine, type RunSetup } from '@vigilum/core/sim';
import { referenceRun } from '../../core/src/sim/test/referenceStepper.ts';
import { cobbleBuild } from '../src/starter/build.ts';
import { cobble } from '../src/starter/cobble.ts';
import Papa from 'papaparse';
import { guessMapping, ReadingsImport, scanCsv } from '@vigilum/core/formats';
import { tideLine } from '../src/starter/tideLine.ts';
import { startSimulations } from '../src/jobs/simulations.ts';

/** A bend of about 3 m for line following: half a circle of 95 cm radius. */
const curve: Course = {
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

/** The simulator is as warm as a class's proofs make it. */
const WARM_MS = 500;

/** Seconds that `work` takes: the best of several rounds, after warming up by so many calls and for so long. */
function seconds(work: () => void, rounds = 7, warming = 3, warmingMs = 0): number {
  const until = performance.now() + warmingMs;
  for (let i = 0; i < warming || performance.now() < until; i++) work();
  let best = Infinity;
  for (let i = 0; i < rounds; i++) {
    const from = performance.now();
    work();
    best = Math.min(best, performance.now() - from);
  }
  return best / 1000;
}

/** Lag and arc alone, the least any simulator of this robot must compute. */
function bareKinematics(simulatedMs: number): number {
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

const rows: string[][] = [];
const show = (n: number, digits = 2) => n.toFixed(digits);
let sink = 0;

const follow =
  'repeat for 20 s\nif floor < threshold\nwheels 38 % and 22 %\nelse\nwheels 22 % and 38 %\nend\nend\nstop';
const scenes: [string, RunSetup, number][] = [
  ['stop on the line', setup('drive 30 %\nwait until floor < threshold\nstop', tideLine.course, 15_000), 4],
  ['line following, 3 m curve', setup(follow, curve, 21_000), 10],
];

for (const [name, given] of scenes) {
  const run = simulate(given);
  const simulatedS = run.trace.timesS.at(-1)!;
  const repeats = Math.ceil(40 / simulatedS);
  const t = (w: () => void) => {
    const f = performance.now();
    w();
    return performance.now() - f;
  };
  const plains: number[] = [],
    fasts: number[] = [],
    bares: number[] = [];
  seconds(
    () => {
      sink += simulate(given).trace.timesS.length;
    },
    1,
    3,
    WARM_MS,
  );
  for (let i = 0; i < 12; i++) {
    fasts.push(
      Math.min(
        ...[1, 2, 3].map(() =>
          t(() => {
            for (let k = 0; k < repeats; k++) sink += simulate(given).trace.timesS.length;
          }),
        ),
      ) / repeats,
    );
    plains.push(
      t(() => {
        sink += referenceRun(given).atMs;
      }),
    );
    bares.push(
      t(() => {
        sink += bareKinematics(simulatedS * 1000);
      }),
    );
  }
  console.log(name, run.ended.how, simulatedS, 'fast', fasts.map((x) => x.toFixed(3)).join(' '));
  console.log('  plain', plains.map((x) => x.toFixed(0)).join(' '));
  console.log('  bare', bares.map((x) => x.toFixed(2)).join(' '));
  console.log(
    '  ratio',
    plains.map((p, i) => (p / fasts[i]!).toFixed(0)).join(' '),
    'of mins',
    (Math.min(...plains) / Math.min(...fasts)).toFixed(0),
  );
}
