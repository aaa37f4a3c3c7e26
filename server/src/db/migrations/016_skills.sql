-- What a teacher says of a team's skill against what its evidence says; the newest that was not withdrawn holds.
create table skill_overrulings (
  id integer generated always as identity primary key,
  team_id integer not null references teams (id),
  skill text not null check (length(skill) between 1 and 40),
  standing text not null,
  reason text not null check (length(reason) between 1 and 300),
  said_by text not null,
  said_at timestamptz not null,
  removed_at timestamptz
);
create index skill_overrulings_by_team on skill_overrulings (team_id, skill, id);
