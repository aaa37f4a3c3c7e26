import type { Router } from 'express';
import { stepsOf, type Lesson } from '@vigilum/core/lesson';
import { teamAndWrittenLesson } from '../classes/lookup.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { changedMeanwhile, SAME_SITTING } from '../kept/store.ts';
import { scopeNow } from '../http/scope.ts';

/** A step that the lesson no longer has holds nothing. */
function mustHave(lesson: Lesson, step: string): void {
  if (!stepsOf(lesson).some(({ id }) => id === step))
    throw new Problem(422, 'No such step', 'The lesson has no such step any more. Open it again.');
}

/**
 * Saves a note where it is still at the revision that it was made from, and keeps it among its earlier texts: saves
 * of one page in one sitting are one of them. One statement; no row when somebody else saved meanwhile.
 */
const SAVE_NOTE = `
  with saved as (
    insert into step_notes (team_id, lesson_id, step_id, text, at, revision)
    select $1::int, $2::int, $3, $4, $5::timestamptz, 1 where $6::int = 0
    on conflict (team_id, lesson_id, step_id) do nothing
    returning revision
  ), moved_on as (
    update step_notes set text = $4, at = $5::timestamptz, revision = revision + 1
     where team_id = $1 and lesson_id = $2 and step_id = $3 and revision = $6::int and $6::int > 0
    returning revision
  ), now_at as (select revision from saved union all select revision from moved_on),
  last as (
    select id, note, saved_by, saved_at from kept_versions where kind = 'note' and key = $7 order by revision desc, id desc limit 1
  ), together as (
    update kept_versions v set revision = n.revision, value = to_jsonb($4::text), saved_at = $5::timestamptz
      from last, now_at n
     where v.id = last.id and last.note = '' and $9 = '' and last.saved_by = $8 and last.saved_at > $5::timestamptz - interval '${SAME_SITTING}'
    returning v.id
  ), kept as (
    insert into kept_versions (kind, key, revision, value, note, saved_by, saved_at)
    select 'note', $7, n.revision, to_jsonb($4::text), $9, $8, $5::timestamptz from now_at n
     where not exists (select 1 from together)
  )
  select revision from now_at`;

export const noteKey = (team: number, lesson: string, step: string): string => `${team}/${lesson}/${step}`;

/** Where a team is in its lesson, so that it comes back where it left; and what it wrote down on the way. */
export function placeRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('PUT /teams/:id/lessons/:slug/place', async ({ params, body: { step } }) => {
      const { team, lesson } = await teamAndWrittenLesson(db, params);
      mustHave(lesson.lesson, step);
      await db.query(
        `insert into lesson_places (team_id, lesson_id, step_id, at) values ($1, $2, $3, $4)
         on conflict (team_id, lesson_id) do update set step_id = excluded.step_id, at = excluded.at`,
        [team, lesson.id, step, now().toISOString()],
      );
      return undefined;
    });

    serve('PUT /teams/:id/lessons/:slug/notes', async ({ params, body: { step, text, revision, note } }) => {
      const { team, lesson } = await teamAndWrittenLesson(db, params);
      mustHave(lesson.lesson, step);
      const key = noteKey(team, params.slug, step);
      const by = scopeNow()?.by ?? '';
      const [saved] = await db.query<{ revision: number }>(SAVE_NOTE, [
        team,
        lesson.id,
        step,
        text,
        now().toISOString(),
        revision,
        key,
        by,
        note ?? '',
      ]);
      if (!saved) {
        const [theirs] = await db.query<{ revision: number; text: string }>(
          'select revision, text from step_notes where team_id = $1 and lesson_id = $2 and step_id = $3',
          [team, lesson.id, step],
        );
        throw changedMeanwhile('this note', {
          revision: theirs?.revision ?? 0,
          value: theirs?.text ?? '',
        });
      }
      changes.tell({ what: 'evidence', team, lesson: params.slug, part: 'notes', of: saved.revision });
      return { revision: saved.revision };
    });
  });
}
