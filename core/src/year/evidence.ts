import {
  pairOfRecord,
  sensorsOf,
  recordAt,
  trialVerdict,
  wantedIn,
  type TeamInLesson,
  type TeamRecord,
} from '../classroom/index.ts';
import type { ExpectationKind, Proof } from '../expect/index.ts';
import {
  goalsOf,
  lessonAt,
  measuresOf,
  stepsOf,
  variantOf,
  type Lesson,
  type StepKind,
} from '../lesson/index.ts';
import { countOf } from '../quantity/index.ts';
import {
  canRun,
  expressionsOf,
  parseScript,
  parts,
  walkProgram,
  type Program,
  type Step,
} from '../script/index.ts';
import { summaryOf } from '../sensing/index.ts';
import { judgeThreshold, MISREADS_POOR } from '../threshold/index.ts';
import { mannersOf, walkOf, type Trial } from '../tuning/index.ts';
import { skills, type Skill } from './skills.ts';

/**
 * How much one thing says. *tried*: was not shown by it. *once*: seen. *firm*: many runs, or twice over. *unkind*: in changing
 * conditions and on the floor.
 */
export type Weight = 'tried' | 'once' | 'firm' | 'unkind';

/** One thing that a team did, and what it says of a skill. */
export interface SkillEvidence {
  skill: string;
  weight: Weight;
  at: number;
  /** What it was, in one line. */
  says: string;
  lesson: { slug: string; title: string };
  /** The first hour of the work; null where the class has had none on the lesson. */
  hour: number | null;
}

/** A team's work in one lesson, with its walk where it has one, and its predictions. */
export interface Work extends TeamInLesson {
  walk: readonly Trial[];
  /** What was said before a try, and what it came to, in mm or counts; nothing where nothing was said. */
  predictions: readonly { said: number; came: number; at: number }[];
}

type Found = Omit<SkillEvidence, 'lesson' | 'hour'>;

/** Fewer looks at a surface say little. */
const LOOKS = 5;
const WORDS = 8;
/** On the floor so many kept trials, and none broken since, are more than luck (common practice: three). */
const FLOOR_KEPT = 3;

const percent = ({ passes, runs }: Proof): string => `${passes} of ${runs} runs`;

/** Everything read in every read step of the lesson, and whether before the first run. */
function readsFirst({ record, tries, proof, script }: Work): Found[] {
  const reads = stepsOf(record.lesson).filter(({ kind }) => kind === 'read');
  const asked = reads.flatMap((step) => {
    const at = recordAt(record, step);
    return at.lesson.read.tasks.map(({ surface }) => at.sets.find((set) => set.surface === surface) ?? null);
  });
  if (asked.length === 0) return [];
  const done = asked.filter((set) => set !== null && summaryOf(set).n >= LOOKS);
  const ats = asked.flatMap((set) => set?.at ?? []);
  const firstRun = Math.min(...tries.map(({ at }) => at), proof?.at ?? Infinity);
  const last = ats.length > 0 ? Math.max(...ats) : null;
  if (last === null)
    return script || Number.isFinite(firstRun)
      ? [
          {
            skill: 'reads-first',
            weight: 'tried',
            at: script?.at ?? firstRun,
            says: 'wrote a script and read no surface',
          },
        ]
      : [];
  if (done.length < asked.length)
    return [
      {
        skill: 'reads-first',
        weight: 'tried',
        at: last,
        says: `read ${done.length} of ${asked.length} surfaces`,
      },
    ];
  const before = last <= firstRun;
  return [
    {
      skill: 'reads-first',
      weight: before ? 'once' : 'tried',
      at: last,
      says: before
        ? `read ${countOf(asked.length, 'surface')} before the first run`
        : `read ${countOf(asked.length, 'surface')}, after the first run`,
    },
  ];
}

function decides(work: Work): Found[] {
  const { record } = work;
  return sensorsOf(record).flatMap(([socket, { threshold }]): Found[] => {
    if (!threshold || threshold.compare === 'change') return [];
    const step = stepsOf(record.lesson).find(
      (one) => one.kind === 'read' && recordAt(record, one).lesson.need.socket === socket,
    );
    const at: TeamRecord = step ? recordAt(record, step) : record;
    const pair = pairOfRecord(at);
    if (!pair) return [];
    const { misreadsLow, misreadsHigh } = judgeThreshold(threshold.value, pair, wantedIn(at, pair));
    const worse = Math.max(misreadsLow, misreadsHigh);
    const says = `threshold ${threshold.value} between ${pair.low.name} and ${pair.high.name}: ${worse < 0.1 ? 'under 0.1' : worse.toFixed(1)} of 1000 looks misread`;
    return [{ skill: 'decides', weight: worse < MISREADS_POOR ? 'once' : 'tried', at: threshold.at, says }];
  });
}

/** Steps of a script of some kind, blocks and own steps included. */
function some(program: Program, is: (step: Step) => boolean): boolean {
  let found = false;
  walkProgram(program, (step) => {
    if (is(step)) found = true;
  });
  return found;
}

const senses = (step: Step): boolean =>
  expressionsOf(step).some((expr) => parts(expr).some(({ kind }) => kind === 'sensor' || kind === 'is'));

const hasHeading = (program: Program): boolean =>
  some(program, (step) =>
    expressionsOf(step).some((expr) =>
      parts(expr).some((part) => part.kind === 'sensor' && program.sensors[part.index]?.kind === 'heading'),
    ),
  );

/** A comparison of two readings, or of a reading with one that was kept. */
const comparesTwo = (program: Program): boolean =>
  some(
    program,
    (step) =>
      step.kind === 'if' &&
      expressionsOf(step).some((expr) =>
        parts(expr).some(
          (part) =>
            part.kind === 'compare' &&
            [part.left, part.right].every((side) =>
              parts(side).some(({ kind }) => kind === 'sensor' || kind === 'value' || kind === 'item'),
            ),
        ),
      ),
  );

/** The most rules that stand in one loop: arms of decisions, what is done otherwise among them. */
function rulesInLoop(program: Program): number {
  let most = 0;
  walkProgram(program, (step) => {
    if (step.kind !== 'repeat') return;
    const rules = step.body.reduce((sum, inner) => sum + (inner.kind === 'if' ? inner.arms.length : 0), 0);
    most = Math.max(most, rules);
  });
  return most;
}

/** What a proved script shows, by what the lesson asks for and what the script does. */
const programSkills: readonly {
  skill: string;
  /** Kinds of sentences of which the lesson must have one; none: any lesson. */
  asks: readonly ExpectationKind[];
  does: (program: Program) => boolean;
}[] = [
  { skill: 'stops', asks: ['stops past', 'ends with gap', 'does not roll on'], does: () => true },
  {
    skill: 'loops',
    asks: [],
    does: (program) =>
      some(program, (step) => step.kind === 'repeat' || (step.kind === 'waitUntil' && senses(step))),
  },
  { skill: 'counts', asks: ['counts'], does: () => true },
  { skill: 'follows', asks: ['stays on track'], does: () => true },
  { skill: 'turns', asks: ['net turn', 'holds bearing'], does: hasHeading },
  { skill: 'compares', asks: ['visits', 'ends in'], does: comparesTwo },
  { skill: 'orders', asks: [], does: (program) => rulesInLoop(program) >= 3 },
];

/** What a proof of the script as it is says, where it is *proved*: more where the floor agreed. */
function provedBy({ script, proof, trials }: Work): Pick<Found, 'weight' | 'at' | 'says'> | null {
  const current = currentProof(script, proof);
  if (current?.proof.verdict !== 'proved') return null;
  const last = trials.slice(-FLOOR_KEPT).map(trialVerdict);
  const onFloor = last.length === FLOOR_KEPT && last.every((verdict) => verdict === 'kept');
  return onFloor
    ? {
        weight: 'unkind',
        at: Math.max(current.at, trials.at(-1)!.at),
        says: `proved, ${percent(current.proof)}, and kept ${FLOOR_KEPT} times on the floor`,
      }
    : { weight: 'firm', at: current.at, says: `proved: ${percent(current.proof)} in changing conditions` };
}

/** The proof of a script as it is; null where that was changed since. */
const currentProof = (script: Work['script'], proof: Work['proof']): Work['proof'] =>
  script && proof && proof.scriptVersion >= script.sameSince ? proof : null;

/** What the script, its tries, its proof and its floor trials show. */
function programmed(work: Work): Found[] {
  const { record, script, proof, tries } = work;
  if (!script) return [];
  const program = parseScript(script.text);
  const runs = canRun(program);
  const asks = new Set(record.lesson.expectations.map(({ kind }) => kind));
  const proved = provedBy(work);
  const current = currentProof(script, proof);
  const anyTry = tries[0];
  return programSkills.flatMap(({ skill, asks: wanted, does }): Found[] => {
    if (wanted.length > 0 && !wanted.some((kind) => asks.has(kind))) return [];
    // A lesson that asks for it was tried as soon as something ran; one that does not says nothing until it is done.
    const done = runs && does(program);
    if (!done)
      return wanted.length > 0 && (proof || anyTry)
        ? [{ skill, weight: 'tried', at: (proof ?? anyTry)!.at, says: 'a script that does not do it yet' }]
        : [];
    if (proved) return [{ skill, ...proved }];
    if (current)
      return [
        {
          skill,
          weight: 'tried',
          at: current.at,
          says: `${current.proof.verdict}: ${percent(current.proof)}`,
        },
      ];
    const kept = tries.find(
      ({ judgements, scriptVersion }) =>
        scriptVersion >= script.sameSince &&
        judgements.length > 0 &&
        judgements.every(({ verdict }) => verdict === 'holds'),
    );
    if (kept) return [{ skill, weight: 'once', at: kept.at, says: 'one run kept everything; not proved' }];
    return anyTry ? [{ skill, weight: 'tried', at: anyTry.at, says: 'ran, and broke a sentence' }] : [];
  });
}

/** A prediction came true within a tenth, or within two of what was measured. */
export const cameTrue = ({ said, came }: { said: number; came: number }): boolean =>
  Math.abs(said - came) <= Math.max(2, 0.1 * Math.abs(came));

function predicts({ predictions }: Work): Found[] {
  if (predictions.length === 0) return [];
  const right = predictions.filter(cameTrue);
  const last = right.at(-1) ?? predictions.at(-1)!;
  return [
    {
      skill: 'predicts',
      weight: right.length >= 3 ? 'firm' : right.length > 0 ? 'once' : 'tried',
      at: last.at,
      says: `${right.length} of ${countOf(predictions.length, 'prediction')} came true`,
    },
  ];
}

function tunes({ walk: trials, record }: Work): Found[] {
  const tried = trials.filter(({ source }) => source !== 'proof');
  if (tried.length < 4) return [];
  const goals = goalsOf(record.lesson);
  const walk = walkOf(tried, goals);
  const moves = walk.filter(({ changes }) => changes.length > 0);
  if (moves.length < 2) return [];
  const kinds = new Set(mannersOf(walk, goals, null).map(({ kind }) => kind));
  const both = moves.filter(({ changes }) => changes.length > 1).length;
  const arrived = !kinds.has('stopped early');
  const driven = tried.filter(({ source }) => source === 'floor').length;
  const at = tried.at(-1)!.at;
  const says = `${countOf(tried.length, 'trial')}, ${driven} of them on the floor; ${both === 0 ? 'one thing at a time' : `two at once ${both} times`}${arrived ? '' : ', not there yet'}`;
  if (!arrived || both > 0) return [{ skill: 'tunes', weight: 'tried', at, says }];
  return [{ skill: 'tunes', weight: driven >= FLOOR_KEPT ? 'unkind' : 'once', at, says }];
}

function explains({ record, notes, trials, tries, script }: Work): Found[] {
  const asked = stepsOf(record.lesson).filter(({ kind }) => kind === 'reflect');
  const written = asked.flatMap(({ id }) => {
    const text = notes[id]?.text.trim() ?? '';
    return text === '' ? [] : [text];
  });
  if (written.length === 0) return [];
  const words = Math.max(...written.map((text) => text.split(/\s+/).length));
  // Notes have no time of their own: they were written when the team last did something.
  const at = Math.max(0, ...trials.map((one) => one.at), ...tries.map((one) => one.at), script?.at ?? 0);
  return [
    {
      skill: 'explains',
      weight: words >= WORDS ? 'once' : 'tried',
      at,
      says:
        words >= WORDS
          ? `wrote ${words} words: “${written.join(' ').slice(0, 90)}”`
          : `wrote only ${countOf(words, 'word')}`,
    },
  ];
}

/** What a proof, or a run, in one of the lessons that a teacher named for a skill says of it. */
function named(own: readonly Skill[], work: Work): Found[] {
  const { record, script, proof, tries } = work;
  const lastAt = Math.max(0, proof?.at ?? 0, ...tries.map((one) => one.at));
  if (!script || lastAt === 0) return [];
  const found = provedBy(work) ?? { weight: 'tried' as const, at: lastAt, says: 'ran, not proved' };
  return own
    .filter(({ lessons }) => lessons?.includes(record.lesson.slug))
    .map(({ id: skill }) => ({ skill, ...found }));
}

/** Everything that a team's work in one lesson says of its skills, those that teachers added (`own`) too; nothing for one that was not tried. */
export function evidenceOf(work: Work, own: readonly Skill[] = []): SkillEvidence[] {
  const { slug, title } = work.record.lesson;
  const hour = work.hour?.id ?? null;
  return [
    ...readsFirst(work),
    ...decides(work),
    ...programmed(work),
    ...predicts(work),
    ...tunes(work),
    ...explains(work),
    ...named(own, work),
  ].map((found) => ({ ...found, lesson: { slug, title }, hour }));
}

/**
 * The skills that a lesson lets a team show, by what it asks for and what its model answer does: reading and deciding where it has such
 * steps, and so on. In the order of `skills`.
 */
export function skillsAsked(written: Lesson): string[] {
  // As it is when no twist is drawn: a script with the names of parameters in it cannot be read.
  const lesson = variantOf(written);
  const steps = stepsOf(lesson);
  const has = (kind: StepKind) => steps.some((step) => step.kind === kind);
  const reads = steps.some((step) => step.kind === 'read' && lessonAt(lesson, step).read.tasks.length > 0);
  const program = parseScript(lesson.modelScript);
  const kinds = new Set(lesson.expectations.map(({ kind }) => kind));
  const asked = new Set([
    ...(reads ? ['reads-first'] : []),
    ...(reads && has('decide') ? ['decides'] : []),
    ...programSkills
      .filter(
        ({ asks, does }) => (asks.length === 0 || asks.some((kind) => kinds.has(kind))) && does(program),
      )
      .map(({ skill }) => skill),
    ...(has('predict') && measuresOf(lesson).length > 0 ? ['predicts'] : []),
    ...(goalsOf(lesson).length > 0 && has('floor') ? ['tunes'] : []),
    ...(has('reflect') ? ['explains'] : []),
  ]);
  return skills.filter(({ id }) => asked.has(id)).map(({ id }) => id);
}
