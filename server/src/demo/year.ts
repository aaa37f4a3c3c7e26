import { DateTime } from 'luxon';
import type { Proof } from '@vigilum/core/expect';
import { prove, rehearse, tryCircumstances, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { addHour } from '../classes/hours.ts';
import { one, type Queries } from '../db/database.ts';
import { planHour } from '../plan/meetings.ts';
import { cobbleBuild } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { usualLessons } from '../starter/lessons/index.ts';
import type { Crew } from './otherHours.ts';

const DAY_MS = 86_400_000;
const WEEK_MS = 7 * DAY_MS;
const ZONE = 'Europe/London';

/** Minutes into its lesson at which the demo’s class is: its meetings are weeks from when that began. */
const INTO_MIN = 28;

const things: [
  kind: string,
  name: string,
  shelf: string,
  count: number,
  broken: number,
  before: number,
  after: number,
][] = [
  ['mat', 'Tide line', 'A1', 2, 0, 5, 5],
  ['mat', 'Channel', 'A1', 2, 0, 5, 5],
  ['mat', 'Lanes', 'A2', 2, 1, 5, 5],
  ['mat', 'Boathouse', 'A2', 2, 0, 10, 10],
  ['mat', 'Quay', 'A3', 2, 0, 10, 10],
  ['charger', 'plugs by the window', 'B1', 9, 0, 0, 35],
  ['box', 'cargo boxes', 'B2', 24, 3, 0, 0],
  ['other', 'rulers, 30 cm', 'B2', 16, 0, 0, 0],
  ['room', 'Chart room', '', 1, 0, 0, 0],
  ['room', 'Boat shed', '', 1, 0, 0, 0],
];

/** What each team of an hour that is over came to: the model answer, proved or only run; or a usual fault of the lesson. */
type Came = 'proved' | 'ran' | 'fault' | 'away';

const lessonOf = (slug: string): Lesson => usualLessons.find((lesson) => lesson.slug === slug)!;

interface PastTeam {
  team: number;
}

/** Robots were put together alike for a lesson: what one of them proves of a script, all do. */
const proved = new Map<string, Proof>();
const proofOf = (key: string, make: () => Proof): Proof => {
  const known = proved.get(key) ?? make();
  proved.set(key, known);
  return known;
};

async function pastHour(
  tx: Queries,
  hour: { klass: number; slug: string; startsAt: number; meeting: number | null },
  teams: readonly PastTeam[],
  came: readonly Came[],
): Promise<void> {
  const lesson = lessonOf(hour.slug);
  const { id: lessonId } = await one<{ id: number }>(tx, 'select id from lessons where slug = $1', [
    hour.slug,
  ]);
  const startsAt = new Date(hour.startsAt);
  const made = await addHour(tx, {
    classId: hour.klass,
    lessonId,
    startsAt,
    minutes: 50,
    began: true,
    anew: true,
  });
  await tx.query('update periods set ended_at = $2, meeting_id = $3 where id = $1', [
    made.id,
    new Date(hour.startsAt + 50 * 60_000).toISOString(),
    hour.meeting,
  ]);
  for (const [i, { team }] of teams.entries()) {
    const result = came[i % came.length]!;
    if (result === 'away') continue;
    const at = (minute: number) => new Date(hour.startsAt + (minute + i) * 60_000).toISOString();
    const { id: work } = await one<{ id: number }>(
      tx,
      'insert into works (team_id, lesson_id, first_period_id) values ($1, $2, $3) returning id',
      [team, lessonId, made.first_id],
    );
    const text = result === 'fault' ? (lesson.faults?.[0]?.script ?? lesson.startScript) : lesson.modelScript;
    await tx.query('insert into script_versions (work_id, version, text, saved_at) values ($1, 1, $2, $3)', [
      work,
      text,
      at(18),
    ]);
    const program = parseScript(text);
    if (!canRun(program)) continue;
    // Judged on a plain robot of the kit.
    const known: KnownRobot = {
      kit: cobble,
      build: cobbleBuild,
      sets: [],
      thresholds: lesson.robot?.thresholds ?? {},
    };
    const { judgements } = rehearse(lesson, known, program, tryCircumstances(lesson, 'A', 60 + i));
    await tx.query(
      `insert into tries (work_id, script_version, start_name, seed, judgements, past_mm, tried_at)
       values ($1, 1, 'A', $2, $3::jsonb, null, $4)`,
      [work, 60 + i, JSON.stringify(judgements), at(22)],
    );
    if (result === 'ran') continue;
    const { runs, seed } = lesson.proof;
    const proof = proofOf(`${hour.slug} ${result}`, () => prove(lesson, known, program, seed, runs).proof);
    await tx.query(
      'insert into proofs (work_id, script_version, seed, proof, proved_at) values ($1, 1, $2, $3::jsonb, $4)',
      [work, seed, JSON.stringify(proof), at(30)],
    );
  }
}

/** The year around the demo’s hour: two terms with a second class, last year’s class put away, the cupboard, and a clash to be solved. */
export async function seedYear(tx: Queries, klass: number, crews: readonly Crew[], now: Date): Promise<void> {
  const began = now.getTime() - INTO_MIN * 60_000;
  // Weeks later at the same time by the school’s clock, whatever the clock does in between.
  const at = (weeks: number, days = 0) =>
    DateTime.fromMillis(began, { zone: ZONE }).plus({ weeks, days }).toMillis();
  const dayOf = (moment: number) => new Intl.DateTimeFormat('sv-SE', { timeZone: ZONE }).format(moment);
  const insert = async (sql: string, params: unknown[]) =>
    (await one<{ id: number }>(tx, `${sql} returning id`, params)).id;
  await tx.query(`insert into meta (key, value) values ('zone', to_jsonb($1::text))`, [ZONE]);
  const rows = new Map<string, number>();
  for (const [kind, name, shelf, count, broken, before, after] of things)
    rows.set(
      name,
      await insert(
        `insert into things (kind, name, shelf, count, broken, before_min, after_min) values ($1, $2, $3, $4, $5, $6, $7)`,
        [kind, name, shelf, count, broken, before, after],
      ),
    );
  const term = (name: string, from: number, to: number) =>
    insert('insert into terms (name, from_day, to_day) values ($1, $2, $3)', [
      name,
      dayOf(began + from * WEEK_MS),
      dayOf(began + to * WEEK_MS),
    ]);
  const first = await term('First term', -22, -9);
  const second = await term('Second term', -4, 9);
  await insert('insert into days_off (name, from_day, to_day) values ($1, $2, $3)', [
    'Half-term week',
    dayOf(began + 4 * WEEK_MS - 3 * DAY_MS),
    dayOf(began + 4 * WEEK_MS + 3 * DAY_MS),
  ]);
  const meet = (of: number, at: number, room: string, termId: number, lost: string | null = null) =>
    insert(
      'insert into meetings (class_id, term_id, starts_at, minutes, room_id, lost) values ($1, $2, $3, 50, $4, $5)',
      [of, termId, new Date(at).toISOString(), rows.get(room), lost],
    );

  // The class of the hour: what it had, what is planned for it.
  const own = crews.map(({ team }) => ({ team }));
  const past = await meet(klass, at(-3), 'Chart room', second);
  await pastHour(tx, { klass, slug: 'hold-a-bearing', startsAt: at(-3), meeting: past }, own, [
    'proved',
    'proved',
    'ran',
    'proved',
    'proved',
    'fault',
    'proved',
    'away',
  ]);
  await meet(klass, at(-2), 'Chart room', second, 'Storm, school closed');
  for (const week of [-1, 0, 1]) {
    const meeting = await meet(klass, at(week), 'Chart room', second);
    await tx.query(
      'update periods set meeting_id = $2, starts_at = $3 where class_id = $1 and starts_at = $4',
      [klass, meeting, new Date(at(week)).toISOString(), new Date(began + week * WEEK_MS).toISOString()],
    );
  }
  const planned = async (of: number, meeting: number, slug: string, startsAt: number) => {
    const { id: lessonId } = await one<{ id: number }>(tx, 'select id from lessons where slug = $1', [slug]);
    await planHour(tx, of, lessonId, { id: meeting, starts_at: new Date(startsAt), minutes: 50 });
  };
  for (const [week, slug] of [
    [2, 'count-the-lanes'],
    [3, 'piers-edge'],
    [5, 'stop-short'],
    [6, null],
    [7, null],
    [8, null],
  ] as const) {
    const meeting = await meet(klass, at(week), 'Chart room', second);
    if (slug) await planned(klass, meeting, slug, at(week));
  }

  // A second class with the same robots, two days later; once it is at the same time.
  const other = await insert('insert into classes (school, name) values ($1, $2)', [
    'Ternmouth Harbour School',
    '8 Razorbill',
  ]);
  const others: PastTeam[] = [];
  for (const [i, name] of ['Eider', 'Grebe', 'Knot', 'Scoter', 'Smew'].entries())
    others.push({
      team: await insert('insert into teams (class_id, robot_id, name) values ($1, $2, $3)', [
        other,
        crews[i]!.robot,
        name,
      ]),
    });
  for (const [week, slug, came] of [
    [-4, 'hold-a-bearing', ['proved', 'proved', 'proved', 'ran', 'proved']],
    [-3, 'stop-short', ['proved', 'ran', 'proved', 'fault', 'proved']],
    [-2, 'back-off-five', ['proved', 'proved', 'ran', 'fault', 'away']],
  ] as const) {
    const meeting = await meet(other, at(week, 2), 'Boat shed', second);
    await pastHour(tx, { klass: other, slug, startsAt: at(week, 2), meeting }, others, came);
  }
  for (const [week, slug] of [
    [0, 'tide-line'],
    [1, 'look-both-ways'],
    [2, 'count-the-lanes'],
    [3, null],
    [5, null],
    [6, null],
  ] as const) {
    // In the week after next its day is taken by a trip: it meets when the other class does.
    const startsAt = week === 2 ? at(2) : at(week, 2);
    const meeting = await meet(other, startsAt, 'Boat shed', second);
    if (slug) await planned(other, meeting, slug, startsAt);
  }

  // Last year’s class is put away with what it did.
  const gone = await insert('insert into classes (school, name, archived_at) values ($1, $2, $3)', [
    'Ternmouth Harbour School',
    '9 Turnstone',
    new Date(began - 8 * WEEK_MS).toISOString(),
  ]);
  const before: PastTeam[] = [];
  for (const [i, name] of ['Dotterel', 'Ruff', 'Whimbrel'].entries())
    before.push({
      team: await insert('insert into teams (class_id, robot_id, name) values ($1, $2, $3)', [
        gone,
        crews[i + 5]!.robot,
        name,
      ]),
    });
  for (const [week, slug] of [
    [-20, 'hold-a-bearing'],
    [-18, 'stop-short'],
    [-16, 'back-off-five'],
  ] as const) {
    const meeting = await meet(gone, at(week), 'Chart room', first);
    await pastHour(tx, { klass: gone, slug, startsAt: at(week), meeting }, before, [
      'proved',
      'proved',
      'ran',
    ]);
  }
}
