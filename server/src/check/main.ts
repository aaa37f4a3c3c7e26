// npm run check: judges scripts without the browser. Exit status 0 all proved, 1 not all, 2 could not judge.
import { sentence, type Proof } from '@vigilum/core/expect';
import { strengthOf, strengthReports, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { canRun, parseScript } from '@vigilum/core/script';
import { availableParallelism } from 'node:os';
import { startSimulations, type Simulations } from '../jobs/simulations.ts';
import { shippedKits } from '../starter/starter.ts';
import { CannotJudge, readArguments } from './arguments.ts';
import { readLesson, readScripts, type ScriptFile } from './files.ts';

interface Judged {
  script: string;
  verdict: Proof['verdict'] | 'cannot run';
  passes: number;
  runs: number;
  low: number;
  high: number;
  worstSeed: number | null;
  /** The sentences that refuse it, the gravest first. */
  refusedBy: string[];
  says: string[];
}

function robotFor({ robot }: Lesson): KnownRobot {
  const kit = shippedKits.find(({ slug }) => slug === robot?.kit);
  if (!robot) throw new CannotJudge('The lesson names no robot to judge scripts on.');
  if (!kit) throw new CannotJudge(`The lesson’s robot is of a kit “${robot.kit}” that is not known here.`);
  return { kit, build: robot.build, sets: [], thresholds: robot.thresholds };
}

async function judgeScript(
  simulations: Simulations,
  lesson: Lesson,
  known: KnownRobot,
  { name, text }: ScriptFile,
): Promise<Judged> {
  const program = parseScript(text);
  const { runs, seed } = lesson.proof;
  if (!canRun(program)) {
    const says = program.findings.map((f) => `line ${f.line}: ${f.says} ${f.mend}`.trim());
    const empty = says.length === 0 ? ['there is no step in it'] : says;
    return {
      script: name,
      verdict: 'cannot run',
      passes: 0,
      runs: 0,
      low: 0,
      high: 1,
      worstSeed: null,
      refusedBy: [],
      says: empty,
    };
  }
  const proof = await simulations.prove({ lesson, known, text, seed, runs });
  const told = (i: number) => sentence(lesson.expectations[i]!, lesson.course);
  const says = proof.each.map(
    ({ passes, worstSays }, i) =>
      `${passes}/${proof.runs} ${told(i)}${passes < proof.runs ? `; worst: ${worstSays}` : ''}`,
  );
  const { verdict, passes, low, high, worstSeed } = proof;
  const refusedBy =
    verdict === 'proved'
      ? []
      : proof.each
          .map((one, i) => ({ kept: one.passes, says: told(i) }))
          .filter(({ kept }) => kept < proof.runs)
          .sort((a, b) => a.kept - b.kept)
          .map(({ says: why }) => why);
  return { script: name, verdict, passes, runs: proof.runs, low, high, worstSeed, refusedBy, says };
}

const percent = (share: number) => `${formatNumber(100 * share, 0)} %`;
const print = (line: string) => process.stdout.write(`${line}\n`);

function tell({ script, verdict, passes, runs, low, high, refusedBy, says }: Judged): void {
  print(
    `${script}: ${verdict}${runs > 0 ? `, ${passes} of ${runs} runs, pass rate ${percent(low)} to ${percent(high)}` : ''}`,
  );
  if (refusedBy.length > 0) print(`  refused by: ${refusedBy.join('; ')}`);
  for (const line of says) print(`  ${line}`);
}

/** Judges what was asked for and says the exit status. */
export async function check(args: string[]): Promise<number> {
  const simulations = startSimulations(availableParallelism());
  try {
    const asked = readArguments(args);
    const given = readLesson(asked.lesson);
    const proof = {
      ...given.proof,
      runs: asked.runs ?? given.proof.runs,
      seed: asked.seed ?? given.proof.seed,
    };
    const lesson = { ...given, proof };
    const known = robotFor(lesson);
    const scripts =
      asked.scripts.length > 0
        ? readScripts(asked.scripts)
        : [{ name: 'model answer', text: lesson.modelScript }];
    const judged: Judged[] = [];
    // All are judged side by side, on every processor, and told in their order.
    for (const judging of scripts.map((script) => judgeScript(simulations, lesson, known, script))) {
      const one = await judging;
      judged.push(one);
      if (!asked.json) tell(one);
    }
    let strength = null;
    if (asked.strength) {
      strength = strengthOf(
        lesson,
        [...strengthReports(lesson, known)].map(({ report }) => report),
      );
      if (!asked.json) {
        print(
          `strength: ${strength.caught} of ${strength.caught + strength.missed} faults caught, ${strength.equivalent} alike`,
        );
        for (const { fault, outcome } of strength.reports)
          if (outcome === 'missed') print(`  missed: line ${fault.line}, ${fault.name}`);
      }
    }
    if (asked.json)
      print(
        JSON.stringify(
          { lesson: lesson.slug, runs: proof.runs, seed: proof.seed, scripts: judged, strength },
          null,
          2,
        ),
      );
    if (judged.some(({ verdict }) => verdict === 'cannot tell' || verdict === 'cannot run')) return 2;
    return judged.every(({ verdict }) => verdict === 'proved') ? 0 : 1;
  } catch (error) {
    if (!(error instanceof CannotJudge)) throw error;
    process.stderr.write(`${error.message}\n`);
    return 2;
  } finally {
    await simulations.close();
  }
}
