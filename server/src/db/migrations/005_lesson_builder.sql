-- Lessons that a teacher makes: versions, removal with undo, what became of the model answer, every team's own twist,
-- and where each team is in its lesson.

-- Raised by every save; a save says which one it was made from.
alter table lessons add column revision integer not null default 1;
alter table lessons add column removed_at timestamptz;
-- The proof of the model answer of exactly this definition; null while it was not judged.
alter table lessons add column model_proof jsonb;

create table lesson_versions (
  id integer generated always as identity primary key,
  lesson_id integer not null references lessons (id),
  version integer not null check (version > 0),
  definition jsonb not null,
  saved_at timestamptz not null,
  -- What the teacher calls it, or what brought it about; '' for a save as one goes.
  note text not null default '' check (length(note) <= 120),
  unique (lesson_id, version)
);

create table lesson_variants (
  lesson_id integer not null references lessons (id),
  team_id integer not null references teams (id),
  seed integer not null,
  level integer not null check (level between 0 and 3),
  twist_values jsonb not null,
  proof jsonb not null,
  handed_at timestamptz not null,
  primary key (lesson_id, team_id)
);

create table lesson_places (
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  step_id text not null check (length(step_id) between 1 and 40),
  at timestamptz not null,
  primary key (team_id, lesson_id)
);

-- What a team wrote down in a step: what it predicted, what it found out.
create table step_notes (
  team_id integer not null references teams (id),
  lesson_id integer not null references lessons (id),
  step_id text not null check (length(step_id) between 1 and 40),
  text text not null check (length(text) <= 2000),
  at timestamptz not null,
  primary key (team_id, lesson_id, step_id)
);
