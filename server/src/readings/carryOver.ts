import type { Router } from 'express';
import type { TeamInLesson } from '@vigilum/core/classroom';
import { needsOfLesson, stepsOf, tasksAt } from '@vigilum/core/lesson';
import { asNumber, fittingOn, sensorOf, staleCheck } from '@vigilum/core/sensing';
import type { OlderSet } from '@vigilum/contract/types';
import { teamInLesson } from '../classes/lookup.ts';
import { workFor } from '../classes/works.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { addQuickLooks, setColumns, setOf, type SetRow } from './store.ts';

/** Sets that are offered at most. */
const OFFERED = 6;

/** The surfaces that some step of a lesson reads. */
const surfacesOf = ({ lesson }: TeamInLesson): string[] => [
  ...new Set(stepsOf(lesson).flatMap((step) => tasksAt(lesson, step).map(({ surface }) => surface))),
];

/**
 * The newest set of this very robot, sensor and surface from any other work of the class, or read for nobody, for each surface that the
 * lesson reads and the team has not read in it. Never counted by itself: it is offered.
 */
export async function olderSets(
  db: Queries,
  found: TeamInLesson & { work: number | null },
): Promise<OlderSet[]> {
  const needs = needsOfLesson(found.lesson);
  const rows = await db.query<SetRow & { lesson: string | null }>(
    `select * from (
       select distinct on (socket, kind, surface) ${setColumns}, lesson
         from (select s.*, l.title as lesson from sample_sets s
                 left join works w on w.id = s.work_id left join lessons l on l.id = w.lesson_id
                where s.robot_id = $1 and s.socket = any($2::text[]) and s.surface = any($3::text[])
                  and s.removed_at is null and s.truth is null and s.work_id is distinct from $4
                  and (w.id is null or w.team_id in (select b.id from teams a join teams b on b.class_id = a.class_id where a.id = $5))) as before
        order by socket, kind, surface, taken_at desc, id desc) as newest
      order by taken_at desc limit ${2 * OFFERED}`,
    [found.robot.id, needs.map(({ socket }) => socket), surfacesOf(found), found.work, found.team.id],
  );
  return rows
    .filter(
      ({ socket, kind, surface }) =>
        needs.some((need) => need.socket === socket && need.kind === kind) &&
        !found.sensors[socket]?.sets.some((set) => set.surface === surface),
    )
    .slice(0, OFFERED)
    .map(({ lesson, ...row }) => ({ set: setOf(row), lesson }));
}

/** Taking over a reading from before, where five quick looks say that it still holds. */
export function carryOverRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('POST /teams/:id/lessons/:slug/carried', async ({ params, body }) => {
      const at = now();
      const { team, work } = await workFor(db, params, at);
      const found = await teamInLesson(db, params, at);
      const older = (await olderSets(db, found)).find(({ set }) => set.id === body.set);
      if (!older) throw notFound('such reading from before');
      const { set } = older;
      const fitting = fittingOn(found.build, set.socket);
      const spec = fitting && sensorOf(found.kit, fitting);
      const { verdict, says, mend } = staleCheck({
        surface: set.surface,
        stored: set,
        fresh: body.values.map(asNumber),
        threshold: null,
        otherMean: null,
        step: spec?.step ?? 1,
        unit: spec?.unit ?? '',
      });
      if (verdict !== 'keep')
        throw new Problem(
          409,
          'Does not hold',
          `Nothing was taken over. ${says} ${verdict === 'read again' ? `Read the ${set.surface} anew.` : mend}`,
        );
      const row = await one<SetRow>(
        db,
        `insert into sample_sets (robot_id, work_id, socket, kind, surface, readings, channels, truth, light_note, taken_at, figures, sample, carried_from)
         select robot_id, $2, socket, kind, surface, readings, channels, truth, light_note, taken_at, figures, sample, id
           from sample_sets where id = $1 returning ${setColumns}`,
        [set.id, work],
      );
      await addQuickLooks(
        db,
        found.robot.id,
        work,
        { socket: set.socket, surface: set.surface, values: body.values },
        at,
      );
      changes.tell({ what: 'robot', robot: found.robot.id, teams: [team], part: 'readings' });
      return { id: row.id, set: setOf(row) };
    });
  });
}
