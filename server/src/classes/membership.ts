import { MOST_TEAMS } from '@vigilum/core/formats';
import type { ClassEntry } from '@vigilum/contract/types';
import type { Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';

export interface ClassRow extends Omit<ClassEntry, 'teams'> {
  removed: boolean;
}

/** Refused: the class has a team of the name. */
export const teamTaken = (name: string, klass: string) =>
  new Problem(
    409,
    'Team exists',
    `Nothing was saved: ${klass} has a team ${name} already. Choose another name.`,
    [{ field: 'name', says: 'is taken' }],
  );

/** SQL for the teacher of a class `c` as pages are told; null where nobody has said. */
export const teacherOf = `(select json_build_object('id', a.id, 'name', a.name) from accounts a where a.id = c.teacher_id)`;

/** The class of an id, removed or not, or a 404. */
export async function classRow(db: Queries, text: string): Promise<ClassRow> {
  const [row] = await db.query<ClassRow>(
    `select c.id, c.school, c.name, c.archived_at is not null as archived, c.removed_at is not null as removed, ${teacherOf} as teacher
       from classes c where c.id = $1`,
    [idFrom(text)],
  );
  if (!row) throw notFound('such class');
  return row;
}

/** Refuses a name that another class of the school has. Upper and lower case do not matter. */
export async function mustBeFree(db: Queries, school: string, name: string, but = 0): Promise<void> {
  const [taken] = await db.query(
    'select 1 from classes where lower(school) = lower($1) and lower(name) = lower($2) and id <> $3 and removed_at is null',
    [school, name, but],
  );
  if (taken)
    throw new Problem(
      409,
      'Class exists',
      `Nothing was saved: ${school} has a class ${name} already. Choose another name.`,
      [{ field: 'name', says: 'is taken' }],
    );
}

/** Adds teams to a class, each with a robot. */
export async function addTeams(
  tx: Queries,
  klass: { id: number; name: string },
  names: readonly string[],
  robots: readonly number[],
  joined: Date | null,
): Promise<number[]> {
  const there = await tx.query<{ name: string }>(
    'select name from teams where class_id = $1 and removed_at is null',
    [klass.id],
  );
  if (there.length + names.length > MOST_TEAMS)
    throw new Problem(
      422,
      'Too many teams',
      `Nothing was saved: a class has at most ${MOST_TEAMS} teams, and these would make ${there.length + names.length}.`,
      [{ field: 'teams', says: `must be at most ${MOST_TEAMS - there.length}` }],
    );
  const taken = names.find((name) => there.some((one) => one.name.toLowerCase() === name.toLowerCase()));
  if (taken) throw teamTaken(taken, klass.name);
  const made = await tx.query<{ id: number }>(
    `insert into teams (class_id, robot_id, name, joined_at)
     select $1, robot, name, $4 from unnest($2::int[], $3::text[]) with ordinality as u (robot, name, place)
      order by place returning id`,
    [klass.id, [...robots], [...names], joined?.toISOString() ?? null],
  );
  return made.map(({ id }) => id);
}
