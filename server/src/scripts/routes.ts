import type { Router } from 'express';
import type { SavedScript } from '@vigilum/core/classroom';
import { parseScript, sameProgram } from '@vigilum/core/script';
import type { ScriptUpdate } from '@vigilum/contract/types';
import { teamInLesson } from '../classes/lookup.ts';
import { workFor } from '../classes/works.ts';
import { scriptOf, type ScriptRow } from '../classes/records.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { applied, updateBetween } from './shared.ts';

/** Versions listed at most; older ones can still be asked for by number. */
const LISTED = 200;
/** Updates given at once to an editor that was away; one that is further behind takes the text anew. */
const MOST_BEHIND = 2000;

interface Where {
  team: number;
  work: number;
}
interface DocumentRow extends Where {
  /** Null before anybody opened it. */
  revision: number | null;
  text: string | null;
  saved: ScriptRow | null;
}

/**
 * Scripts of a team in a lesson. While it is written a script is a text that its editors share: each sends changes with
 * the revision that they were made from, and takes in what came from others before it sends again. When typing rests the
 * text becomes a version; none is ever overwritten.
 */
export function scriptRoutes(services: Services): Router {
  const { db, changes, now } = services;

  /** A script with its newest version, or a 404: two statements. */
  const documentOf = async (
    tx: Queries,
    { id, slug }: { id: string; slug: string },
  ): Promise<DocumentRow> => {
    const { team, work } = await workFor(tx, { id, slug }, now());
    const row = await one<{
      revision: number | null;
      text: string | null;
      version: number | null;
      same_since: number | null;
      version_text: string;
      saved_at: Date;
    }>(
      tx,
      `select d.revision, d.text, v.version, v.same_since, v.text as version_text, v.saved_at
         from works w left join script_documents d on d.work_id = w.id
         left join lateral (select version, same_since, text, saved_at from script_versions
                             where work_id = w.id order by version desc limit 1) v on true
        where w.id = $1`,
      [work],
    );
    const { revision, text, version, same_since, version_text, saved_at } = row;
    const saved = version === null ? null : { version, same_since, text: version_text, saved_at };
    return { team, work, revision, text, saved };
  };

  const shownOf = (saved: ScriptRow | null): SavedScript | null => (saved ? scriptOf(saved) : null);

  /** Makes a text the newest version, or gives null where somebody made another meanwhile. */
  const addVersion = async (
    tx: Queries,
    { work, saved }: Where & { saved: ScriptRow | null },
    text: string,
    { by = '', restoredFrom = null }: { by?: string; restoredFrom?: number | null | undefined },
  ): Promise<ScriptRow | null> => {
    const version = (saved?.version ?? 0) + 1;
    const same = saved && sameProgram(saved.text, text);
    const [row] = await tx.query<ScriptRow>(
      `insert into script_versions (work_id, version, text, saved_at, saved_by, restored_from, same_since)
       values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing
       returning version, same_since, text, saved_at`,
      [
        work,
        version,
        text,
        now().toISOString(),
        by,
        restoredFrom,
        same ? (saved.same_since ?? saved.version) : version,
      ],
    );
    return row ?? null;
  };

  /** Puts updates behind those that are there and the text in their place; false where the script has moved on. */
  const append = async (
    tx: Queries,
    { work }: Where,
    from: number,
    updates: readonly ScriptUpdate[],
    text: string,
  ): Promise<boolean> => {
    const rows = await tx.query(
      `with moved as (
         update script_documents set revision = $2::int + $3::int, text = $4, changed_at = $5
          where work_id = $1 and revision = $2::int returning revision
       ), added as (
         insert into script_updates (work_id, revision, client, changes)
         select $1, $2::int + u.n, u.client, u.changes::jsonb
           from unnest($6::text[], $7::text[]) with ordinality as u(client, changes, n), moved
       )
       select revision from moved`,
      [
        work,
        from,
        updates.length,
        text,
        now().toISOString(),
        updates.map(({ client }) => client),
        updates.map((update) => JSON.stringify(update.changes)),
      ],
    );
    return rows.length > 0;
  };

  const updatesAfter = async (tx: Queries, { work }: Where, from: number): Promise<ScriptUpdate[]> =>
    tx.query<ScriptUpdate>(
      `select client, changes from script_updates
        where work_id = $1 and revision > $2 order by revision limit ${MOST_BEHIND + 1}`,
      [work, from],
    );

  /** The document of a script; made from its newest version, or the lesson's first lines, when nobody opened it before. */
  const opened = async (
    params: { id: string; slug: string },
    known?: DocumentRow,
  ): Promise<DocumentRow & { revision: number; text: string }> => {
    const found = known ?? (await documentOf(db, params));
    const { revision, text } = found;
    if (revision !== null && text !== null) return { ...found, revision, text };
    const first = found.saved?.text ?? (await teamInLesson(db, params, now())).lesson.startScript;
    await db.query(
      `insert into script_documents (work_id, revision, text, changed_at) values ($1, 0, $2, $3)
       on conflict do nothing`,
      [found.work, first, now().toISOString()],
    );
    const made = await documentOf(db, params);
    return { ...made, revision: made.revision ?? 0, text: made.text ?? first };
  };

  return contractRouter(services, (serve) => {
    serve('GET /teams/:id/lessons/:slug/script', async ({ params }) => {
      const { revision, text, saved } = await opened(params);
      return { revision, text, saved: shownOf(saved) };
    });

    serve('GET /teams/:id/lessons/:slug/script-updates', async ({ params, query }) => {
      const script = await opened(params);
      const from = Number(query.from);
      if (!Number.isInteger(from) || from < 0 || from > script.revision)
        throw new Problem(409, 'Another script', 'This script was begun anew. Compare yours with it.', [], {
          document: { revision: script.revision, text: script.text },
        });
      const updates = await updatesAfter(db, script, from);
      if (updates.length > MOST_BEHIND)
        throw new Problem(409, 'Far behind', 'This script was changed very often meanwhile.', [], {
          document: { revision: script.revision, text: script.text },
        });
      return { updates, saved: shownOf(script.saved) };
    });

    serve(
      'POST /teams/:id/lessons/:slug/script-updates',
      async ({ params, body: { from, updates, settle } }) => {
        const first = await documentOf(db, params);
        const script = first.revision === null ? await opened(params, first) : first;
        const { revision, text } = script as DocumentRow & { revision: number; text: string };
        if (from !== revision) {
          const known = from < revision ? await updatesAfter(db, script, from) : [];
          // One that knows a revision that is not here wrote another script: nothing can be rebased.
          throw new Problem(
            409,
            'Changed meanwhile',
            'Somebody else wrote meanwhile. Take in their changes first.',
            [],
            from < revision && known.length <= MOST_BEHIND
              ? { updates: known }
              : { document: { revision, text } },
          );
        }
        const next = applied(text, updates);
        return db.transaction(async (tx) => {
          if (updates.length > 0 && !(await append(tx, script, from, updates, next)))
            throw new Problem(409, 'Changed meanwhile', 'Somebody else wrote meanwhile.', [], {
              updates: [],
            });
          const wanted = settle !== undefined && next !== (script.saved?.text ?? null);
          const made = wanted ? await addVersion(tx, script, next, settle) : null;
          const { team } = script;
          if (updates.length > 0)
            changes.tell({
              what: 'evidence',
              team,
              lesson: params.slug,
              part: 'script',
              of: from + updates.length,
            });
          if (made)
            changes.tell({ what: 'evidence', team, lesson: params.slug, part: 'version', of: made.version });
          return { revision: from + updates.length, saved: shownOf(made ?? script.saved) };
        });
      },
    );

    // A whole text at once, for whoever has no editor: it becomes a version, and a change for those who have one open.
    serve('POST /teams/:id/lessons/:slug/script-versions', async ({ params, body }) => {
      const { text, basedOn, by, restoredFrom } = body;
      if (restoredFrom !== undefined && restoredFrom > basedOn) {
        throw new Problem(
          422,
          'No such version',
          `Nothing was saved: there is no version ${restoredFrom} yet.`,
          [{ field: 'restoredFrom', says: 'is newer than the newest' }],
        );
      }
      const script = await opened(params);
      const stale = () =>
        new Problem(
          409,
          'Changed meanwhile',
          'Somebody else saved this script meanwhile. Yours is still on this page; choose which one to keep.',
          [],
          { newest: { version: script.saved?.version ?? 0, text: script.saved?.text ?? '' } },
        );
      if (basedOn !== (script.saved?.version ?? 0)) throw stale();
      return db.transaction(async (tx) => {
        const update = updateBetween(script.text, text, 'whole text');
        if (
          text !== script.text &&
          !(await append(tx, script, script.revision, [update], applied(script.text, [update])))
        )
          throw stale();
        const made = await addVersion(tx, script, text, { by: by ?? '', restoredFrom });
        if (!made) throw stale();
        changes.tell({
          what: 'evidence',
          team: script.team,
          lesson: params.slug,
          part: 'script',
          of: script.revision + 1,
        });
        changes.tell({
          what: 'evidence',
          team: script.team,
          lesson: params.slug,
          part: 'version',
          of: made.version,
        });
        return { version: made.version };
      });
    });

    serve('GET /teams/:id/lessons/:slug/script-versions', async ({ params }) => {
      const { work } = await workFor(db, params, now());
      const rows = await db.query<{
        version: number;
        text: string;
        saved_at: Date;
        saved_by: string;
        restored_from: number | null;
        tries: number;
      }>(
        `select v.version, v.text, v.saved_at, v.saved_by, v.restored_from,
                (select count(*)::int from tries t where t.work_id = v.work_id and t.script_version = v.version and not t.tuned) as tries
           from script_versions v where v.work_id = $1
          order by v.version desc limit ${LISTED}`,
        [work],
      );
      return {
        versions: rows.map((row) => ({
          version: row.version,
          at: row.saved_at.getTime(),
          by: row.saved_by,
          restoredFrom: row.restored_from,
          steps: parseScript(row.text).stepCount,
          tries: row.tries,
        })),
      };
    });

    serve('GET /teams/:id/lessons/:slug/script-versions/:version', async ({ params }) => {
      const { work } = await workFor(db, params, now());
      const [row] = await db.query<{ version: number; text: string }>(
        'select version, text from script_versions where work_id = $1 and version = $2',
        [work, idFrom(params.version)],
      );
      if (!row) throw notFound('such version');
      return row;
    });
  });
}
