import { measuresOf, type Lesson } from '@vigilum/core/lesson';
import type { Results, ResultKey } from '@vigilum/core/tuning';
import type { Work } from '@vigilum/core/year';
import { loadTeams } from '../classes/records.ts';
import { ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';
import { walkTrials } from '../tuning/walk.ts';

/** The result that a prediction speaks of, by what the lesson measures first. */
const asked: Record<string, ResultKey> = { past: 'past', gap: 'gap', turn: 'turned', count: 'count' };

/** From so many trials on a work has a walk that says something. */
const WALK = 4;

/** What was predicted before a run, and what it came to. */
async function predictionsOf(
  db: Queries,
  works: readonly number[],
): Promise<Map<number, { said: number; results: Results; past: number | null; at: number }[]>> {
  const rows = await db.query<{
    work_id: number;
    predicted_mm: number;
    past_mm: number | null;
    results: Results;
    tried_at: Date;
  }>(
    `select work_id, predicted_mm, past_mm, results, tried_at from tries
      where work_id = any($1::int[]) and predicted_mm is not null and not tuned order by work_id, tried_at, id`,
    [works],
  );
  const found = new Map<number, { said: number; results: Results; past: number | null; at: number }[]>();
  for (const { work_id, predicted_mm, past_mm, results, tried_at } of rows)
    found.set(work_id, [
      ...(found.get(work_id) ?? []),
      { said: predicted_mm, results, past: past_mm, at: ms(tried_at) },
    ]);
  return found;
}

/** The works of some teams with their walks and predictions, oldest hour first. As many statements as the class had lessons, and a few a walk. */
export async function worksOf(db: Queries, teams: readonly number[]): Promise<Work[]> {
  const groups = await db.query<{
    lesson_id: number;
    definition: Lesson;
    first: number | null;
    teams: number[];
  }>(
    `select w.lesson_id, l.definition, w.first_period_id as first, array_agg(w.team_id order by w.team_id) as teams
       from works w join lessons l on l.id = w.lesson_id left join periods p on p.id = w.first_period_id
      where w.team_id = any($1::int[]) and p.removed_at is null
      group by w.lesson_id, l.definition, w.first_period_id, p.starts_at order by p.starts_at nulls first, w.lesson_id`,
    [[...teams]],
  );
  const found: Work[] = [];
  for (const group of groups) {
    const loaded = await loadTeams(
      db,
      group.teams,
      { id: group.lesson_id, lesson: group.definition },
      { first: group.first },
    );
    const ids = loaded.flatMap(({ work }) => work ?? []);
    const predictions = await predictionsOf(db, ids);
    const walks = await db.query<{ work_id: number }>(
      `select work_id from (select work_id from tries where work_id = any($1::int[])
         union all select work_id from floor_trials where work_id = any($1::int[]) and removed_at is null) as t
        group by work_id having count(*) >= ${WALK}`,
      [ids],
    );
    const walked = new Set(walks.map(({ work_id }) => work_id));
    for (const { work, ...one } of loaded) {
      if (work === null) continue;
      const [measure] = measuresOf(one.lesson);
      const key = measure === undefined ? undefined : asked[measure];
      found.push({
        ...one,
        walk: walked.has(work) ? await walkTrials(db, work, one.lesson) : [],
        predictions: (predictions.get(work) ?? []).flatMap(({ said, results, past, at }) => {
          const came = key === undefined ? undefined : (results[key] ?? (key === 'past' ? past : undefined));
          return came === undefined || came === null ? [] : [{ said, came, at }];
        }),
      });
    }
  }
  return found;
}
