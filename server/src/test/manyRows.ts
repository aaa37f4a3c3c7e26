import type { Database } from '../db/database.ts';

/** How much there is of everything. */
export interface Amount {
  classes: number;
  /** Of each class. */
  teams: number;
  hours: number;
}

/**
 * Fills a database with what schools gather in years, beside what it holds: classes with their teams and robots, hours, and in each hour
 * of each team a script, readings, a threshold, tries, a proof, a trial, notes and visits. Made by the database itself; the texts are short and the
 * lessons are those that are there.
 */
export async function fillWithYears(db: Database, { classes, teams, hours }: Amount): Promise<void> {
  type Table = 'class' | 'team' | 'robot' | 'period' | 'work';
  const [at] = await db.query<Record<Table | 'kit', number>>(
    `select (select max(id) from classes) as class, (select max(id) from teams) as team, (select max(id) from robots) as robot,
            (select max(id) from periods) as period, (select max(id) from works) as work, (select min(id) from kits) as kit`,
  );
  const first = (table: Table) => at![table] + 1;
  const n = { team: classes * teams, period: classes * hours, work: classes * teams * hours };
  const make = (sql: string, params: number[] = []) => db.query(sql, params);
  await make(
    `insert into classes (id, school, name) overriding system value
     select $1::int + i, 'Far Harbour School', 'Class ' || i from generate_series(0, $2::int - 1) i`,
    [first('class'), classes],
  );
  await make(
    `insert into robots (id, kit_id, name, build, stand_in) overriding system value
     select $1::int + i, $3::int, 'Far ' || i, (select build from robots order by id limit 1), '{}' from generate_series(0, $2::int - 1) i`,
    [first('robot'), n.team, at!.kit],
  );
  await make(
    `insert into teams (id, class_id, robot_id, name) overriding system value
     select $1::int + i, $2::int + i / $5::int, $3::int + i, 'Team ' || i from generate_series(0, $4::int - 1) i`,
    [first('team'), first('class'), first('robot'), n.team, teams],
  );
  await make(
    `insert into periods (id, class_id, lesson_id, starts_at, minutes, first_id, began_at) overriding system value
     select $1::int + i, $2::int + i / $4::int, l.id, at, 50, $1::int + i, at
       from generate_series(0, $3::int - 1) i
       cross join lateral (select timestamptz '2025-09-01' + (i % $4::int) * interval '4 days' as at) as t
       join (select id, row_number() over (order by id) - 1 as nth, count(*) over () as all from lessons) l on l.nth = i % l.all`,
    [first('period'), first('class'), n.period, hours],
  );
  await make(
    `insert into works (id, team_id, lesson_id, first_period_id) overriding system value
     select $1::int + i, $2::int + i / $5::int, p.lesson_id, p.id from generate_series(0, $4::int - 1) i
       join periods p on p.id = $3::int + (i / ($5::int * $6::int)) * $5::int + i % $5::int`,
    [first('work'), first('team'), first('period'), n.work, hours, teams],
  );
  const perWork = (into: string, values: string) =>
    make(
      `insert into ${into} select ${values} from works w join teams t on t.id = w.team_id
        cross join lateral (select timestamptz '2025-09-01' + (w.id % 3000) * interval '1 hour' as at) as m where w.id >= $1::int`,
      [first('work')],
    );
  await perWork('script_versions (work_id, version, text, saved_at)', `w.id, 1, 'stop', at`);
  await perWork('script_documents (work_id, revision, text, changed_at)', `w.id, 1, 'stop', at`);
  await perWork(
    'sample_sets (robot_id, work_id, socket, kind, surface, readings, taken_at)',
    `t.robot_id, w.id, 'K3', 'light', 'tide line', '{20,21,22}', at`,
  );
  await perWork(
    'thresholds (robot_id, work_id, socket, value, method, decided_at)',
    `t.robot_id, w.id, 'K3', 48, 'stop gap', at`,
  );
  await perWork(
    'tries (work_id, script_version, start_name, seed, judgements, tried_at)',
    `w.id, 1, 'pier', 1, '[]', at`,
  );
  await perWork('floor_trials (work_id, past_mm, tried_at)', 'w.id, 12, at');
  await perWork('step_visits (work_id, period_id, step_id, hour_s)', `w.id, w.first_period_id, 'read', 60`);
  await perWork('step_notes (work_id, step_id, text, at)', `w.id, 'read', 'seen', at`);
  await perWork(
    'quick_looks (robot_id, work_id, socket, surface, readings, taken_at)',
    `t.robot_id, w.id, 'K3', 'tide line', '{20,21,22,20,21}', at`,
  );
  await perWork(
    'recordings (robot_id, work_id, socket, kind, purpose, period_ms, readings, taken_at)',
    `t.robot_id, w.id, 'K3', 'light', 'sweep', 20, '{20,40,60}', at`,
  );
  await perWork('script_updates (work_id, revision, client, changes)', `w.id, 1, 'c', '[4]'`);
  // A proof is long: most teams have none in most hours.
  await make(
    `insert into proofs (work_id, script_version, seed, proof, proved_at)
     select w.id, 1, 1, p.proof, now() from works w cross join (select proof from proofs order by id limit 1) p
      where w.id >= $1::int and w.id % 10 = 0`,
    [first('work')],
  );
  for (const table of ['classes', 'robots', 'teams', 'periods', 'works'])
    await make(`select setval(pg_get_serial_sequence('${table}', 'id'), (select max(id) from ${table}))`);
  await db.exec('analyze');
}
