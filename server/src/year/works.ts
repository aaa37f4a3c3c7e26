import { measuresOf, type Lesson } from '@vigilum/core/lesson';
import type { Results, ResultKey } from '@vigilum/core/tuning';
import type { Work } from '@vigilum/core/year';
import { loadTeams } from '../classes/records.ts';
import { ms } from '../classes/rows.ts';
import type { Queries } from '../db/database.ts';
import { walksOf } from '../tuning/walk.ts';

/** The result that a prediction speaks of, by what the lesson measures first. */
const asked: Record<string, ResultKey> = { past: 'past', gap: 'gap', turn: 'turned', count: 'count' };

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

/** The works of some teams with their walks and predictions, oldest hour first. A dozen statements for each hour’s lesson, and five for all walks and predictions. */
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
  const loaded = [];
  for (const { teams: mine, lesson_id, definition, first } of groups)
    for (const { work, ...one } of await loadTeams(
      db,
      mine,
      { id: lesson_id, lesson: definition },
      { first },
    ))
      if (work !== null) loaded.push({ work, one });
  const ids = loaded.map(({ work }) => work);
  const predictions = await predictionsOf(db, ids);
  const walks = await walksOf(
    db,
    loaded.map(({ work, one }) => ({ work, lesson: one.lesson })),
  );
  return loaded.map(({ work, one }): Work => {
    const [measure] = measuresOf(one.lesson);
    const key = measure === undefined ? undefined : asked[measure];
    return {
      ...one,
      walk: walks.get(work) ?? [],
      predictions: (predictions.get(work) ?? []).flatMap(({ said, results, past, at }) => {
        const came = key === undefined ? undefined : (results[key] ?? (key === 'past' ? past : undefined));
        return came === undefined || came === null ? [] : [{ said, came, at }];
      }),
    };
  });
}
