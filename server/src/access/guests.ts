import type { Queries } from '../db/database.ts';
import type { Who } from './who.ts';

/** Which classes, or teams, somebody sees, by their ids. */
export type Sees = (id: number) => boolean;

/** Which classes whoever asks sees: guest colleagues those that they were invited to, all other people every one. */
export async function seesOf(db: Queries, who: Who): Promise<Sees> {
  if (who.role !== 'guest') return () => true;
  const rows = await db.query<{ id: number }>(
    'select class_id as id from guest_classes where account_id = $1',
    [who.account],
  );
  const classes = new Set(rows.map(({ id }) => id));
  return (klass) => classes.has(klass);
}

/** Which teams whoever asks sees, of the classes that they see. */
export async function seesTeamsOf(db: Queries, who: Who): Promise<Sees> {
  if (who.role !== 'guest') return () => true;
  const rows = await db.query<{ id: number }>(
    'select t.id from teams t join guest_classes g on g.class_id = t.class_id where g.account_id = $1',
    [who.account],
  );
  const teams = new Set(rows.map(({ id }) => id));
  return (team) => teams.has(team);
}

/** Where a row of a path belongs, as SQL for the classes of the row $1: all of them must be seen. */
const classesOf: Readonly<Record<string, string>> = {
  classes: 'select id from classes where id = $1',
  calendars: 'select id from classes where id = $1',
  periods: 'select class_id as id from periods where id = $1',
  teams: 'select class_id as id from teams where id = $1',
  // What was read off a robot is of every team that drives it.
  robots: 'select class_id as id from teams where robot_id = $1 and removed_at is null',
  'sample-sets':
    'select t.class_id as id from sample_sets s join teams t on t.robot_id = s.robot_id where s.id = $1 and t.removed_at is null',
  recordings:
    'select t.class_id as id from recordings s join teams t on t.robot_id = s.robot_id where s.id = $1 and t.removed_at is null',
};

/** Whether a guest was invited to all that a path names. */
export async function isInvited(
  db: Queries,
  who: Who,
  path: string,
  params: Readonly<Record<string, string | undefined>>,
  query: Readonly<Record<string, unknown>>,
): Promise<boolean> {
  const sees = await seesOf(db, who);
  const seesAll = async (area: string, id: number) => {
    const rows = await db.query<{ id: number }>(classesOf[area]!, [id]);
    return rows.every((row) => sees(row.id));
  };
  const number = (text: string | undefined) => {
    const id = Number(text);
    return Number.isInteger(id) && id > 0 && id < 2 ** 31 ? id : 0;
  };
  const [, area = '', , under] = path.split('/');
  if (area === 'kept-versions') {
    const team = /^(\d+)\//.exec(typeof query.key === 'string' ? query.key : '')?.[1];
    return query.of !== 'note' || (team !== undefined && seesAll('teams', number(team)));
  }
  // The robot itself is open to all; what was read off it, or is read now, is not.
  if (area === 'robots' && under === undefined) return true;
  // The whole calendar has what they see.
  if (area === 'calendars')
    return params.class === 'all.ics' || seesAll(area, number(params.class?.slice(0, -4)));
  if (area === 'lessons') return params.class === undefined || seesAll('classes', number(params.class));
  return !(area in classesOf) || params.id === undefined || seesAll(area, number(params.id));
}
