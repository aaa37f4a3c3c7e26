import type { Router } from 'express';
import { hourSpent, hourState } from '@vigilum/core/classroom';
import { stepsOf, variantOf } from '@vigilum/core/lesson';
import { standingIn, type HourPlan, type Took } from '@vigilum/core/hour';
import type { SheetTeam, TeamMat } from '@vigilum/contract/types';
import { hourOf, periodById, type PeriodRow } from '../classes/periods.ts';
import { one, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { SheetRows } from './rows.ts';
import {
  goingOn,
  hourTables,
  noteColumns,
  noteOf,
  queueIn,
  runOf,
  sheetTeam,
  stepsOfHour,
  type NoteRow,
} from './sheet.ts';
import { tookBefore } from './visits.ts';

/** So long times of earlier hours are believed, ms. */
const TIMES_MS = 60_000;

/** A step as others may see it: done, at work, or not begun. */
const howFar = ({ id, state }: SheetTeam['strip'][number]): SheetTeam['strip'][number] => ({
  id,
  state: state === 'fault' ? 'now' : state === 'risk' ? 'done' : state,
  figure: '',
});

/** Where a team goes when its turn on a mat begins, and what it minds there. */
function onTheMat({ definition }: PeriodRow): { step: string; cautions: string[] } {
  const floor = stepsOf(variantOf(definition)).find(({ kind }) => kind === 'floor');
  return {
    step: floor?.id ?? 'floor',
    cautions: [...new Set([...(floor?.cautions ?? []), ...definition.cautions])],
  };
}

const notOn = (state: string) =>
  new Problem(409, 'Not now', `Nothing was changed: the hour is ${state}. Begin, resume or reopen it first.`);

/** An hour that is going on: the teacher’s live sheet, what the teams’ tablets and the board know of it, the mats. */
export function runningHourRoutes(services: Services): Router {
  const { db, changes, now } = services;
  const rows = new SheetRows(services);

  /** Times of earlier hours change seldom: they are asked for once a minute. */
  const times = new Map<number, { at: number; took: Took[] }>();
  const earlierTimes = async (row: PeriodRow): Promise<Took[]> => {
    const known = times.get(row.id);
    if (known && performance.now() - known.at < TIMES_MS) return known.took;
    const took = await tookBefore(db, row);
    if (times.size > 50) times.clear();
    times.set(row.id, { at: performance.now(), took });
    return took;
  };

  const told = ({ id, class_id }: PeriodRow, team: number | null = null) =>
    changes.tell({ what: 'hour', class: class_id, period: id, team });
  /** An hour in which something can be done now, or a 409. */
  const going = async (tx: Queries, id: string): Promise<PeriodRow> => {
    const row = await periodById(tx, id);
    const state = hourState(hourOf(row), now().getTime());
    if (state === 'planned' || state === 'ended') throw notOn(state);
    return row;
  };
  const spentS = (row: PeriodRow): number => 60 * hourSpent(hourOf(row), now().getTime());
  /** A team of the class of an hour, or a 404. */
  const teamIn = async (tx: Queries, { class_id }: PeriodRow, team: number | string): Promise<number> => {
    const [row] = await tx.query<{ id: number }>(
      'select id from teams where id = $1 and class_id = $2 and removed_at is null',
      [idFrom(String(team)), class_id],
    );
    if (!row) throw notFound('such team in this class');
    return row.id;
  };
  /** A team's class and the hour that it is in. */
  const hourOfTeam = async (id: string): Promise<{ team: number; klass: number; row: PeriodRow | null }> => {
    const [team] = await db.query<{ id: number; class_id: number }>(
      'select id, class_id from teams where id = $1 and removed_at is null',
      [idFrom(id)],
    );
    if (!team) throw notFound('such team');
    return { team: team.id, klass: team.class_id, row: await goingOn(db, team.class_id, now()) };
  };
  const mustBeOn = (row: PeriodRow | null): PeriodRow => {
    if (!row) throw new Problem(409, 'No hour', 'Nothing was sent: your class has no lesson hour going on.');
    return row;
  };
  /** Refuses changes of steps that the lesson has not. */
  const mustKnow = ({ definition }: PeriodRow, plan: HourPlan): void => {
    const known = new Set(stepsOf(definition).map(({ id }) => id));
    const named = [
      ...Object.keys(plan.minutes ?? {}),
      ...Object.keys(plan.trials ?? {}),
      ...(plan.atHome ?? []),
      ...(plan.skipped ?? []),
    ];
    const unknown = named.find((id) => !known.has(id));
    if (unknown !== undefined)
      throw new Problem(422, 'No such step', `Nothing was changed: the lesson has no step “${unknown}”.`, [
        { field: 'plan', says: 'names a step that the lesson has not' },
      ]);
  };

  return contractRouter(services, (serve) => {
    serve('GET /periods/:id/sheet', async ({ params }) => {
      const row = await periodById(db, params.id);
      const at = now();
      const tables = await hourTables(db, row.id);
      return {
        now: at.getTime(),
        hour: hourOf(row),
        run: runOf(row),
        steps: stepsOfHour(row),
        teams: (await rows.of(row)).map((team) => sheetTeam(team, tables)),
        turns: tables.turns,
        before: await earlierTimes(row),
      };
    });

    serve('PATCH /periods/:id/run', async ({ params, body }) => {
      const row = await db.transaction(async (tx) => {
        const before = await periodById(tx, params.id);
        if (body.plan) {
          mustKnow(before, body.plan);
          await tx.query('update periods set plan = $2::jsonb where id = $1', [
            before.first_id,
            JSON.stringify(body.plan),
          ]);
        }
        await tx.query(
          `update periods set mats = coalesce($2, mats), turn_minutes = coalesce($3, turn_minutes), asks_tick = coalesce($4, asks_tick),
                  stopped = case when $5 then $6 else stopped end,
                  told = case when $7 then $8 else told end, told_at = case when $7 then $9::timestamptz else told_at end
            where id = $1`,
          [
            before.id,
            body.mats ?? null,
            body.turnMin ?? null,
            body.asksTick ?? null,
            body.stopped !== undefined,
            body.stopped ?? null,
            body.told !== undefined,
            body.told ?? null,
            now().toISOString(),
          ],
        );
        // A mat that is not there any more has nobody on it.
        if (body.mats !== undefined)
          await tx.query(
            'update mat_turns set ended_s = $2 where period_id = $1 and ended_s is null and mat > $3',
            [before.id, spentS(before), body.mats],
          );
        return periodById(tx, params.id);
      });
      // A changed plan changes what every team's pages hold.
      if (body.plan) changes.tell({ what: 'class', class: row.class_id, part: 'period' });
      told(row);
      return runOf(row);
    });

    serve('POST /periods/:id/teams/:team/notes', async ({ params, body }) => {
      const row = await going(db, params.id);
      const team = await teamIn(db, row, params.team);
      const note = await one<NoteRow>(
        db,
        `insert into hour_notes (period_id, team_id, kind, says, step_id, at) values ($1, $2, $3, $4, $5, $6) returning ${noteColumns}`,
        [row.id, team, body.kind, body.says, body.step ?? null, now().toISOString()],
      );
      told(row, team);
      return noteOf(note);
    });
    serve('DELETE /hour-notes/:id', async ({ params }) => {
      const [note] = await db.query<{ period_id: number; team_id: number }>(
        'update hour_notes set removed_at = $2 where id = $1 returning period_id, team_id',
        [idFrom(params.id), now().toISOString()],
      );
      if (!note) throw notFound('such note');
      told(await periodById(db, String(note.period_id)), note.team_id);
      return undefined;
    });

    const endCall = async (row: PeriodRow, team: number) => {
      await db.query(
        'update team_calls set over_at = $3 where period_id = $1 and team_id = $2 and over_at is null',
        [row.id, team, now().toISOString()],
      );
      told(row, team);
      return undefined;
    };
    serve('DELETE /periods/:id/teams/:team/call', async ({ params }) =>
      endCall(await periodById(db, params.id), idFrom(params.team)),
    );

    serve('POST /periods/:id/turns', async ({ params, body: { team, mat } }) => {
      const made = await db.transaction(async (tx) => {
        const row = await going(tx, params.id);
        if (mat > row.mats)
          throw new Problem(422, 'No such mat', `Nothing was changed: the hour has ${row.mats} mats.`, [
            { field: 'mat', says: `must be at most ${row.mats}` },
          ]);
        const own = await teamIn(tx, row, team);
        // Pressed twice, or by two teachers: the turn that is going on goes on.
        const [there] = await tx.query<{ id: number }>(
          'select id from mat_turns where period_id = $1 and team_id = $2 and mat = $3 and ended_s is null',
          [row.id, own, mat],
        );
        if (there) return { row, id: there.id };
        const at = spentS(row);
        await tx.query(
          'update mat_turns set ended_s = $2 where period_id = $1 and ended_s is null and (mat = $3 or team_id = $4)',
          [row.id, at, mat, own],
        );
        await tx.query('delete from mat_pins where period_id = $1 and team_id = $2', [row.id, own]);
        const { id } = await one<{ id: number }>(
          tx,
          'insert into mat_turns (period_id, team_id, mat, began_s) values ($1, $2, $3, $4) returning id',
          [row.id, own, mat, at],
        );
        return { row, id };
      });
      told(made.row);
      return { id: made.id };
    });
    serve('DELETE /periods/:id/turns/:turn', async ({ params }) => {
      const row = await periodById(db, params.id);
      const ended = await db.query(
        'update mat_turns set ended_s = coalesce(ended_s, $3) where period_id = $1 and id = $2 returning id',
        [row.id, idFrom(params.turn), spentS(row)],
      );
      if (ended.length === 0) throw notFound('such turn');
      told(row);
      return undefined;
    });
    serve('POST /periods/:id/turns/:turn/restoration', async ({ params }) => {
      const row = await db.transaction(async (tx) => {
        const period = await going(tx, params.id);
        const [turn] = await tx.query<{ mat: number; team_id: number }>(
          'select mat, team_id from mat_turns where period_id = $1 and id = $2',
          [period.id, idFrom(params.turn)],
        );
        if (!turn) throw notFound('such turn');
        const taken = await tx.query(
          'select 1 from mat_turns where period_id = $1 and ended_s is null and id <> $2 and (mat = $3 or team_id = $4)',
          [period.id, idFrom(params.turn), turn.mat, turn.team_id],
        );
        if (taken.length > 0)
          throw new Problem(409, 'Mat is taken', 'Nothing was changed: another team is on this mat by now.');
        await tx.query('update mat_turns set ended_s = null where id = $1', [idFrom(params.turn)]);
        return period;
      });
      told(row);
      return undefined;
    });
    serve('PUT /periods/:id/teams/:team/pin', async ({ params, body: { place } }) => {
      const row = await going(db, params.id);
      const team = await teamIn(db, row, params.team);
      if (place === null)
        await db.query('delete from mat_pins where period_id = $1 and team_id = $2', [row.id, team]);
      else
        await db.query(
          `insert into mat_pins (period_id, team_id, place) values ($1, $2, $3)
           on conflict (period_id, team_id) do update set place = excluded.place`,
          [row.id, team, place],
        );
      told(row);
      return undefined;
    });

    serve('GET /teams/:id/hour', async ({ params }) => {
      const { team, row } = await hourOfTeam(params.id);
      const at = now();
      if (!row)
        return {
          now: at.getTime(),
          hour: null,
          run: null,
          steps: [],
          at: null,
          finding: null,
          notes: [],
          call: null,
          mat: null,
        };
      const { teams, turns, queue } = await queueIn(db, rows, row, at);
      const mine = teams.find(({ id }) => id === team);
      const on = turns.find((turn) => turn.team === team && turn.endedMin === null);
      const waits = queue.find((place) => place.team === team);
      const mat: TeamMat = on
        ? {
            is: 'on',
            turn: on.id,
            mat: on.mat,
            beganMin: on.beganMin,
            ticked: on.ticked,
            ...onTheMat(row),
          }
        : waits && row.mats > 0
          ? { is: 'waiting', place: waits.place, of: queue.length, fromMin: waits.fromMin }
          : null;
      const { stopped, told: said, turnMin, asksTick } = runOf(row);
      const steps = stepsOfHour(row);
      const here = mine ? standingIn(steps, mine.strip, mine.visits) : null;
      return {
        now: at.getTime(),
        hour: hourOf(row),
        run: { stopped, told: said, turnMin, asksTick },
        steps,
        at: here && { step: steps[here.at]?.id ?? null, sinceMin: here.sinceMin },
        finding: mine?.finding?.says ?? null,
        notes: mine?.notes ?? [],
        call: mine?.call ?? null,
        mat,
      };
    });
    serve('PUT /teams/:id/hour/call', async ({ params, body: { about } }) => {
      const { team, row } = await hourOfTeam(params.id);
      const period = mustBeOn(row);
      await db.query(
        `insert into team_calls (period_id, team_id, about, at) values ($1, $2, $3, $4)
         on conflict (period_id, team_id) where over_at is null do update set about = excluded.about`,
        [period.id, team, about, now().toISOString()],
      );
      told(period, team);
      return undefined;
    });
    serve('DELETE /teams/:id/hour/call', async ({ params }) => {
      const { team, row } = await hourOfTeam(params.id);
      return row ? endCall(row, team) : undefined;
    });
    serve('PUT /teams/:id/hour/notes/:note/seen', async ({ params }) => {
      const { team, row } = await hourOfTeam(params.id);
      const seen = await db.query(
        'update hour_notes set seen_at = coalesce(seen_at, $3) where id = $1 and team_id = $2 returning id',
        [idFrom(params.note), team, now().toISOString()],
      );
      if (seen.length === 0) throw notFound('such note');
      if (row) told(row, team);
      return undefined;
    });
    serve('PUT /teams/:id/hour/turns/:turn/tick', async ({ params }) => {
      const { team, row } = await hourOfTeam(params.id);
      const ticked = await db.query(
        'update mat_turns set ticked_at = coalesce(ticked_at, $3) where id = $1 and team_id = $2 returning id',
        [idFrom(params.turn), team, now().toISOString()],
      );
      if (ticked.length === 0) throw notFound('such turn');
      if (row) told(row, team);
      return undefined;
    });

    serve('GET /board', async ({ who }) => {
      const klass = who.role === 'board' ? who.klass : 0;
      const at = now();
      const named = await one<{ name: string; school: string }>(
        db,
        'select name, school from classes where id = $1',
        [klass],
      );
      const base = { now: at.getTime(), class: named.name, school: named.school };
      const row = await goingOn(db, klass, at);
      if (!row) return { ...base, hour: null, run: null, steps: [], teams: [], turns: [], queue: [] };
      const { teams, turns, queue } = await queueIn(db, rows, row, at);
      const { stopped, told: said, turnMin, mats } = runOf(row);
      return {
        ...base,
        hour: hourOf(row),
        run: { stopped, told: said, turnMin, mats },
        steps: stepsOfHour(row),
        // What is wrong with a team is between it and its teacher: a projector shows how far it is.
        teams: teams.map(({ id, name, strip }) => ({ id, name, strip: strip.map(howFar) })),
        turns,
        queue: queue.map(({ team, fromMin }) => ({ team, fromMin })),
      };
    });
  });
}
