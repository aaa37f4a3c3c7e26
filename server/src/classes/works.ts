import type { Lesson } from '@vigilum/core/lesson';
import { one, type Queries } from '../db/database.ts';
import { notFound } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';

/**
 * SQL for the first hour of what a class has on a lesson at a moment: of hours that have begun the latest until then, else the planned one that
 * is nearest; null where the class has none. A planned hour whose time went by without it changes nothing.
 */
export const firstHour = (klass: string, lesson: string, at: string): string =>
  `(select p.first_id from periods p
     where p.class_id = ${klass} and p.lesson_id = ${lesson} and p.removed_at is null
     order by p.began_at is not null desc, (p.began_at is not null and p.starts_at <= ${at}) desc, abs(extract(epoch from p.starts_at - ${at})), p.id desc limit 1)`;

/** A team in a lesson, in an hour and those that go on from it: the owner of all evidence. */
export interface Work {
  work: number;
  team: number;
  lesson: number;
  definition: Lesson;
  /** The first hour; null where the class has had none on this lesson. */
  first: number | null;
}

/** The work of the team and lesson of a path such as /teams/:id/lessons/:slug as it is now, begun where it was not, or a 404: one statement. */
export async function workFor(
  db: Queries,
  { id, slug }: { id: string; slug: string },
  at: Date,
): Promise<Work> {
  const [row] = await db.query<Omit<Work, 'team'> & { team: number | null }>(
    `with here as (
       select t.id as team, l.id as lesson, l.definition, ${firstHour('t.class_id', 'l.id', '$3::timestamptz')} as first
         from lessons l left join teams t on t.id = $1 where l.slug = $2
     ), made as (
       insert into works (team_id, lesson_id, first_period_id) select team, lesson, first from here where team is not null
       on conflict do nothing returning id
     )
     select here.*, coalesce((select id from made), w.id) as work
       from here left join works w on w.team_id = here.team and w.lesson_id = here.lesson
                                  and w.first_period_id is not distinct from here.first`,
    [idFrom(id), slug, at.toISOString()],
  );
  if (!row) throw notFound('such lesson');
  if (row.team === null) throw notFound('such team');
  return { ...row, team: row.team };
}

/** Whose a reading is, as a page says it. */
export interface Whose {
  team: number;
  lesson: string;
}

/**
 * The work that a robot reads for: the one that is named, else that of the hour which its team is in; null where it reads for
 * nobody, and for the ruler, which tells of the robot itself.
 */
export async function workOfRobot(
  db: Queries,
  robot: number,
  at: Date,
  { whose, byRuler = false }: { whose?: Whose | undefined; byRuler?: boolean } = {},
): Promise<number | null> {
  if (whose) {
    const { work, team } = await workFor(db, { id: String(whose.team), slug: whose.lesson }, at);
    const { drives } = await one<{ drives: boolean }>(
      db,
      'select robot_id = $2 as drives from teams where id = $1',
      [team, robot],
    );
    if (!drives) throw notFound('team with this robot');
    return work;
  }
  if (byRuler) return null;
  const [row] = await db.query<{ work: number }>(
    `with hour as (
       select t.id as team, p.lesson_id as lesson, p.first_id as first
         from teams t join periods p on p.class_id = t.class_id
        where t.robot_id = $1 and t.removed_at is null and p.began_at is not null and p.ended_at is null and p.removed_at is null
          and p.starts_at <= $2::timestamptz and p.starts_at > $2::timestamptz - interval '18 hours'
        order by p.starts_at desc, p.id desc limit 1
     ), made as (
       insert into works (team_id, lesson_id, first_period_id) select team, lesson, first from hour
       on conflict do nothing returning id
     )
     select coalesce((select id from made), w.id) as work
       from hour left join works w on w.team_id = hour.team and w.lesson_id = hour.lesson
                                  and w.first_period_id is not distinct from hour.first`,
    [robot, at.toISOString()],
  );
  return row?.work ?? null;
}
