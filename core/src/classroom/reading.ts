import {
  BUMPS_TO_READ,
  decideWayOf,
  readWayOf,
  sensorAt,
  stepsOf,
  tasksAt,
  truthsAt,
  type LessonStep,
} from '../lesson/index.ts';
import { convert, countOf, formatNumber } from '../quantity/index.ts';
import {
  judgeTurns,
  sensorWords,
  studyNames,
  summaryOf,
  tellTouch,
  touchEvents,
  type SensorKind,
} from '../sensing/index.ts';
import { gradeSeparation, separation } from '../threshold/index.ts';
import { meanOver, pairOfRecord, staleVerdicts, watched } from './known.ts';
import { stage, together } from './stage.ts';
import { recordAt, type Stage, type TeamRecord } from './standing.ts';

/** How near a true value must be read to count as the one that was asked for, as a share of it. */
const NEAR = 0.1;

/** Two surfaces of one scale: read, apart, and not stale. */
function twoSurfaces(record: TeamRecord): Stage {
  const means = record.lesson.read.tasks.map(({ surface }) => meanOver(record, surface));
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

/** Colours, places and the like: each read once, and named colours told apart by name. */
function severalSurfaces(record: TeamRecord, kind: SensorKind): Stage {
  const { tasks } = record.lesson.read;
  const own = tasks.flatMap(({ surface }) => record.sets.find((set) => set.surface === surface) ?? []);
  if (own.length === 0) return stage('read', 'none');
  const figure = `${own.length} of ${tasks.length}`;
  if (own.length < tasks.length) return stage('read', 'now', figure);
  const alike = kind === 'colour' ? studyNames(own, watched(record)?.colours ?? []).alike : null;
  return alike
    ? stage(
        'read',
        'risk',
        figure,
        `The ${alike.one} and the ${alike.other} are both called ${alike.name}.`,
        'Read them as rgb, or change one of the colours.',
      )
    : stage('read', 'done', figure);
}

/** Which of the asked true values were read: near enough, for nobody holds a ruler to the millimetre. */
export function readAtTruths(record: TeamRecord, truths: readonly number[]): boolean[] {
  const { unit = '' } = watched(record) ?? {};
  const inAsked = (truth: number) =>
    unit === 'mm' || unit === 'cm' || unit === 'in' ? convert(truth, unit, 'mm') : truth;
  const read = record.sets.flatMap(({ truth }) =>
    truth === null || truth === undefined ? [] : [inAsked(truth)],
  );
  return truths.map((asked) => read.some((truth) => Math.abs(truth - asked) <= NEAR * Math.abs(asked)));
}

function atTruths(record: TeamRecord, truths: readonly number[], kind: SensorKind): Stage {
  const read = readAtTruths(record, truths).filter(Boolean).length;
  if (read === 0) return stage('read', 'none');
  const figure = `${read} of ${truths.length}`;
  if (read < truths.length) return stage('read', 'now', figure);
  if (kind !== 'heading') return stage('read', 'done', figure);
  const turns = judgeTurns(
    record.sets.flatMap((set) => {
      const { mean } = summaryOf(set);
      return typeof set.truth === 'number' && mean !== null ? [{ truth: set.truth, reading: mean }] : [];
    }),
  );
  return turns.ok && !turns.value.right
    ? stage('read', 'risk', figure, turns.value.says, turns.value.mend)
    : stage('read', 'done', figure);
}

function presses(record: TeamRecord): Stage {
  const { touch } = record;
  if (!touch) return stage('read', 'none');
  const { min = 0, max = 1 } = watched(record) ?? {};
  const found = touchEvents(
    touch.values.map((value) => value !== null && value >= (min + max) / 2),
    touch.periodMs,
    { start: false },
  );
  const figure = countOf(found.bumps, 'bump');
  if (found.bumps < BUMPS_TO_READ)
    return stage(
      'read',
      'now',
      figure,
      '',
      `Press it ${countOf(BUMPS_TO_READ, 'time')} and let go each time.`,
    );
  return found.chatter > 2
    ? stage('read', 'risk', figure, tellTouch(found), 'Push the plug home and look at the contact.')
    : stage('read', 'done', figure);
}

/** How far a team is in one read step. */
export function readStageAt(whole: TeamRecord, step: LessonStep): Stage {
  const record = recordAt(whole, step);
  const { kind } = sensorAt(whole.lesson, step);
  switch (readWayOf(kind)) {
    case 'ruler':
    case 'turns':
      return atTruths(record, truthsAt(whole.lesson, step), kind);
    case 'presses':
      return presses(record);
    case 'surfaces': {
      const tasks = tasksAt(whole.lesson, step);
      if (tasks.length === 0) return stage('read', 'done', 'nothing asked');
      const levels = decideWayOf(kind) === 'two surfaces';
      return tasks.length === 2 && levels ? twoSurfaces(record) : severalSurfaces(record, kind);
    }
    case null:
      return stage('read', 'done', '', `A ${sensorWords[kind]} sensor is not read by hand.`);
  }
}

/** How far a team is with all that its lesson reads. */
export function readStage(record: TeamRecord): Stage {
  const steps = stepsOf(record.lesson).filter(({ kind }) => kind === 'read');
  return steps.length === 0
    ? stage('read', 'done', 'at the bench')
    : together(
        'read',
        steps.map((step) => readStageAt(record, step)),
      );
}
