import type { Router } from 'express';
import { thresholdTable, type HourTimes, type TeamInLesson } from '@vigilum/core/classroom';
import { sensorAt, stepsOf, variantOf, type Lesson, type StepKind } from '@vigilum/core/lesson';
import type { HourPlan } from '@vigilum/core/hour';
import type { Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import type { Hour } from '@vigilum/contract/types';
import { contractRouter } from '../http/serve.ts';
import type { Services } from '../http/services.ts';
import { idFrom } from '../http/validate.ts';
import { loadTeams } from './records.ts';
import { ms } from './rows.ts';

/** When an hour was, or will be. */
export interface TimesRow {
  starts_at: Date;
  minutes: number;
  began_at: Date | null;
  paused_at: Date | null;
  paused_s: number;
  ended_at: Date | null;
}
export interface PeriodRow extends TimesRow {
  id: number;
  class_id: number;
  class: string;
  school: string;
  lesson_id: number;
  definition: Lesson;
  /** The hour that it goes on from. */
  first_id: number;
  mats: number;
  turn_minutes: number;
  asks_tick: boolean;
  stopped: string | null;
  told: string | null;
  told_at: Date | null;
  /** Of the first hour. */
  plan: HourPlan;
}

export const selectPeriods = `select p.id, p.starts_at, p.minutes, p.first_id, p.began_at, p.paused_at, p.paused_s, p.ended_at,
              p.mats, p.turn_minutes, p.asks_tick, p.stopped, p.told, p.told_at,
              (select f.plan from periods f where f.id = p.first_id) as plan, c.id as class_id, c.name as class, c.school,
              l.id as lesson_id, l.definition
         from periods p join classes c on c.id = p.class_id join lessons l on l.id = p.lesson_id`;

export const timesOf = (row: TimesRow): HourTimes => ({
  startsAt: ms(row.starts_at),
  minutes: row.minutes,
  beganAt: row.began_at && ms(row.began_at),
  pausedAt: row.paused_at && ms(row.paused_at),
  pausedS: row.paused_s,
  endedAt: row.ended_at && ms(row.ended_at),
});

/** An hour as pages know it. */
export const hourOf = (row: PeriodRow): Hour => ({
  id: row.id,
  first: row.first_id,
  ...timesOf(row),
  class: { id: row.class_id, name: row.class, school: row.school },
  lesson: { slug: row.definition.slug, title: row.definition.title, aim: row.definition.aim },
});

/** A period, or a 404. */
export async function periodById(db: Queries, id: string): Promise<PeriodRow> {
  const [period] = await db.query<PeriodRow>(`${selectPeriods} where p.id = $1`, [idFrom(id)]);
  if (!period) throw notFound('such period');
  return period;
}

/** An hour that nobody ended is over after so long. */
const LONGEST_HOUR_MS = 18 * 3_600_000;

/** Ids of the teams that a class had in an hour, in their order. Who left later is on it still, who came later is not. */
export async function boardTeamIds(db: Queries, period: PeriodRow): Promise<number[]> {
  const { class_id } = period;
  const end = period.ended_at ?? new Date(ms(period.starts_at) + LONGEST_HOUR_MS);
  const teams = await db.query<{ id: number }>(
    `select id from teams
      where class_id = $1 and (removed_at is null or removed_at > $2) and (joined_at is null or joined_at <= $2) order by id`,
    [class_id, end.toISOString()],
  );
  return teams.map(({ id }) => id);
}

/** Those teams with what they did in the work of the hour. */
export async function teamsOf(db: Queries, period: PeriodRow): Promise<TeamInLesson[]> {
  const { lesson_id, definition, first_id } = period;
  return loadTeams(
    db,
    await boardTeamIds(db, period),
    { id: lesson_id, lesson: definition },
    { first: first_id },
  );
}

/** Steps in which a team writes something down. */
const written: readonly StepKind[] = ['predict', 'reflect', 'extend', 'homework'];

/** A whole class in one period: its thresholds side by side, and what its teams wrote down. */
export function periodRoutes(services: Services): Router {
  const { db, now } = services;

  const load = async (id: string) => {
    const period = await periodById(db, id);
    const { definition: lesson, school, class: name } = period;
    const teams = await teamsOf(db, period);
    const shown = {
      now: now().getTime(),
      school,
      class: name,
      lesson: { slug: lesson.slug, title: lesson.title },
    };
    return { lesson: variantOf(lesson), teams, shown };
  };

  return contractRouter(services, (serve) => {
    serve('GET /periods/:id/thresholds', async ({ params }) => {
      const { lesson, teams, shown } = await load(params.id);
      const decides = stepsOf(lesson).find(({ kind }) => kind === 'decide');
      return {
        ...shown,
        need: decides ? sensorAt(lesson, decides) : lesson.need,
        teams: teams.map(({ team }) => team.id),
        table: thresholdTable(teams, shown.now),
      };
    });

    // What teams predicted, found out and did at home, step by step.
    serve('GET /periods/:id/notes', async ({ params }) => {
      const { lesson, teams, shown } = await load(params.id);
      return {
        ...shown,
        steps: stepsOf(lesson)
          .filter(({ kind }) => written.includes(kind))
          .map(({ id, kind, title, text }) => ({ id, kind, title, text })),
        teams: teams.map(({ team, notes }) => ({
          ...team,
          notes: Object.fromEntries(Object.entries(notes).map(([step, { text }]) => [step, text])),
        })),
      };
    });
  });
}
