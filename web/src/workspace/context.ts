import { useOutletContext } from 'react-router';
import { sensorOf, type FittedSensor, type Fitting } from '@vigilum/core/sensing';
import type { KnownRobot } from '@vigilum/core/lesson';
import { knownRobotOf, pairOfRecord } from '@vigilum/core/classroom';
import type { Pair } from '@vigilum/core/threshold';
import type { Reader } from '../reading/reader.ts';
import type { Workspace } from '../data/types.ts';

/** What every stage works from. */
export interface StageContext extends Workspace {
  /** Path of this team's lesson, for requests. */
  api: string;
  /** The sensor on the lesson's socket, if it is fitted there. */
  fitted: { fitting: Fitting; spec: FittedSensor } | null;
  /** The same for the reading boards. */
  reader: Reader | null;
  pair: Pair | null;
  known: KnownRobot;
  /** The server's clock less this machine's, ms. */
  skew: number;
}

export function stageContext(workspace: Workspace, slug: string, receivedAt: number): StageContext {
  const { record } = workspace;
  const skew = workspace.now - receivedAt;
  const { socket } = record.lesson.need;
  const fitting = record.build.fittings.find((f) => f.socket === socket);
  const spec = fitting && sensorOf(record.kit, fitting);
  return {
    ...workspace,
    api: `/teams/${workspace.team.id}/lessons/${slug}`,
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
