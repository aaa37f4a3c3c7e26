import type { SeriesFile, SeriesPreview } from '@vigilum/contract/types';
import type { Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { one, type Database, type Queries } from '../db/database.ts';
import { notFound, Problem } from '../http/problems.ts';
import { addLesson } from '../lessons/store.ts';
import { ownSkillsOf } from '../plan/state.ts';

/** A series with its lessons, the skills that they give, and the kits of their robots. */
export async function seriesFile(db: Queries, id: number): Promise<SeriesFile> {
  const [series] = await db.query<{ name: string; aim: string; lessons: string[] }>(
    'select name, aim, lessons from series where id = $1 and removed_at is null',
    [id],
  );
  if (!series) throw notFound('such series');
  const rows = await db.query<{ slug: string; definition: Lesson }>(
    'select slug, definition from lessons where slug = any($1::text[]) and removed_at is null',
    [series.lessons],
  );
  const lessons = series.lessons.flatMap((slug) => rows.find((row) => row.slug === slug)?.definition ?? []);
  if (lessons.length === 0)
    throw new Problem(422, 'No lesson', 'Nothing was written: this series has no lesson that is still here.');
  const wanted = new Set(lessons.flatMap(({ robot }) => (robot ? [robot.kit] : [])));
  const kits = await db.query<{ definition: Kit }>(
    'select definition from kits where slug = any($1::text[]) and removed_at is null order by id',
    [[...wanted]],
  );
  const skills = (await ownSkillsOf(db)).filter(
    (skill) =>
      skill.lessons?.some((slug) => series.lessons.includes(slug)) ||
      lessons.some(({ needs }) => needs?.includes(skill.id)),
  );
  const [school] = await db.query<{ name: string | null }>(
    `select coalesce((select value #>> '{}' from meta where key = 'school'),
                     (select school from classes where removed_at is null order by id limit 1)) as name`,
  );
  return {
    format: 'vigilum-series',
    version: 1,
    name: series.name,
    aim: series.aim,
    from: school?.name ?? '',
    lessons,
    skills: skills.map((skill) => ({
      ...skill,
      lessons: skill.lessons?.filter((slug) => series.lessons.includes(slug)) ?? [],
    })),
    kits: kits.map(({ definition }) => definition),
  };
}

/** The same whatever the order of keys is: what a database gives back has its own. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_key, one: unknown) =>
    one !== null && typeof one === 'object' && !Array.isArray(one)
      ? Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1)))
      : one,
  );

/**
 * Looks at what a series would bring, and takes it in where that is wished: lessons, skills and kits that are not here; a lesson that
 * differs from one of its name comes beside it and says where it is from.
 */
export async function takeSeries(
  db: Database,
  file: SeriesFile,
  take: boolean,
  at: Date,
): Promise<{ preview: SeriesPreview; made: { slug: string }[] }> {
  const rows = await db.query<{ slug: string; definition: Lesson }>(
    'select slug, definition from lessons where slug = any($1::text[]) and removed_at is null',
    [file.lessons.map(({ slug }) => slug)],
  );
  const skillsHere = new Set((await ownSkillsOf(db)).map(({ id }) => id));
  const kitsHere = new Set(
    (await db.query<{ slug: string }>('select slug from kits where removed_at is null')).map(
      ({ slug }) => slug,
    ),
  );
  const is = (lesson: Lesson): 'new' | 'same' | 'other' => {
    const there = rows.find(({ slug }) => slug === lesson.slug);
    return !there ? 'new' : canonical(there.definition) === canonical(lesson) ? 'same' : 'other';
  };
  const preview: SeriesPreview = {
    name: file.name,
    aim: file.aim,
    from: file.from,
    lessons: file.lessons.map((lesson) => ({ title: lesson.title, is: is(lesson) })),
    skills: file.skills.map(({ id, name }) => ({ name, is: skillsHere.has(id) ? 'same' : 'new' })),
    kits: file.kits.map(({ slug, name }) => ({ name, is: kitsHere.has(slug) ? 'same' : 'new' })),
    id: null,
  };
  if (!take) return { preview, made: [] };
  for (const kit of file.kits)
    if (!kitsHere.has(kit.slug))
      await db.query(
        `insert into kits (slug, name, definition) values ($1, $2, $3::jsonb)
         on conflict (school_id, slug) do update set name = excluded.name, definition = excluded.definition, removed_at = null`,
        [kit.slug, kit.name, JSON.stringify(kit)],
      );
  // What each lesson of the file is called here.
  const named = new Map<string, string>();
  const made: { slug: string }[] = [];
  for (const lesson of file.lessons) {
    if (is(lesson) === 'same') {
      named.set(lesson.slug, lesson.slug);
      continue;
    }
    const row = await addLesson(
      db,
      { ...lesson, origin: lesson.origin ?? { title: lesson.title, slug: lesson.slug, from: file.from } },
      at,
    );
    named.set(lesson.slug, row.definition.slug);
    made.push({ slug: row.definition.slug });
  }
  for (const { id, name, shows, needs, lessons } of file.skills)
    if (!skillsHere.has(id))
      await db.query(
        `insert into own_skills (id, name, shows, needs, lessons) values ($1, $2, $3, $4::jsonb, $5::jsonb)
         on conflict (school_id, id) do update set name = excluded.name, shows = excluded.shows, needs = excluded.needs,
           lessons = excluded.lessons, removed_at = null`,
        [
          id,
          name,
          shows,
          JSON.stringify(needs),
          JSON.stringify((lessons ?? []).map((slug) => named.get(slug) ?? slug)),
        ],
      );
  const { id } = await one<{ id: number }>(
    db,
    'insert into series (name, aim, lessons, changed_at) values ($1, $2, $3::jsonb, $4) returning id',
    [file.name, file.aim, JSON.stringify(file.lessons.map(({ slug }) => named.get(slug)!)), at.toISOString()],
  );
  return { preview: { ...preview, id }, made };
}
