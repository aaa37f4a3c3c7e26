-- How an hour is run while it goes on.

-- What the teacher changed of the lesson's plan: it holds for the hours that go on from this one too, and stands with the first of them.
alter table periods add column plan jsonb not null default '{}';
alter table periods add column mats integer not null default 1 check (mats between 0 and 12);
alter table periods add column turn_minutes integer not null default 6 check (turn_minutes between 1 and 60);
alter table periods add column asks_tick boolean not null default false;
-- What all tablets say while everybody stops; null while they do not.
alter table periods add column stopped text;
alter table periods add column told text;
alter table periods add column told_at timestamptz;

-- When a team came to a step. Seconds of the hour do not count its pauses.
create table step_visits (
  id integer generated always as identity primary key,
  work_id integer not null references works (id),
  period_id integer not null references periods (id),
  step_id text not null,
  hour_s double precision not null
);
create index step_visits_by_period on step_visits (period_id, work_id, id);

create table hour_notes (
  id integer generated always as identity primary key,
  period_id integer not null references periods (id),
  team_id integer not null references teams (id),
  kind text not null check (kind in ('note', 'hint')),
  says text not null,
  step_id text,
  at timestamptz not null,
  seen_at timestamptz,
  removed_at timestamptz,
  check ((kind = 'hint') = (step_id is not null))
);
create index hour_notes_by_period on hour_notes (period_id, team_id);

create table team_calls (
  id integer generated always as identity primary key,
  period_id integer not null references periods (id),
  team_id integer not null references teams (id),
  about text not null,
  at timestamptz not null,
  -- Taken back by the team, or answered by the teacher.
  over_at timestamptz
);
create unique index team_calls_open on team_calls (period_id, team_id) where over_at is null;

create table mat_turns (
  id integer generated always as identity primary key,
  period_id integer not null references periods (id),
  team_id integer not null references teams (id),
  mat integer not null check (mat between 1 and 12),
  began_s double precision not null,
  ended_s double precision,
  ticked_at timestamptz
);
-- A mat takes one team, a team is on one mat.
create unique index mat_turns_on_mat on mat_turns (period_id, mat) where ended_s is null;
create unique index mat_turns_of_team on mat_turns (period_id, team_id) where ended_s is null;

-- Places in the queue that the teacher set.
create table mat_pins (
  period_id integer not null references periods (id),
  team_id integer not null references teams (id),
  place integer not null check (place > 0),
  primary key (period_id, team_id)
);
