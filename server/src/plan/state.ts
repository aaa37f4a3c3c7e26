import { hourState } from '@vigilum/core/classroom';
import { kitFit, type Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { isZone, planLessonOf, takesOf, type Skill } from '@vigilum/core/year';
import type {
  CupboardRobot,
  CupboardThing,
  DayOffEntry,
  MeetingEntry,
  PlanHour,
  PlannableLesson,
  Series,
  Term,
  YearPlan,
} from '@vigilum/contract/types';
import type { Sees } from '../access/guests.ts';
import { timesOf } from '../classes/periods.ts';
import { ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';

/** A thing of the cupboard that has a row of its own, as its id in plans. */
export const thingId = (row: number): string => `thing-${row}`;
export const kitThing = (slug: string): string => `kit-${slug}`;
export const rowOfThing = (id: string | null): number | null => {
  const found = id === null ? null : /^thing-(\d{1,9})$/.exec(id);
  return found ? Number(found[1]) : null;
};

/** Hours and meetings of so many days before now are part of the plan: this year and the last. */
const PAST_DAYS = 500;

const machineZone = (): string => {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return isZone(zone) ? zone : 'UTC';
};

/** The school's clock, and how long robots are laid out and cleared away; as the machine has it where nobody said. */
export async function settingsOf(db: Queries): Promise<Pick<YearPlan, 'zone' | 'robotTimes'>> {
  const rows = await db.query<{ key: string; value: unknown }>(
    `select key, value from meta where key in ('zone', 'robot times')`,
  );
  const value = (key: string) => rows.find((row) => row.key === key)?.value;
  const zone = value('zone');
  return {
    zone: typeof zone === 'string' && isZone(zone) ? zone : machineZone(),
    robotTimes: (value('robot times') as YearPlan['robotTimes'] | undefined) ?? { beforeMin: 5, afterMin: 5 },
  };
}

export async function ownSkillsOf(db: Queries): Promise<Skill[]> {
  return db.query<Skill>(
    'select id, name, shows, needs, lessons from own_skills where removed_at is null order by id',
  );
}

/** What planning knows of the lessons of a database, by their revisions: parsing scripts is work. */
const remembered = new WeakMap<Queries, Map<string, PlannableLesson>>();

/** All lessons as planning sees them, with the kits that can do them. */
export async function plannableLessons(db: Queries, own: readonly Skill[]): Promise<PlannableLesson[]> {
  const kits = await db.query<{ id: number; slug: string; definition: Kit; revision: number }>(
    'select id, slug, definition, revision from kits where removed_at is null order by id',
  );
  const rows = await db.query<{ id: number; definition: Lesson; revision: number }>(
    'select id, definition, revision from lessons where removed_at is null order by id',
  );
  // By their ids: another school’s lesson of the same name is another.
  const kitKey = kits.map(({ id, revision }) => `${id} ${revision}`).join();
  const ownKey = JSON.stringify(own);
  const known = remembered.get(db) ?? new Map<string, PlannableLesson>();
  remembered.set(db, known);
  if (known.size > 2000) known.clear();
  return rows.map(({ id, definition, revision }) => {
    const key = `${id} ${revision} ${kitKey} ${ownKey}`;
    let found = known.get(key);
    if (!found) {
      found = {
        ...planLessonOf(definition, own),
        kits: kits
          .filter((kit) => kitFit(definition, kit.definition).grade !== 'missing')
          .map(({ slug }) => slug),
      };
      known.set(key, found);
    }
    return found;
  });
}

async function cupboardOf(db: Queries, { robotTimes }: Pick<YearPlan, 'robotTimes'>) {
  const robots = await db.query<CupboardRobot & { kit_name: string }>(
    `select r.id, r.name, k.slug as kit, k.name as kit_name, r.cupboard, r.away
       from robots r join kits k on k.id = r.kit_id
      where r.removed_at is null and r.archived_at is null order by r.id`,
  );
  const rows = await db.query<
    Omit<CupboardThing, 'id'> & { id: number; before_min: number; after_min: number }
  >(
    `select id, kind, name, shelf, count, broken, out, before_min, after_min from things
      where removed_at is null order by kind, lower(name), id`,
  );
  const kits = [...new Map(robots.map(({ kit, kit_name }) => [kit, kit_name]))];
  const things: CupboardThing[] = [
    ...kits.map(([kit, name]): CupboardThing => {
      const own = robots.filter((robot) => robot.kit === kit);
      const away = (what: CupboardRobot['away']) => own.filter((robot) => robot.away === what).length;
      return {
        id: kitThing(kit),
        row: null,
        kind: 'robots',
        name: `${name} robots`,
        shelf: [...new Set(own.map(({ cupboard }) => cupboard).filter((one) => one !== ''))].join(', '),
        count: own.length,
        broken: away('broken'),
        out: away('out'),
        ...robotTimes,
      };
    }),
    ...rows.map(({ id, before_min, after_min, ...row }): CupboardThing => ({
      ...row,
      id: thingId(id),
      row: id,
      beforeMin: before_min,
      afterMin: after_min,
    })),
  ];
  return { robots: robots.map(({ kit_name: _name, ...robot }): CupboardRobot => robot), things };
}

async function classesOf(db: Queries): Promise<YearPlan['classes']> {
  const rows = await db.query<{ id: number; name: string; kit: string | null; n: number }>(
    `select c.id, c.name, k.slug as kit, count(t.id)::int as n
       from classes c left join teams t on t.class_id = c.id and t.removed_at is null
       left join robots r on r.id = t.robot_id left join kits k on k.id = r.kit_id
      where c.removed_at is null and c.archived_at is null
      group by c.id, c.name, k.slug order by c.name, c.id, k.slug`,
  );
  const ids = [...new Set(rows.map(({ id }) => id))];
  return ids.map((id) => {
    const own = rows.filter((row) => row.id === id);
    const kits = own.flatMap(({ kit, n }) => (kit === null ? [] : [{ kit, n }]));
    return {
      id,
      name: own[0]!.name,
      teams: own.reduce((sum, { n }) => sum + n, 0),
      robots: kits.map(({ kit, n }) => ({ thing: kitThing(kit), count: n })),
      kits: kits.map(({ kit }) => kit),
    };
  });
}

interface HourRow {
  id: number;
  class_id: number;
  slug: string;
  title: string;
  starts_at: Date;
  minutes: number;
  began_at: Date | null;
  paused_at: Date | null;
  paused_s: number;
  ended_at: Date | null;
  meeting_id: number | null;
  shared: boolean;
}

/** A plan with those classes alone that somebody sees. */
export const planSeen = (plan: YearPlan, sees: Sees): YearPlan => ({
  ...plan,
  terms: plan.terms.map((term) => ({ ...term, classes: term.classes.filter(({ id }) => sees(id)) })),
  classes: plan.classes.filter(({ id }) => sees(id)),
  meetings: plan.meetings.filter((meeting) => sees(meeting.class)),
  hours: plan.hours.filter((hour) => sees(hour.class)),
});

/** Everything that the pages of the plan work from. Ten statements. */
export async function planOf(db: Queries, now: number): Promise<YearPlan> {
  const since = new Date(now - PAST_DAYS * 86_400_000).toISOString();
  const settings = await settingsOf(db);
  const skills = await ownSkillsOf(db);
  const lessons = await plannableLessons(db, skills);
  const { robots, things } = await cupboardOf(db, settings);
  const classes = await classesOf(db);
  const terms = await db.query<Term>(
    `select t.id, t.name, t.from_day as "from", t.to_day as "to",
            coalesce((select jsonb_agg(jsonb_build_object('id', c.id, 'name', c.name) order by c.name, c.id)
                        from classes c where c.removed_at is null and exists (
                          select 1 from meetings m where m.term_id = t.id and m.class_id = c.id and m.removed_at is null)), '[]') as classes
       from terms t where t.removed_at is null order by t.from_day, t.id`,
  );
  const daysOff = await db.query<DayOffEntry>(
    'select id, name, from_day as "from", to_day as "to" from days_off where removed_at is null order by from_day, id',
  );
  const meetings = await db.query<{
    id: number;
    class_id: number;
    term_id: number | null;
    starts_at: Date;
    minutes: number;
    room_id: number | null;
    lost: string | null;
  }>(
    `select m.id, m.class_id, m.term_id, m.starts_at, m.minutes, m.room_id, m.lost
       from meetings m join classes c on c.id = m.class_id
      where m.removed_at is null and c.removed_at is null and c.archived_at is null and m.starts_at > $1 order by m.starts_at, m.id`,
    [since],
  );
  const hours = await db.query<HourRow>(
    `select p.id, p.class_id, l.slug, l.title, p.starts_at, p.minutes, p.began_at, p.paused_at, p.paused_s, p.ended_at,
            p.meeting_id, p.shared
       from periods p join classes c on c.id = p.class_id join lessons l on l.id = p.lesson_id
      where p.removed_at is null and c.removed_at is null and c.archived_at is null and p.starts_at > $1 order by p.starts_at, p.id`,
    [since],
  );
  const series = await db.query<Series>(
    `select id, name, aim, lessons, shipped is not null as shipped from series where removed_at is null order by id`,
  );
  const shown = meetings.map(
    ({ id, class_id, term_id, starts_at, minutes, room_id, lost }): MeetingEntry => ({
      id,
      class: class_id,
      term: term_id,
      startsAt: ms(starts_at),
      minutes,
      room: room_id === null ? null : thingId(room_id),
      lost,
    }),
  );
  const roomOf = new Map(shown.map(({ id, room }) => [id, room]));
  const byClass = new Map(classes.map((one) => [one.id, one]));
  const bySlug = new Map(lessons.map((one) => [one.slug, one]));
  return {
    now,
    ...settings,
    terms,
    daysOff,
    things,
    robots,
    classes,
    meetings: shown,
    lessons,
    skills,
    series,
    hours: hours.map((row): PlanHour => {
      const times = timesOf(row);
      const klass = byClass.get(row.class_id)!;
      const room = row.meeting_id === null ? null : (roomOf.get(row.meeting_id) ?? null);
      return {
        id: row.id,
        class: row.class_id,
        lesson: { slug: row.slug, title: row.title },
        startsAt: times.startsAt,
        minutes: row.minutes,
        open: hourState(times, now) === 'planned',
        meeting: row.meeting_id,
        shared: row.shared,
        takes: takesOf(klass, bySlug.get(row.slug) ?? { mat: '' }, things, { shared: row.shared, room }),
      };
    }),
  };
}
