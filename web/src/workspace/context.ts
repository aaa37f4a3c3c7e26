import { useOutletContext } from 'react-router';
import { bySocket, fittingOn, sensorOf, type FittedSensor, type Fitting } from '@vigilum/core/sensing';
import { type KnownRobot, type Lesson, type LessonStep } from '@vigilum/core/lesson';
import {
  knownRobotOf,
  pairOfRecord,
  recordAt,
  stagesOf,
  trialsAt,
  type Stage,
  type StoredSensor,
  type TeamInLesson,
} from '@vigilum/core/classroom';
import type { Pair } from '@vigilum/core/threshold';
import type { Reader } from '../reading/reader.ts';
import type { Workspace } from '@vigilum/contract/types';

/** What every stage works from. */
export interface StageContext
  extends Workspace, TeamInLesson, Pick<StoredSensor, 'sets' | 'threshold' | 'sweep' | 'touch'> {
  /** Where the team stands, computed here from its record. */
  stages: Stage[];
  /** The team's lesson as a whole; `record.lesson` is the lesson as the open step sees it, its sensor first. */
  lesson: Lesson;
  /** The open step; undefined where the lesson has none of that name. */
  step: LessonStep | undefined;
  /** Path of this team's lesson among the pages. */
  base: string;
  /** The team and the lesson, as requests name them. */
  path: { id: number; slug: string };
  /** The sensor on the step's socket, if it is fitted there. */
  fitted: { fitting: Fitting; spec: FittedSensor } | null;
  /** The same for the reading boards. */
  reader: Reader | null;
  pair: Pair | null;
  known: KnownRobot;
  /** The server's clock less this machine's, ms. */
  skew: number;
}

export function stageContext(
  workspace: Workspace & TeamInLesson,
  slug: string,
  receivedAt: number,
  step: LessonStep | undefined,
): StageContext {
  const { lesson } = workspace.record;
  const record = step ? recordAt(workspace.record, step) : workspace.record;
  const skew = workspace.now - receivedAt;
  const { socket } = record.lesson.need;
  const stored = bySocket(workspace.sensors, socket);
  const fitting = fittingOn(record.build, socket);
  const spec = fitting && sensorOf(record.kit, fitting);
  return {
    ...workspace,
    trials: trialsAt(workspace.trials, lesson, step),
    stages: stagesOf(workspace.record),
    sets: stored?.sets ?? [],
    threshold: stored?.threshold ?? null,
    sweep: stored?.sweep ?? null,
    touch: stored?.touch ?? null,
    record,
    lesson,
    step,
    base: `/teams/${workspace.team.id}/lessons/${slug}`,
    path: { id: workspace.team.id, slug },
    fitted: fitting && spec ? { fitting, spec } : null,
    reader:
      fitting && spec
        ? {
            robot: workspace.robot,
            build: record.build,
            fitting,
            sensor: spec,
            epoch: JSON.stringify(record.build.fittings),
            room: workspace.room,
            skew,
          }
        : null,
    pair: pairOfRecord(record),
    known: knownRobotOf(record),
    skew,
  };
}

export const useStage = (): StageContext => useOutletContext<StageContext>();
