import { evidenceOf, nextAfter, planLessonOf, skills, type Next } from '@vigilum/core/year';
import { boardTeamIds, periodById } from '../classes/periods.ts';
import type { Queries } from '../db/database.ts';
import { overrulingsOf } from '../year/overrulings.ts';
import { worksOf } from '../year/works.ts';
import { ownSkillsOf, plannableLessons } from './state.ts';

/** What to do after an hour of a class, from the evidence of all its hours. */
export async function nextOf(db: Queries, id: string, now: Date): Promise<Next> {
  const period = await periodById(db, id);
  const ids = await boardTeamIds(db, period);
  const teams = await db.query<{ id: number; name: string }>(
    'select id, name from teams where id = any($1::int[]) order by id',
    [ids],
  );
  const own = await ownSkillsOf(db);
  const evidence = (await worksOf(db, ids)).map((work) => ({
    team: work.team.id,
    found: evidenceOf(work, own),
  }));
  const said = await overrulingsOf(db, ids);
  const had = await db.query<{ slug: string }>(
    `select distinct l.slug from periods p join lessons l on l.id = p.lesson_id
      where p.class_id = $1 and p.removed_at is null and p.began_at is not null`,
    [period.class_id],
  );
  const kits = await db.query<{ slug: string }>(
    `select distinct k.slug from teams t join robots r on r.id = t.robot_id join kits k on k.id = r.kit_id where t.id = any($1::int[])`,
    [ids],
  );
  const lessons = (await plannableLessons(db, own)).filter((lesson) =>
    kits.every(({ slug }) => lesson.kits.includes(slug)),
  );
  return nextAfter({
    lesson: planLessonOf(period.definition, own),
    teams: teams.map((team) => ({
      ...team,
      evidence: evidence.filter((one) => one.team === team.id).flatMap(({ found }) => found),
      overruled: said.get(team.id) ?? {},
    })),
    lessons: lessons.map(({ kits: _kits, ...lesson }) => lesson),
    had: had.map(({ slug }) => slug),
    map: [...skills, ...own],
    now: now.getTime(),
  });
}
