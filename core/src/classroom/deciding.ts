import { decideWayOf, sensorAt, stepsOf, wantedGapMm, type LessonStep } from '../lesson/index.ts';
import { convert, formatNumber, formatQuantity, type Unit } from '../quantity/index.ts';
import { judgeThreshold, type Pair, MISREADS_POOR } from '../threshold/index.ts';
import { pairOfRecord, wantedIn, watched } from './known.ts';
import { stage, together } from './stage.ts';
import { recordAt, type Stage, type TeamRecord } from './standing.ts';

/** A threshold by which the robot stops short of something: more than the gap it shall leave. */
function gap({ threshold, lesson, ...record }: TeamRecord): Stage {
  if (!threshold) return stage('decide', 'none');
  const { unit = 'cm' } = watched({ ...record, lesson, threshold }) ?? {};
  const figure = formatQuantity(threshold.value, unit);
  const wanted = wantedGapMm(lesson);
  return wanted !== null && convert(threshold.value, unit as Unit, 'mm') <= wanted
    ? stage(
        'decide',
        'risk',
        figure,
        `At ${figure} it only begins to stop: the gap of ${formatQuantity(convert(wanted, 'mm', unit as Unit), unit)} is gone before it stands.`,
        'Add the way that stopping takes.',
      )
    : stage('decide', 'done', figure);
}

function betweenSurfaces(record: TeamRecord): Stage {
  const { threshold } = record;
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
  const safety = judgeThreshold(threshold.value, pair, wantedIn(record, pair));
  const worst = Math.max(safety.misreadsLow, safety.misreadsHigh);
  if (worst >= MISREADS_POOR) {
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

/** How far a team is in one decide step. */
export function decideStageAt(whole: TeamRecord, step: LessonStep): Stage {
  const record = recordAt(whole, step);
  switch (decideWayOf(sensorAt(whole.lesson, step).kind)) {
    case 'gap':
      return gap(record);
    case 'two surfaces':
      return betweenSurfaces(record);
    case null:
      return stage('decide', 'done', 'no threshold');
  }
}

/** How far a team is with every threshold that its lesson asks for. */
export function decideStage(record: TeamRecord): Stage {
  const steps = stepsOf(record.lesson).filter(({ kind }) => kind === 'decide');
  if (steps.length > 0)
    return together(
      'decide',
      steps.map((step) => decideStageAt(record, step)),
    );
  if (!record.threshold) return stage('decide', 'done', 'no threshold');
  return decideWayOf(record.lesson.need.kind) === 'gap' ? gap(record) : betweenSurfaces(record);
}
