import type { Database } from '../db/database.ts';

/** How much there is of everything. */
export interface Amount {
  schools: number;
  /** Of each school. */
  classes: number;
  /** Of each class. */
  teams: number;
  hours: number;
}

/**
 * Fills a database with what schools gather in years, beside what it holds: schools with the kits and lessons of the first, classes with their
 * teams and robots, hours, and in each hour of each team a script, readings, a threshold, tries, a proof, a trial, notes and visits. Made by the
 * database itself; the texts are short.
 */
export async function fillWithYears(db: Database, amount: Amount): Promise<void> {
  const { schools, teams, hours } = amount;
  const classes = schools * amount.classes;
  type Table = 'school' | 'class' | 'team' | 'robot' | 'period' | 'work';
  const [at] = await db.query<Record<Table, number>>(
    `select (select max(id) from schools) as school, (select max(id) from classes) as class, (select max(id) from teams) as team,
            (select max(id) from robots) as robot, (select max(id) from periods) as period, (select max(id) from works) as work`,
  );
  const first = (table: Table) => at![table] + 1;
  const n = { team: classes * teams, period: classes * hours, work: classes * teams * hours };
  const make = (sql: string, params: number[] = []) => db.query(sql, params);
  await make(
    `insert into schools (id, slug, name) overriding system value
     select $1::int + i, 'far-' || i, 'Far ' || i from generate_series(0, $2::int - 1) i`,
    [first('school'), schools],
  );
  for (const [table, columns] of [
    ['kits', 'slug, name, definition'],
    ['lessons', 'slug, title, definition'],
  ])
    await make(
      `insert into ${table} (school_id, ${columns}) select s.id, ${columns!.replace('name', 't.name').replace('slug', 't.slug')}
         from schools s cross join ${table} t where s.id >= $1::int and t.school_id = 1`,
      [first('school')],
    );
  // What an office and a year bring to each school.
  const perSchool = (into: string, columns: string, values: string, each: number) =>
    make(
      `insert into ${into} (school_id, ${columns}) select s.id, ${values} from schools s cross join generate_series(1, $2::int) k where s.id >= $1::int`,
      [first('school'), each],
    );
  await perSchool('accounts', 'name, role, made_at', `'Person ' || k, 'teacher', now()`, 6);
  await make(
    `insert into sessions (school_id, token_hash, account_id, made_at, seen_at, until)
     select school_id, 'hash ' || id, id, now(), now(), now() + interval '14 days' from accounts where school_id >= $1::int`,
    [first('school')],
  );
  await make(
    `insert into invitations (school_id, token_hash, role, invited_by, until)
     select school_id, 'invited ' || id, 'guest', id, now() + interval '14 days' from accounts where school_id >= $1::int`,
    [first('school')],
  );
  await perSchool('meta', 'key, value', `(array['school', 'shipped', 'one', 'another'])[k], '""'`, 4);
  await perSchool('things', 'kind, name, count', `'mat', 'Mat ' || k, 1`, 8);
  await perSchool('terms', 'name, from_day, to_day', `'Term ' || k, '2025-09-01', '2025-12-20'`, 3);
  await perSchool('days_off', 'name, from_day, to_day', `'Day ' || k, '2025-10-20', '2025-10-24'`, 5);
  await make(
    `insert into classes (id, school_id, school, name) overriding system value
     select $1::int + i, $3::int + i / $4::int, 'Far Harbour School', 'Class ' || i from generate_series(0, $2::int - 1) i`,
    [first('class'), classes, first('school'), amount.classes],
  );
  await make(
    `insert into robots (id, school_id, kit_id, name, build, stand_in) overriding system value
     select $1::int + i, c.school_id, k.id, 'Far ' || i, (select build from robots order by id limit 1), '{}'
       from generate_series(0, $2::int - 1) i join classes c on c.id = $3::int + i / $4::int
       join (select school_id, min(id) as id from kits group by 1) k on k.school_id = c.school_id`,
    [first('robot'), n.team, first('class'), teams],
  );
  await make(
    `insert into teams (id, school_id, class_id, robot_id, name) overriding system value
     select $1::int + i, c.school_id, c.id, $3::int + i, 'Team ' || i
       from generate_series(0, $4::int - 1) i join classes c on c.id = $2::int + i / $5::int`,
    [first('team'), first('class'), first('robot'), n.team, teams],
  );
  await make(
    `insert into periods (id, school_id, class_id, lesson_id, starts_at, minutes, first_id, began_at) overriding system value
     select $1::int + i, c.school_id, c.id, l.id, at, 50, $1::int + i, at
       from generate_series(0, $3::int - 1) i join classes c on c.id = $2::int + i / $4::int
       cross join lateral (select timestamptz '2025-09-01' + (i % $4::int) * interval '4 days' as at) as t
       join (select id, school_id, row_number() over (partition by school_id order by id) - 1 as nth,
                    count(*) over (partition by school_id) as all from lessons) l
         on l.school_id = c.school_id and l.nth = i % l.all`,
    [first('period'), first('class'), n.period, hours],
  );
  await make(
    `insert into works (id, school_id, team_id, lesson_id, first_period_id) overriding system value
     select $1::int + i, p.school_id, $2::int + i / $5::int, p.lesson_id, p.id from generate_series(0, $4::int - 1) i
       join periods p on p.id = $3::int + (i / ($5::int * $6::int)) * $5::int + i % $5::int`,
    [first('work'), first('team'), first('period'), n.work, hours, teams],
  );
  const perWork = (into: string, columns: string, values: string) =>
    make(
      `insert into ${into} (school_id, ${columns}) select w.school_id, ${values} from works w join teams t on t.id = w.team_id
        cross join lateral (select timestamptz '2025-09-01' + (w.id % 3000) * interval '1 hour' as at) as m where w.id >= $1::int`,
      [first('work')],
    );
  await perWork('script_versions', 'work_id, version, text, saved_at', `w.id, 1, 'stop', at`);
  await perWork('script_documents', 'work_id, revision, text, changed_at', `w.id, 1, 'stop', at`);
  await perWork(
    'sample_sets',
    'robot_id, work_id, socket, kind, surface, readings, taken_at',
    `t.robot_id, w.id, 'K3', 'light', 'tide line', '{20,21,22}', at`,
  );
  await perWork(
    'thresholds',
    'robot_id, work_id, socket, value, method, decided_at',
    `t.robot_id, w.id, 'K3', 48, 'stop gap', at`,
  );
  await perWork(
    'tries',
    'work_id, script_version, start_name, seed, judgements, tried_at',
    `w.id, 1, 'pier', 1, '[]', at`,
  );
  await perWork('floor_trials', 'work_id, past_mm, tried_at', 'w.id, 12, at');
  await perWork('step_visits', 'work_id, period_id, step_id, hour_s', `w.id, w.first_period_id, 'read', 60`);
  await perWork('step_notes', 'work_id, step_id, text, at', `w.id, 'read', 'seen', at`);
  await perWork(
    'quick_looks',
    'robot_id, work_id, socket, surface, readings, taken_at',
    `t.robot_id, w.id, 'K3', 'tide line', '{20,21,22,20,21}', at`,
  );
  await perWork(
    'recordings',
    'robot_id, work_id, socket, kind, purpose, period_ms, readings, taken_at',
    `t.robot_id, w.id, 'K3', 'light', 'sweep', 20, '{20,40,60}', at`,
  );
  await perWork('script_updates', 'work_id, revision, client, changes', `w.id, 1, 'c', '[4]'`);
  // A proof is long: most teams have none in most hours.
  await make(
    `insert into proofs (school_id, work_id, script_version, seed, proof, proved_at)
     select w.school_id, w.id, 1, 1, p.proof, now() from works w cross join (select proof from proofs order by id limit 1) p
      where w.id >= $1::int and w.id % 10 = 0`,
    [first('work')],
  );
  for (const table of ['schools', 'classes', 'robots', 'teams', 'periods', 'works'])
    await make(`select setval(pg_get_serial_sequence('${table}', 'id'), (select max(id) from ${table}))`);
  await db.exec('analyze');
}
