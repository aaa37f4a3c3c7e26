-- Figures and samples of long sets, writes that are done once, scripts that several editors share, and earlier
-- states of whatever a teacher or a team changes.

-- Figures of the whole set and an even sample of it: what boards and pages read. Null until they are worked out.
alter table sample_sets add column figures jsonb;
alter table sample_sets add column sample double precision[];

-- Writes with a key: one that comes again gets the answer of the first.
create table writes (
  key text primary key check (length(key) between 8 and 64),
  status integer not null,
  reply jsonb,
  at timestamptz not null
);
create index writes_by_time on writes (at);

-- Blanks and comments alone change nothing that was tried or proved: the version since which the program is the same.
alter table script_versions add column same_since integer check (same_since between 1 and version);

-- A script as its editors share it; its revision counts the updates.
create table script_documents (
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  revision integer not null check (revision >= 0),
  text text not null check (length(text) <= 200000),
  changed_at timestamptz not null,
  primary key (team_id, lesson_id)
);
create table script_updates (
  team_id integer not null,
  lesson_id integer not null,
  revision integer not null check (revision >= 1),
  client text not null check (length(client) between 1 and 64),
  changes jsonb not null,
  primary key (team_id, lesson_id, revision),
  foreign key (team_id, lesson_id) references script_documents (team_id, lesson_id)
);

-- Saves of one page in one sitting are one version; those of another page never go into it.
alter table lesson_versions add column saved_by text not null default '' check (length(saved_by) <= 64);

alter table step_notes add column revision integer not null default 1 check (revision >= 1);
alter table kits add column revision integer not null default 1 check (revision >= 1);
alter table courses add column revision integer not null default 1 check (revision >= 1);
alter table phrasebooks add column revision integer not null default 1 check (revision >= 1);

-- Earlier states of kits, courses, phrasebooks and notes; lessons and scripts have tables of their own.
create table kept_versions (
  id integer generated always as identity primary key,
  kind text not null check (kind in ('kit', 'course', 'phrasebook', 'note')),
  key text not null check (length(key) between 1 and 120),
  revision integer not null check (revision >= 1),
  value jsonb not null,
  note text not null default '' check (length(note) <= 120),
  saved_by text not null default '' check (length(saved_by) <= 64),
  saved_at timestamptz not null
);
create index kept_versions_by_key on kept_versions (kind, key, revision desc);
