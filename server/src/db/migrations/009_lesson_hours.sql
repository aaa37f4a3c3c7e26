-- Lesson hours are things of their own, and own what is done in them: readings, thresholds, scripts, tries, proofs, trials and notes
-- belong to a work, which is a team in a lesson in an hour and the hours that go on from it.

-- The hour that this one goes on from, from the first on; itself where it begins anew.
alter table periods add column first_id integer references periods (id);
-- Null while it is only planned.
alter table periods add column began_at timestamptz;
alter table periods add column paused_at timestamptz;
-- Pauses that are over, s.
alter table periods add column paused_s integer not null default 0 check (paused_s >= 0);
alter table periods add column ended_at timestamptz;
alter table periods add column removed_at timestamptz;
-- Hours of a class on one lesson could not be told apart before: they are one work.
update periods p set first_id =
  (select min(q.id) from periods q where q.class_id = p.class_id and q.lesson_id = p.lesson_id);
update periods set began_at = starts_at;
alter table periods alter column first_id set not null;
create index periods_by_class on periods (class_id, lesson_id, starts_at desc);

create table works (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  -- The first hour; null for what a team does in a lesson that its class has had no hour of.
  first_period_id integer references periods (id),
  unique nulls not distinct (team_id, lesson_id, first_period_id)
);

insert into works (team_id, lesson_id, first_period_id)
select t.id, p.lesson_id, p.first_id from periods p join teams t on t.class_id = p.class_id
on conflict do nothing;
insert into works (team_id, lesson_id, first_period_id)
select e.team_id, e.lesson_id, null from (
  select team_id, lesson_id from script_versions union select team_id, lesson_id from script_documents
  union select team_id, lesson_id from floor_trials union select team_id, lesson_id from run_logs
  union select team_id, lesson_id from lesson_places union select team_id, lesson_id from step_notes) as e
where not exists (select 1 from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id);

-- What belongs to a team in a lesson.
alter table script_versions add column work_id integer references works (id);
alter table tries add column work_id integer;
alter table proofs add column work_id integer;
alter table floor_trials add column work_id integer references works (id);
alter table run_logs add column work_id integer references works (id);
alter table script_documents add column work_id integer references works (id);
alter table script_updates add column work_id integer;
alter table lesson_places add column work_id integer references works (id);
alter table step_notes add column work_id integer references works (id);
update script_versions e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update tries e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update proofs e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update floor_trials e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update run_logs e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update script_documents e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update script_updates e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update lesson_places e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update step_notes e set work_id = w.id from works w where w.team_id = e.team_id and w.lesson_id = e.lesson_id;
update kept_versions k set key = k.key || '@' || w.first_period_id
  from works w join lessons l on l.id = w.lesson_id
 where k.kind = 'note' and w.first_period_id is not null
   and split_part(k.key, '/', 1) = w.team_id::text and split_part(k.key, '/', 2) = l.slug;

alter table script_updates drop column team_id cascade, drop column lesson_id cascade;
alter table tries drop column team_id cascade, drop column lesson_id cascade;
alter table proofs drop column team_id cascade, drop column lesson_id cascade;
alter table floor_trials drop column team_id cascade, drop column lesson_id cascade;
alter table run_logs drop column team_id cascade, drop column lesson_id cascade;
alter table lesson_places drop column team_id cascade, drop column lesson_id cascade;
alter table step_notes drop column team_id cascade, drop column lesson_id cascade;
alter table script_documents drop column team_id cascade, drop column lesson_id cascade;
alter table script_versions drop column team_id cascade, drop column lesson_id cascade;

alter table script_versions alter column work_id set not null, add unique (work_id, version);
alter table tries alter column work_id set not null,
  add foreign key (work_id, script_version) references script_versions (work_id, version);
alter table proofs alter column work_id set not null,
  add foreign key (work_id, script_version) references script_versions (work_id, version);
alter table floor_trials alter column work_id set not null,
  add foreign key (work_id, script_version) references script_versions (work_id, version);
alter table run_logs alter column work_id set not null;
alter table script_documents add primary key (work_id);
alter table script_updates add primary key (work_id, revision),
  add foreign key (work_id) references script_documents (work_id);
alter table lesson_places add primary key (work_id);
alter table step_notes add primary key (work_id, step_id);
create index tries_by_work on tries (work_id, tried_at desc);
create index proofs_by_work on proofs (work_id, proved_at desc);
create index floor_trials_by_work on floor_trials (work_id, tried_at);
create index run_logs_by_work on run_logs (work_id, imported_at desc);

-- What a robot read in a work; null for what belongs to the robot itself, such as its calibration.
alter table sample_sets add column work_id integer references works (id);
alter table recordings add column work_id integer references works (id);
alter table quick_looks add column work_id integer references works (id);
alter table thresholds add column work_id integer references works (id);
-- The set of an earlier work whose readings were found to hold still.
alter table sample_sets add column carried_from integer references sample_sets (id);

-- The works that a row may belong to, best first: whose lesson reads that surface, whose hour had begun last before it.
create function work_then(robot integer, surface text, socket text, at timestamptz) returns integer language sql as $$
  select w.id
    from works w
    join teams t on t.id = w.team_id and t.robot_id = robot
    join lessons l on l.id = w.lesson_id
    left join lateral (select max(p.starts_at) as began from periods p
                        where p.first_id = w.first_period_id and p.starts_at <= at + interval '1 hour') h on true
   where w.first_period_id is null or h.began is not null
   order by (surface is null or position('"surface": ' || to_jsonb(surface)::text in l.definition::text) > 0) desc,
            (position('"socket": ' || to_jsonb(socket)::text in l.definition::text) > 0) desc,
            h.began desc nulls last, w.id desc
   limit 1
$$;
update sample_sets set work_id = work_then(robot_id, surface, socket, taken_at);
update recordings set work_id = work_then(robot_id, null, socket, taken_at);
update quick_looks set work_id = work_then(robot_id, surface, socket, taken_at);
update thresholds d set work_id = coalesce(
  (select s.work_id from sample_sets s where s.id = d.low_set_id), work_then(robot_id, null, socket, decided_at));
drop function work_then;
create index sample_sets_by_work on sample_sets (work_id, socket, surface, taken_at desc);
create index recordings_by_work on recordings (work_id, socket, purpose, taken_at desc);
create index quick_looks_by_work on quick_looks (work_id, socket, surface, taken_at desc);
create index thresholds_by_work on thresholds (work_id, socket, decided_at desc);
