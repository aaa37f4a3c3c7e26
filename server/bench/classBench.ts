import { proofCircumstances, runSeed, runSetup } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { simulate } from '@vigilum/core/sim';
import type { Lesson } from '@vigilum/core/lesson';
import { startSimulations } from '../src/jobs/simulations.ts';
import { usualLessons } from '../src/starter/lessons/index.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

const tideLine = usualLessons.find(({ slug }) => slug === 'tide-line')!;

/** One press that proves a whole class, as the board has it: wall time, and how much was simulated in it. */
export async function classCheck(teams: number): Promise<{ tookS: number; simulatedS: number }> {
  const known = lessonRobot(tideLine);
  const { runs, seed } = tideLine.proof;
  const program = parseScript(tideLine.modelScript);
  if (!canRun(program)) throw new Error('The model answer cannot run.');
  let simulatedS = 0;
  for (let i = 0; i < runs; i++) {
    const run = simulate(runSetup(tideLine, known, program, proofCircumstances(tideLine, runSeed(seed, i))));
    simulatedS += run.trace.timesS.at(-1) ?? 0;
  }
  const pool = startSimulations(2);
  const check = () =>
    Promise.all(
      Array.from({ length: teams }, () =>
        pool.prove({ lesson: tideLine, known, text: tideLine.modelScript, seed, runs }),
      ),
    );
  await check();
  const from = performance.now();
  await check();
  const tookS = (performance.now() - from) / 1000;
  await pool.close();
  return { tookS, simulatedS: simulatedS * teams };
}

/** The first run on the shipped mat with the most marks and walls, everything worked out anew. */
export function coldStart(): string[] {
  const size = ({ course }: Lesson) => course.marks.length + (course.walls?.length ?? 0);
  const largest = usualLessons.reduce((a, b) => (size(b) > size(a) ? b : a));
  const program = parseScript(largest.modelScript);
  if (!canRun(program)) throw new Error('The model answer cannot run.');
  const setup = () => {
    const fresh = structuredClone(largest);
    return runSetup(fresh, lessonRobot(fresh), program, proofCircumstances(fresh, fresh.proof.seed));
  };
  // Warm code, a cold mat: what is kept is kept by course.
  for (let i = 0; i < 3; i++) simulate(setup());
  const cold = setup();
  const from = performance.now();
  simulate(cold);
  const between = performance.now();
  simulate(cold);
  const to = performance.now();
  return [
    `cold start of the largest mat (${largest.slug})`,
    `${((between - from) / (to - between)).toFixed(1)} × a warm run`,
    '',
    `${((between - from) / 1000).toFixed(3)} s`,
    '',
  ];
}
