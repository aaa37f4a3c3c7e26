import type { Router } from 'express';
import { formatNumber } from '@vigilum/core/quantity';
import type { NewThreshold } from '@vigilum/contract/types';
import type { Reading, Summary } from '@vigilum/core/sensing';
import { compareOf, pairOf, type Pair } from '@vigilum/core/threshold';
import { robotAndTeams, robotId } from '../classes/lookup.ts';
import { workOfRobot } from '../classes/works.ts';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';

const readSet = (row: { surface: string; readings: Reading[]; figures: Summary | null }) => ({
  name: row.surface,
  values: row.readings,
  ...(row.figures ? { of: row.figures } : {}),
});

/** The two sets a threshold rests on, in order; a 422 when one is gone or they cannot be told apart. */
async function pairFrom(
  db: Queries,
  robot: number,
  { socket, setIds }: NewThreshold,
): Promise<{ pair: Pair; lowId: number; highId: number }> {
  const sets = await db.query<{ id: number; surface: string; readings: Reading[]; figures: Summary | null }>(
    `select id, surface, coalesce(sample, readings) as readings, figures from sample_sets
      where id = any($1::int[]) and robot_id = $2 and socket = $3 and channels = 1 and removed_at is null`,
    [setIds, robot, socket],
  );
  const [a, b] = sets;
  if (!a || !b)
    throw new Problem(
      422,
      'Readings missing',
      'Nothing was saved: one of the two sets of readings is gone. Read the surface again.',
    );
  const pair = pairOf(readSet(a), readSet(b), '', 1);
  if (!pair.ok) throw new Problem(422, 'No threshold', `Nothing was saved: ${pair.says} ${pair.mend}`);
  const lowId = pair.value.low.name === a.surface ? a.id : b.id;
  return { pair: pair.value, lowId, highId: lowId === a.id ? b.id : a.id };
}

function refuseOutside({ method, value, leave }: NewThreshold, { low, high }: Pair): void {
  const gap = high.mean - low.mean;
  if (compareOf(method) === 'change') {
    if (value > 0 && value < gap) return;
    throw new Problem(
      422,
      'Never reached',
      `Nothing was saved: the surfaces differ by ${formatNumber(gap)}, so a change of ${value} is never reached.`,
      [{ field: 'value', says: 'must be less than the gap between the means' }],
    );
  }
  for (const [field, level] of [
    ['value', value],
    ['leave', leave],
  ] as const) {
    if (level === undefined || (level > low.mean && level < high.mean)) continue;
    throw new Problem(
      422,
      'Not between',
      `Nothing was saved: ${level} does not lie between the ${low.name} and the ${high.name}.`,
      [{ field, says: 'must lie between the two means' }],
    );
  }
}

/** Decided thresholds of a robot. Earlier ones are kept; the newest counts. */
export function thresholdRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('POST /robots/:id/thresholds', async ({ params, body }) => {
      const { robot, teams } = await robotAndTeams(db, params.id);
      const rests = body.method === 'stop gap' ? null : await pairFrom(db, robot, body);
      if (rests) refuseOutside(body, rests.pair);
      const at = now();
      const work = await workOfRobot(db, robot, at, { whose: body.whose });
      const row = await one<{ id: number }>(
        db,
        `insert into thresholds
         (robot_id, work_id, socket, value, method, compare, leave_value, reason, low_set_id, high_set_id, decided_at)
       values ($1, $11, $2, $3, $4, $5, $6, $7, $8, $9, $10) returning id`,
        [
          robot,
          body.socket,
          body.value,
          body.method,
          compareOf(body.method),
          body.leave ?? null,
          body.reason ?? '',
          rests?.lowId ?? null,
          rests?.highId ?? null,
          at.toISOString(),
          work,
        ],
      );
      changes.tell({ what: 'robot', robot, teams, part: 'threshold' });
      const { value, method, leave = null, reason = '' } = body;
      return {
        id: row.id,
        threshold: { id: row.id, value, method, compare: compareOf(method), leave, reason, at: at.getTime() },
      };
    });

    serve('GET /robots/:id/thresholds', async ({ params }) => {
      const robot = await robotId(db, params.id);
      const rows = await db.query<{
        socket: string;
        value: number;
        method: string;
        compare: string;
        leave_value: number | null;
        reason: string;
        decided_at: Date;
      }>(
        `select socket, value, method, compare, leave_value, reason, decided_at from thresholds
        where robot_id = $1 order by decided_at desc, id desc limit 20`,
        [robot],
      );
      return {
        thresholds: rows.map(({ leave_value, decided_at, ...row }) => ({
          ...row,
          leave: leave_value,
          at: decided_at.getTime(),
        })),
      };
    });
  });
}
