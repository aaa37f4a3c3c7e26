-- What was told to pages, for servers that share a database: each reads on from the last one that it knows.
-- The revisions go up in the order in which the changes are stored.
create table changes (
  revision bigint generated always as identity primary key,
  change jsonb not null,
  by_page text,
  at timestamptz not null default now()
);
create index changes_by_time on changes (at);
