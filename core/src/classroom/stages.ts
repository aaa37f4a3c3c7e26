import { formatQuantity } from '../quantity/index.ts';
import { parseScript } from '../script/index.ts';
import { decideStage, decideStageAt } from './deciding.ts';
import { findingsOf } from './known.ts';
import { readStage, readStageAt } from './reading.ts';
import { stage } from './stage.ts';
import { wireStage, wireStageAt } from './wiring.ts';
import { isOfNewest, trialVerdict, type Stage, type TeamRecord } from './standing.ts';
import { measureFacts, measuresOf, type LessonStep } from '../lesson/index.ts';

function script(record: TeamRecord): Stage {
  if (!record.script) return stage('script', 'none');
  const program = parseScript(record.script.text);
  if (program.stepCount === 0 && program.findings.length === 0) return stage('script', 'none');
  const figure = `${program.stepCount} ${program.stepCount === 1 ? 'step' : 'steps'}`;
  const worst = findingsOf(record).find((finding) => finding.grade !== 'note');
  if (!worst) return stage('script', 'done', figure);
  return stage('script', worst.grade === 'fault' ? 'fault' : 'risk', figure, worst.says, worst.mend);
}

function attempt(record: TeamRecord): Stage {
  const { lastTry } = record;
  if (!lastTry) return stage('try', 'none');
  // Where nothing is measured from a line, what came out is how much of what was expected held.
  const held = lastTry.judgements.filter(({ verdict }) => verdict === 'holds').length;
  const figure =
    lastTry.pastMm === null
      ? `${held} of ${lastTry.judgements.length}`
      : formatQuantity(lastTry.pastMm, 'mm', 0);
  if (!isOfNewest(record.script, lastTry)) {
    return stage('try', 'now', '', 'The script has changed since the last run.', 'Run it again.');
  }
  const rest = record.lesson.expectations.findIndex((e) => e.kind === 'comes to rest');
  if (lastTry.judgements[rest]?.verdict === 'broken') {
    return stage(
      'try',
      'fault',
      'no stop',
      'The last run never stopped.',
      'Watch the reading: did what the script waits for ever come?',
    );
  }
  const broken = lastTry.judgements.find((j) => j.verdict !== 'holds');
  return broken
    ? stage(
        'try',
        'fault',
        figure,
        `The last run: ${broken.says}.`,
        'Watch the run and ask: what did it do last?',
      )
    : stage('try', 'done', figure);
}

function proved(record: TeamRecord): Stage {
  const { lastProof } = record;
  if (!lastProof) return stage('prove', 'none');
  if (!isOfNewest(record.script, lastProof)) {
    return stage('prove', 'now', '', 'The script has changed since it was proved.', 'Prove it again.');
  }
  const { proof } = lastProof;
  const figure = `${proof.passes}/${proof.runs}`;
  if (proof.verdict === 'proved') return stage('prove', 'done', figure);
  const weakest = [...proof.each].sort((a, b) => a.passes - b.passes)[0];
  const says = weakest ? `Worst run: ${weakest.worstSays}.` : '';
  return stage(
    'prove',
    proof.verdict === 'fails' ? 'fault' : 'risk',
    figure,
    says,
    'Replay the worst run and change one thing.',
  );
}

function floor(record: TeamRecord): Stage {
  const { trials, lesson } = record;
  if (trials.length === 0) return stage('floor', 'none');
  const judged = trials.map(trialVerdict).filter((verdict) => verdict !== 'not judged');
  // Where no ruler, protractor or count can judge the lesson, the trials are what was asked for.
  if (judged.length === 0 && measuresOf(lesson).length === 0)
    return stage('floor', trials.length < lesson.floor.trials ? 'now' : 'done', `${trials.length} logged`);
  const good = judged.filter((verdict) => verdict === 'kept').length;
  const figure = `${good} of ${judged.length}`;
  if (judged.length < lesson.floor.trials)
    return judged.length === trials.length
      ? stage('floor', 'now', figure)
      : stage(
          'floor',
          'now',
          figure,
          `${trials.length - judged.length} of ${trials.length} floor trials measured nothing that is judged.`,
          `Measure by ${measureFacts[measuresOf(lesson)[0] ?? 'past'].tool}, and log them again.`,
        );
  return good === judged.length
    ? stage('floor', 'done', figure)
    : stage(
        'floor',
        'risk',
        figure,
        `${judged.length - good} of ${judged.length} floor trials missed.`,
        'Compare with the prediction and read again.',
      );
}

/** Where a team stands: all seven stages with what came out. The first open stage is marked as the one they are at. */
export function stagesOf(record: TeamRecord): Stage[] {
  const stages = [wireStage, readStage, decideStage, script, attempt, proved, floor].map((of) => of(record));
  const open = stages.findIndex((s) => s.state === 'none' || s.state === 'now' || s.state === 'fault');
  if (open >= 0 && stages[open]!.state === 'none') stages[open]!.state = 'now';
  return stages;
}

/** How far a team is in one step of its lesson, where a step of its kind may come more than once; null for others. */
export function stageAt(record: TeamRecord, step: LessonStep): Stage | null {
  if (step.kind === 'wire') return wireStageAt(record, step);
  if (step.kind === 'read') return readStageAt(record, step);
  return step.kind === 'decide' ? decideStageAt(record, step) : null;
}
