-- Who may come in: accounts of people, and the doors by which tablets and projectors do.

create table accounts (
  id integer generated always as identity primary key,
  name text not null,
  -- Argon2id, as the library writes it; null where nobody can sign in by a password.
  password text,
  role text not null check (role in ('owner', 'teacher', 'guest')),
  made_at timestamptz not null,
  seen_at timestamptz,
  removed_at timestamptz
);
create unique index accounts_by_name on accounts (lower(name)) where removed_at is null;

-- Of links and sessions only the SHA-256 is kept: who reads the folder cannot come in by them.
create table invitations (
  id integer generated always as identity primary key,
  token_hash text not null unique,
  role text not null check (role in ('owner', 'teacher', 'guest')),
  invited_by integer not null references accounts (id),
  until timestamptz not null,
  accepted_at timestamptz,
  removed_at timestamptz
);

create table sessions (
  id integer generated always as identity primary key,
  token_hash text not null unique,
  account_id integer references accounts (id),
  team_id integer references teams (id),
  -- Of a board: the class that it shows.
  class_id integer references classes (id),
  made_at timestamptz not null,
  seen_at timestamptz not null,
  until timestamptz not null,
  check (num_nonnulls(account_id, team_id, class_id) = 1)
);
create index sessions_by_account on sessions (account_id);
create index sessions_by_team on sessions (team_id);
create index sessions_by_class on sessions (class_id);

-- Two words of two syllables, to be read aloud: four of 70, so that there are 24 million.
create function door_code() returns text language sql volatile as $$
  select string_agg(substr('bdfgklmnprstvz', 1 + floor(random() * 14 + 0 * n)::int, 1) || substr('aeiou', 1 + floor(random() * 5 + 0 * n)::int, 1), '')
    from generate_series(1, 4) as n
$$;
alter table classes add column door_code text not null default door_code() unique;
alter table classes add column board_token text not null default replace(gen_random_uuid()::text, '-', '') unique;
-- The card of a team leads in without a code, so it must be printed again and again: it is kept as it is.
alter table teams add column card text not null default replace(gen_random_uuid()::text, '-', '') unique;
-- Which of the pictures is the team's own, counted from 0.
alter table teams add column picture integer not null default floor(random() * 16)::int;
