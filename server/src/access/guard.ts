import { mayAsk, type OtherRoute } from '@vigilum/contract/access';
import type { Route } from '@vigilum/contract/types';
import type { Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { idFrom } from '../http/validate.ts';
import { isInvited } from './guests.ts';
import { drives, hasRobotSince, notYourHour } from './ownRobot.ts';
import type { Who } from './who.ts';

type Params = Readonly<Record<string, string | undefined>>;
interface Asked {
  method: string;
  query: Readonly<Record<string, unknown>>;
  body: unknown;
  at: Date;
}
type Team = Extract<Who, { role: 'team' }>;

const signIn = () => new Problem(401, 'Sign in', 'Sign in first. What you typed stays on this page.');
const notYours = (who: Who) =>
  new Problem(
    403,
    'Not open to you',
    who.role === 'team'
      ? 'Nothing was changed: this is not open to a team. Ask your teacher.'
      : 'Nothing was changed: this is not open to you. An owner of this Vigilum can give you another role.',
  );

const notInvited = () =>
  new Problem(
    403,
    'Not open to you',
    'You see the classes that you were invited to, and this is of another. Ask an owner to add it.',
  );

/** Whether a row of a table belongs to what a team did, or was read off its robot for nobody. */
const owned = {
  'sample-sets': 'sample_sets',
  recordings: 'recordings',
  'floor-trials': 'floor_trials',
  'run-logs': 'run_logs',
} as const;
/** What is read off a robot for the work of a team. */
const forSomebody: readonly string[] = ['sample-sets', 'imports', 'recordings', 'quick-looks', 'thresholds'];
const hasRobot: readonly string[] = ['sample_sets', 'recordings'];

/**
 * Whether a row is of a team's work, or was read off its robot for nobody: that is open in its hour alone, and it takes away what was read
 * since its hour began.
 */
async function ownsRow(
  db: Queries,
  { team }: Team,
  { table, id, at, changes }: { table: string; id: number; at: Date; changes: boolean },
): Promise<boolean> {
  const byRobot = hasRobot.includes(table);
  const [row] = await db.query<{ team: number | null; robot: number | null; read_at: Date | null }>(
    `select w.team_id as team, ${byRobot ? 'e.robot_id as robot, e.taken_at as read_at' : 'null as robot, null as read_at'}
       from ${table} e left join works w on w.id = e.work_id where e.id = $1`,
    [id],
  );
  if (!row || row.team !== null || row.robot === null) return row?.team === team;
  const since = await hasRobotSince(db, team, row.robot, at);
  return since !== null && (!changes || row.read_at!.getTime() >= since.getTime());
}

/** A lesson that a class has begun stays begun, but for hours that are removed: it is believed for so long, ms. */
const BEGUN_MS = 60_000;
/** By database, class and lesson: when it was last found to be begun. Every request of a tablet asks. */
const begun = new WeakMap<Queries, Map<string, number>>();

/** Whether the team's class has begun the lesson at some time. */
async function hasHad(db: Queries, { klass }: Team, slug: string): Promise<boolean> {
  const known = begun.get(db) ?? new Map<string, number>();
  begun.set(db, known);
  const key = `${klass} ${slug}`;
  if (performance.now() - (known.get(key) ?? -Infinity) < BEGUN_MS) return true;
  const rows = await db.query(
    `select 1 from periods p join lessons l on l.id = p.lesson_id
      where p.class_id = $1 and l.slug = $2 and p.began_at is not null and p.removed_at is null limit 1`,
    [klass, slug],
  );
  if (rows.length > 0) known.set(key, performance.now());
  return rows.length > 0;
}

/** Refuses a team what is not its own: other teams, other robots, other teams' readings, lessons that it has not had. */
async function mustBeOwn(db: Queries, team: Team, path: string, params: Params, asked: Asked): Promise<void> {
  const [, area] = path.split('/');
  const id = idFrom(params.id);
  if (area === 'teams') {
    if (id !== team.team) throw notYours(team);
    if (params.slug !== undefined && !(await hasHad(db, team, params.slug)))
      throw notFound('such lesson for your class');
    return;
  }
  if (area === 'robots') {
    const under = path.split('/')[3];
    // What the robot is stays known to its team; what it reads, and what is done with it, belongs to the hour. One statement where all is
    // well: tablets ask this many times a second.
    const open = under !== undefined && (await hasRobotSince(db, team.team, id, asked.at)) !== null;
    if (!open && !(await drives(db, team.team, id))) throw notYours(team);
    if (under === undefined) return;
    if (!open) throw notYourHour();
    // What is read is read for the team itself.
    if (asked.method === 'GET' || !forSomebody.includes(under)) return;
    const { whose, setIds = [] } = (asked.body ?? {}) as {
      whose?: { team?: unknown; lesson?: unknown };
      setIds?: unknown;
    };
    if (whose?.team !== team.team) throw notYours(team);
    if (!(await hasHad(db, team, String(whose.lesson)))) throw notFound('such lesson for your class');
    for (const set of Array.isArray(setIds) ? setIds.slice(0, 4) : [])
      if (
        !(await ownsRow(db, team, {
          table: 'sample_sets',
          id: idFrom(String(set)),
          at: asked.at,
          changes: false,
        }))
      )
        throw notYours(team);
    return;
  }
  if (area !== undefined && area in owned) {
    const table = owned[area as keyof typeof owned];
    if (!(await ownsRow(db, team, { table, id, at: asked.at, changes: asked.method !== 'GET' })))
      throw notYours(team);
    return;
  }
  if (area === 'kept-versions') {
    // Notes are kept by team, lesson and step.
    const { of, key } = asked.query;
    if (of !== 'note' || typeof key !== 'string' || !key.startsWith(`${team.team}/`)) throw notYours(team);
    return;
  }
  if (area === 'kits') {
    const rows = await db.query(
      `select 1 from teams t join robots r on r.id = t.robot_id join kits k on k.id = r.kit_id where t.id = $1 and k.slug = $2`,
      [team.team, params.slug],
    );
    if (rows.length === 0) throw notYours(team);
  }
}

/** Lets a request through that its role may make and whose things are its own, or throws a 401 or 403 with a sentence. */
export async function mustBeAllowed(
  db: Queries,
  who: Who,
  route: Route | OtherRoute,
  params: Params,
  asked: Omit<Asked, 'method'>,
): Promise<void> {
  if (!mayAsk(who.role, route)) throw who.role === 'nobody' ? signIn() : notYours(who);
  const [method, path] = route.split(' ') as [string, string];
  if (who.role === 'guest' && !(await isInvited(db, who, path, params, asked.query))) throw notInvited();
  if (who.role !== 'team') return;
  await mustBeOwn(db, who, path, params, { ...asked, method });
}
