import type { Router } from 'express';
import { stepsOf, type Lesson } from '@vigilum/core/lesson';
import { workFor } from '../classes/works.ts';
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
    insert into step_notes (work_id, step_id, text, at, revision)
    select $1::int, $2, $3, $4::timestamptz, 1 where $5::int = 0
    on conflict (work_id, step_id) do nothing
    returning revision
  ), moved_on as (
    update step_notes set text = $3, at = $4::timestamptz, revision = revision + 1
     where work_id = $1 and step_id = $2 and revision = $5::int and $5::int > 0
    returning revision
  ), now_at as (select revision from saved union all select revision from moved_on),
  last as (
    select id, note, saved_by, saved_at from kept_versions where kind = 'note' and key = $6 order by revision desc, id desc limit 1
  ), together as (
    update kept_versions v set revision = n.revision, value = to_jsonb($3::text), saved_at = $4::timestamptz
      from last, now_at n
     where v.id = last.id and last.note = '' and $8 = '' and last.saved_by = $7 and last.saved_at > $4::timestamptz - interval '${SAME_SITTING}'
    returning v.id
  ), kept as (
    insert into kept_versions (kind, key, revision, value, note, saved_by, saved_at)
    select 'note', $6, n.revision, to_jsonb($3::text), $8, $7, $4::timestamptz from now_at n
     where not exists (select 1 from together)
  )
  select revision from now_at`;

/**
 * Keeps where a team is, and notes that it came there where an hour of its work is going on and it was at another step before: seconds of
 * the hour, without its pauses. One statement.
 */
const SAVE_PLACE = `
  with placed as (
    insert into lesson_places (work_id, step_id, at) values ($1::int, $2::text, $3::timestamptz)
    on conflict (work_id) do update set step_id = excluded.step_id, at = excluded.at
  ), hour as (
    select p.id, extract(epoch from coalesce(p.paused_at, $3::timestamptz) - p.starts_at)::double precision - p.paused_s as spent
      from periods p
     where p.first_id = $4::int and p.removed_at is null and p.began_at is not null and p.ended_at is null
       and p.starts_at > $3::timestamptz - interval '24 hours'
     order by p.starts_at desc, p.id desc limit 1
  )
  insert into step_visits (work_id, period_id, step_id, hour_s)
  select $1::int, hour.id, $2::text, greatest(0, hour.spent) from hour
   where $2::text is distinct from
     (select v.step_id from step_visits v where v.work_id = $1::int and v.period_id = hour.id order by v.id desc limit 1)`;

/** What a note’s earlier texts are kept by: the same step in another hour is another note. */
export const noteKey = (team: number, lesson: string, step: string, hour: number | null): string =>
  `${team}/${lesson}/${step}${hour === null ? '' : `@${hour}`}`;

/** Where a team is in its lesson, so that it comes back where it left; and what it wrote down on the way. */
export function placeRoutes(services: Services): Router {
  const { db, changes, now } = services;
  return contractRouter(services, (serve) => {
    serve('PUT /teams/:id/lessons/:slug/place', async ({ params, body: { step } }) => {
      const at = now();
      const { team, work, definition, first } = await workFor(db, params, at);
      mustHave(definition, step);
      await db.query(SAVE_PLACE, [work, step, at.toISOString(), first]);
      changes.tell({ what: 'evidence', team, lesson: params.slug, part: 'place' });
      return undefined;
    });

    serve('PUT /teams/:id/lessons/:slug/notes', async ({ params, body: { step, text, revision, note } }) => {
      const at = now();
      const { team, work, definition, first } = await workFor(db, params, at);
      mustHave(definition, step);
      const key = noteKey(team, params.slug, step, first);
      const by = scopeNow()?.by ?? '';
      const [saved] = await db.query<{ revision: number }>(SAVE_NOTE, [
        work,
        step,
        text,
        at.toISOString(),
        revision,
        key,
        by,
        note ?? '',
      ]);
      if (!saved) {
        const [theirs] = await db.query<{ revision: number; text: string }>(
          'select revision, text from step_notes where work_id = $1 and step_id = $2',
          [work, step],
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
