import { formatNumber, formatQuantity } from '../quantity/index.ts';
import { surfaceAt } from '../course/index.ts';
import { courseFacts, narrowestLine, type KnownRobot } from '../lesson/index.ts';
import { pointOnRobot } from '../motion/index.ts';
import { parseScript, review, type Finding, type ReviewContext } from '../script/index.ts';
import {
  fittingOn,
  preflight,
  preflightGrade,
  sensorOf,
  staleCheck,
  summarise,
  sameSocket,
  type FittedSensor,
  type SensorNeed,
  type StaleVerdict,
} from '../sensing/index.ts';
import { gradeSeparation, judgeThreshold, pairOf, separation, type Pair } from '../threshold/index.ts';
import { trialKept, type Stage, type StageName, type StageState, type TeamRecord } from './standing.ts';

const stage = (name: StageName, state: StageState, figure = '', says = '', mend = ''): Stage => ({
  stage: name,
  state,
  figure,
  says,
  mend,
});

/** The sensor on the lesson's socket, in the mode it is set to. */
function watched({ kit, build, lesson }: TeamRecord): FittedSensor | undefined {
  const fitting = fittingOn(build, lesson.need.socket);
  return fitting && sensorOf(kit, fitting);
}

/** The sensors that a team's robot must have: the lesson's own, and whatever else its script declares. */
export function needsOf({ lesson, script: saved }: TeamRecord): SensorNeed[] {
  const own = [lesson.need, ...(lesson.also ?? [])];
  const declared = saved ? parseScript(saved.text).sensors : [];
  const more = declared.filter(
    ({ socket }, i) =>
      !own.some((need) => sameSocket(socket, need.socket)) &&
      declared.findIndex((other) => sameSocket(other.socket, socket)) === i,
  );
  return [...own, ...more.map(({ name, kind, socket }) => ({ name, kind, socket }))];
}

/** The decided value that the script's word `threshold` stands for; a change is no level and gives none. */
export const thresholdsOf = ({ lesson, threshold }: TeamRecord): Record<string, number> =>
  threshold && threshold.compare !== 'change' ? { [lesson.need.socket]: threshold.value } : {};

/** A team's robot as the simulator may know it: its build, its readings, its threshold, its own braking once tried. */
export function knownRobotOf(record: TeamRecord): KnownRobot {
  const { kit, build, braking } = record;
  const { socket } = record.lesson.need;
  return {
    kit,
    build,
    sets: record.sets.map(({ surface, values }) => ({ socket, surface, values })),
    thresholds: thresholdsOf(record),
    ...(braking ? { braking } : {}),
  };
}

/** Quick looks taken after the set they test, each with its verdict. */
export function staleVerdicts(record: TeamRecord): (StaleVerdict & { surface: string; at: number })[] {
  const spec = watched(record);
  const { tasks } = record.lesson.read;
  return tasks.flatMap(({ surface }) => {
    const set = record.sets.find((s) => s.surface === surface);
    const looks = record.quickLooks.find((q) => q.surface === surface);
    if (!set || !looks || looks.at < set.at) return [];
    const other = tasks.find((task) => task.surface !== surface)?.surface;
    const verdict = staleCheck({
      surface,
      stored: set.values,
      fresh: looks.values,
      threshold: thresholdsOf(record)[record.lesson.need.socket] ?? null,
      otherMean: summarise(record.sets.find((s) => s.surface === other)?.values ?? []).mean,
      step: spec?.step ?? 1,
      unit: spec?.unit ?? '%',
    });
    return [{ ...verdict, surface, at: looks.at }];
  });
}

/** The two surfaces of a lesson as this team read them, in order; null until both are read and differ. */
export function pairOfRecord(record: TeamRecord): Pair | null {
  const { lesson } = record;
  const [a, b] = lesson.read.tasks.map((task) => record.sets.find((set) => set.surface === task.surface));
  if (!a || !b) return null;
  const spec = watched(record);
  const pair = pairOf(
    { name: a.surface, values: a.values },
    { name: b.surface, values: b.values },
    spec?.unit ?? '%',
    spec?.step ?? 1,
  );
  return pair.ok ? pair.value : null;
}

/** What the lesson's sensor reads at the start, where every start lies on one surface that the team has read. */
function startReadings(record: TeamRecord): Record<string, number> {
  const { course, need } = record.lesson;
  const fitting = fittingOn(record.build, need.socket);
  if (!fitting) return {};
  const under = course.starts.map((start) => {
    const { xMm, yMm } = pointOnRobot(start, fitting.aheadMm, fitting.rightMm);
    return surfaceAt(course, xMm, yMm).name;
  });
  const [surface] = under;
  const set = record.sets.find((s) => s.surface === surface);
  const mean = set && summarise(set.values).mean;
  return typeof mean === 'number' && under.every((name) => name === surface) ? { [need.socket]: mean } : {};
}

/** What the script review may know about a team. */
export function reviewContext(record: TeamRecord): ReviewContext {
  const pair = pairOfRecord(record);
  const { socket } = record.lesson.need;
  const known = ({ name, mean, sd }: Pair['low']) => ({ name, mean, sd });
  return {
    kit: record.kit,
    build: record.build,
    thresholds: thresholdsOf(record),
    surfaces: pair ? { [socket]: { low: known(pair.low), high: known(pair.high) } } : {},
    lineWidthMm: narrowestLine(record.lesson),
    course: { ...courseFacts(record.lesson.course), startReadings: startReadings(record) },
  };
}

/** The review of a team's newest script; empty when there is none. */
export function findingsOf(record: TeamRecord): Finding[] {
  return record.script ? review(parseScript(record.script.text), reviewContext(record)) : [];
}

function wire(record: TeamRecord): Stage {
  const checks = preflight(record.kit, record.build, record.lesson.need);
  const grade = preflightGrade(checks);
  const { socket, kind } = record.lesson.need;
  const wrong = checks.find((check) => check.grade === grade && grade !== 'ok');
  if (grade === 'fault') {
    return stage(
      'wire',
      'fault',
      wrong?.foundOn ? `${wrong.foundOn}?` : `${socket}?`,
      wrong!.says,
      wrong!.mend,
    );
  }
  const seen = record.wireCheck?.reacts === true || record.sets.length > 0;
  if (!seen) return stage('wire', 'none', '', '', 'Move a paper under the sensor and watch the number.');
  if (grade === 'risk') return stage('wire', 'risk', `${socket} ${kind}`, wrong!.says, wrong!.mend);
  return stage('wire', 'done', `${socket} ${kind}`);
}

function read(record: TeamRecord): Stage {
  if (record.lesson.read.tasks.length === 0) return stage('read', 'done', 'at the bench');
  const means = record.lesson.read.tasks.map(
    (task) => summarise(record.sets.find((set) => set.surface === task.surface)?.values ?? []).mean,
  );
  if (means.every((mean) => mean === null)) return stage('read', 'none');
  const figure = means.map((mean) => formatNumber(mean, 0)).join(' · ');
  if (means.some((mean) => mean === null)) return stage('read', 'now', figure);
  const pair = pairOfRecord(record);
  if (!pair)
    return stage(
      'read',
      'fault',
      figure,
      'Both surfaces read the same.',
      'Check the sensor’s height, then read both again.',
    );
  const stale = staleVerdicts(record).find(({ verdict }) => verdict === 'read again');
  if (stale) return stage('read', 'risk', figure, stale.says, stale.mend);
  const grade = gradeSeparation(separation(pair));
  if (grade === 'sound') return stage('read', 'done', figure);
  const gap = formatNumber(pair.high.mean - pair.low.mean, 0);
  return stage(
    'read',
    'risk',
    figure,
    `The surfaces differ by only ${gap} points and the readings scatter.`,
    'Check the sensor’s height, then read both surfaces again.',
  );
}

function decide(record: TeamRecord): Stage {
  const { threshold } = record;
  if (record.lesson.read.tasks.length === 0 && !threshold) return stage('decide', 'done', 'no threshold');
  if (!threshold) return stage('decide', 'none');
  const pair = pairOfRecord(record);
  const unit = pair?.unit ?? '%';
  const figure =
    threshold.leave === null
      ? `${threshold.compare === 'change' ? '±' : ''}${formatQuantity(threshold.value, unit)}`
      : `${formatNumber(threshold.value)} | ${formatQuantity(threshold.leave, unit)}`;
  if (!pair)
    return stage(
      'decide',
      'risk',
      figure,
      'There is no pair of readings to judge it by.',
      'Read both surfaces.',
    );
  if (threshold.compare === 'change') return decidedChange(pair, threshold.value);
  if (threshold.value <= pair.low.mean || threshold.value >= pair.high.mean) {
    return stage(
      'decide',
      'fault',
      figure,
      `${figure} does not lie between the two surfaces any more.`,
      'Choose again from the newest readings.',
    );
  }
  const safety = judgeThreshold(threshold.value, pair);
  const worst = Math.max(safety.misreadsLow, safety.misreadsHigh);
  if (worst >= 10) {
    const name = safety.misreadsLow > safety.misreadsHigh ? pair.low.name : pair.high.name;
    return stage(
      'decide',
      'risk',
      figure,
      `About ${formatNumber(worst, 0)} in 1000 looks at the ${name} are misread.`,
      'Move it away from that surface, or mend the readings.',
    );
  }
  return stage('decide', 'done', figure);
}

function decidedChange(pair: Pair, value: number): Stage {
  const gap = pair.high.mean - pair.low.mean;
  const figure = `±${formatQuantity(value, pair.unit)}`;
  return value > 0 && value < gap
    ? stage('decide', 'done', figure)
    : stage(
        'decide',
        'fault',
        figure,
        `A change of ${formatQuantity(value, pair.unit)} is never reached: the surfaces differ by ${formatNumber(gap)}.`,
        'Choose again from the newest readings.',
      );
}

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
  const figure = lastTry.pastMm === null ? '–' : formatQuantity(lastTry.pastMm, 'mm', 0);
  if (record.script && lastTry.scriptVersion !== record.script.version) {
    return stage('try', 'now', '', 'The script has changed since the last run.', 'Run it again.');
  }
  const rest = record.lesson.expectations.findIndex((e) => e.kind === 'comes to rest');
  if (lastTry.judgements[rest]?.verdict === 'broken') {
    return stage(
      'try',
      'fault',
      'no stop',
      'The last run never stopped.',
      'Watch the reading at the line: was it seen at all?',
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
  if (record.script && lastProof.scriptVersion !== record.script.version) {
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
  const good = trials.filter(trialKept).length;
  const figure = `${good} of ${trials.length}`;
  if (trials.length < lesson.floor.trials) return stage('floor', 'now', figure);
  return good === trials.length
    ? stage('floor', 'done', figure)
    : stage(
        'floor',
        'risk',
        figure,
        `${trials.length - good} of ${trials.length} floor trials missed.`,
        'Compare with the prediction and read again.',
      );
}

/** Where a team stands: all seven stages with what came out. The first open stage is marked as the one they are at. */
export function stagesOf(record: TeamRecord): Stage[] {
  const stages = [wire, read, decide, script, attempt, proved, floor].map((of) => of(record));
  const open = stages.findIndex((s) => s.state === 'none' || s.state === 'now' || s.state === 'fault');
  if (open >= 0 && stages[open]!.state === 'none') stages[open]!.state = 'now';
  return stages;
}
