-- Courses of a teacher's own, lessons that a teacher has changed, floor trials of every measure, logs of real robots,
-- and what trials say about a robot's braking.

create table courses (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 80),
  definition jsonb not null,
  -- The family it was made from, and with what numbers; null when it was drawn or imported.
  family text check (length(family) between 1 and 40),
  parameters jsonb,
  changed_at timestamptz not null default now(),
  removed_at timestamptz
);

-- Null while a shipped lesson is as it was shipped.
alter table lessons add column changed_at timestamptz;

alter table tries add column predicted_mm double precision;

alter table floor_trials alter column past_mm drop not null;
alter table floor_trials add column gap_mm double precision check (gap_mm between 0 and 20000);
alter table floor_trials add column turned_deg double precision check (turned_deg between -3600 and 3600);
alter table floor_trials add column counted double precision check (counted between -10000 and 10000);
-- What was changed before this trial, such as "threshold 30 to 20".
alter table floor_trials add column changed text not null default '' check (length(changed) <= 120);
alter table floor_trials add constraint floor_trials_measured
  check (past_mm is not null or gap_mm is not null or turned_deg is not null or counted is not null or took_s is not null);

create table run_logs (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  name text not null check (length(name) between 1 and 120),
  trace jsonb not null,
  imported_at timestamptz not null default now(),
  removed_at timestamptz
);
create index run_logs_by_team on run_logs (team_id, lesson_id, imported_at desc);

alter table robots add column braking jsonb;
