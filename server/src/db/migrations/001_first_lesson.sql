-- Kits, robots, classes, lessons, and what a team leaves behind at each stage of a lesson.
-- Nothing is deleted: removed_at hides a row until it is restored.

create table meta (
  key text primary key,
  value jsonb not null
);

create table kits (
  id integer generated always as identity primary key,
  slug text not null unique check (slug ~ '^[a-z0-9-]{1,40}$'),
  name text not null check (length(name) between 1 and 80),
  definition jsonb not null
);

create table robots (
  id integer generated always as identity primary key,
  kit_id integer not null references kits (id),
  name text not null unique check (length(name) between 1 and 80),
  build jsonb not null,
  -- How the simulated stand-in of this robot differs from what its kit says; null for a real robot.
  stand_in jsonb
);

create table classes (
  id integer generated always as identity primary key,
  school text not null check (length(school) between 1 and 120),
  name text not null check (length(name) between 1 and 80),
  unique (school, name)
);

create table lessons (
  id integer generated always as identity primary key,
  slug text not null unique check (slug ~ '^[a-z0-9-]{1,60}$'),
  title text not null check (length(title) between 1 and 120),
  definition jsonb not null
);

create table periods (
  id integer generated always as identity primary key,
  class_id integer not null references classes (id),
  lesson_id integer not null references lessons (id),
  starts_at timestamptz not null,
  minutes integer not null check (minutes between 5 and 480)
);
create index periods_by_start on periods (starts_at);

create table teams (
  id integer generated always as identity primary key,
  class_id integer not null references classes (id),
  robot_id integer not null references robots (id),
  name text not null check (length(name) between 1 and 40),
  unique (class_id, name)
);

create table wire_checks (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  socket text not null check (length(socket) between 1 and 16),
  reacts boolean not null,
  lowest double precision,
  highest double precision,
  checked_at timestamptz not null default now()
);
create index wire_checks_by_robot on wire_checks (robot_id, checked_at desc);

create table sample_sets (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  socket text not null check (length(socket) between 1 and 16),
  kind text not null check (length(kind) between 1 and 16),
  surface text not null check (length(surface) between 1 and 60),
  readings double precision[] not null check (cardinality(readings) between 1 and 500),
  light_note text not null default '' check (length(light_note) <= 120),
  taken_at timestamptz not null default now(),
  removed_at timestamptz
);
create index sample_sets_by_robot on sample_sets (robot_id, socket, surface, taken_at desc);

create table thresholds (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  socket text not null check (length(socket) between 1 and 16),
  value double precision not null,
  way text not null check (way in ('halfway', 'fewest misreads', 'own choice')),
  low_set_id integer not null references sample_sets (id),
  high_set_id integer not null references sample_sets (id),
  decided_at timestamptz not null default now(),
  check (low_set_id <> high_set_id)
);
create index thresholds_by_robot on thresholds (robot_id, socket, decided_at desc);

create table script_versions (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  version integer not null check (version >= 1),
  text text not null check (length(text) <= 200000),
  saved_at timestamptz not null default now(),
  unique (team_id, lesson_id, version)
);

create table tries (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  script_version integer not null,
  start_name text not null check (length(start_name) between 1 and 16),
  seed integer not null,
  judgements jsonb not null,
  past_mm double precision,
  tried_at timestamptz not null default now(),
  foreign key (team_id, lesson_id, script_version) references script_versions (team_id, lesson_id, version)
);
create index tries_by_team on tries (team_id, lesson_id, tried_at desc);

create table proofs (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  script_version integer not null,
  seed integer not null,
  proof jsonb not null,
  proved_at timestamptz not null default now(),
  foreign key (team_id, lesson_id, script_version) references script_versions (team_id, lesson_id, version)
);
create index proofs_by_team on proofs (team_id, lesson_id, proved_at desc);

create table floor_trials (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  script_version integer,
  past_mm double precision not null check (past_mm between -10000 and 10000),
  rested boolean not null,
  took_s double precision check (took_s between 0 and 3600),
  note text not null default '' check (length(note) <= 200),
  tried_at timestamptz not null default now(),
  removed_at timestamptz,
  foreign key (team_id, lesson_id, script_version) references script_versions (team_id, lesson_id, version)
);
create index floor_trials_by_team on floor_trials (team_id, lesson_id, tried_at);
