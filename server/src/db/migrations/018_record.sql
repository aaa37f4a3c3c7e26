-- Who is in a team, by nicknames only; the record stays with the team and says who was in it.
create table team_members (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  nickname text not null check (length(nickname) between 1 and 30),
  came_at timestamptz not null,
  left_at timestamptz
);
create index team_members_by_team on team_members (team_id, came_at);

-- What a team hands in at home: its text as it was then, seen, answered, given back.
create table homework (
  id integer generated always as identity primary key,
  work_id integer not null references works (id),
  step_id text not null check (length(step_id) between 1 and 60),
  text text not null check (length(text) between 1 and 8000),
  handed_at timestamptz not null,
  seen_at timestamptz,
  answer text check (length(answer) between 1 and 500),
  answered_at timestamptz,
  answered_by text,
  -- It is to be done again.
  again boolean not null default false
);
create index homework_by_work on homework (work_id, step_id, id);

-- Teams whose record was deleted for good: that it was, when, by whom, and how many rows; no name, nothing of theirs.
create table forgotten (
  id integer generated always as identity primary key,
  at timestamptz not null,
  by text not null,
  rows integer not null
);
