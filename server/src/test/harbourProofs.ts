// Judges every lesson's model answer and typical faults in a process of its own (a test's sandbox is ten times slower).
import {
  lessonAims,
  proposeLesson,
  prove,
  strengthOf,
  strengthReports,
  type KnownRobot,
  type Lesson,
} from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { cobbleBuild } from '../starter/build.ts';
import { skiffBuild } from '../starter/skiff.ts';
import { usualLessons } from '../starter/lessons/index.ts';
import { shippedKits } from '../starter/starter.ts';
import { lessonRobot } from './lessonRobot.ts';

/** What became of one lesson. */
export interface LessonProofs {
  slug: string;
  model: { verdict: string; passes: number; runs: number };
  faults: { name: string; verdict: string }[];
  strength: { share: number; missed: string[] };
}

const RUNS = 22;

/** A few runs of which none passes tell as much as many. */
const FIRST = 8;

/** What becomes of a script that should fail: after the first runs where none of them passes, else after all. */
function verdictOnFault(lesson: Lesson, known: KnownRobot, script: string): string {
  const program = parseScript(script);
  if (!canRun(program)) return 'cannot run';
  const first = prove(lesson, known, program, lesson.proof.seed, FIRST).proof;
  if (first.passes === 0 && first.verdict === 'fails') return first.verdict;
  return prove(lesson, known, program, lesson.proof.seed, RUNS).proof.verdict;
}

const proofs = usualLessons.map((lesson): LessonProofs => {
  const known = lessonRobot(lesson);
  const { runs, seed } = lesson.proof;
  const { proof } = prove(lesson, known, parseScript(lesson.modelScript), seed, runs);
  const faults = lesson.faults!.map(({ name, script }) => ({
    name,
    verdict: verdictOnFault(lesson, known, script),
  }));
  // Fewer runs than a teacher's: enough to see that a fault is caught, and quick.
  const quick = { ...lesson, proof: { ...lesson.proof, runs: 22 } };
  const strength = strengthOf(
    lesson,
    [...strengthReports(quick, known)].map(({ report }) => report),
  );
  const missed = strength.reports
    .filter(({ outcome }) => outcome === 'missed')
    .map(({ fault }) => fault.name);
  return {
    slug: lesson.slug,
    model: { verdict: proof.verdict, passes: proof.passes, runs },
    faults,
    strength: { share: strength.share ?? 0, missed },
  };
});
/** What became of one proposal for one kit, on a robot as it comes out of the box; null where the kit cannot. */
export interface ProposalProof {
  kit: string;
  aim: string;
  verdict: string | null;
  /** Typical faults that are not caught. */
  uncaught: string[];
}

const proposals = shippedKits.flatMap((kit) =>
  lessonAims.map((aim): ProposalProof => {
    const proposed = proposeLesson(aim, kit, kit.slug === 'cobble' ? cobbleBuild : skiffBuild);
    if (!proposed.ok) return { kit: kit.slug, aim: aim.id, verdict: null, uncaught: [] };
    const lesson = proposed.value;
    const known = lessonRobot(lesson);
    return {
      kit: kit.slug,
      aim: aim.id,
      verdict: prove(lesson, known, parseScript(lesson.modelScript), lesson.proof.seed, lesson.proof.runs)
        .proof.verdict,
      uncaught: lesson
        .faults!.filter(({ script }) => verdictOnFault(lesson, known, script) !== 'fails')
        .map(({ name }) => name),
    };
  }),
);
process.stdout.write(JSON.stringify({ proofs, proposals }));
