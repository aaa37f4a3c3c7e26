-- Wrong passwords, codes and pictures, counted for all servers together. Keys are hashes of what was tried and from where.
create table wrong_tries (
  key text primary key,
  wrong integer not null,
  until timestamptz not null,
  at timestamptz not null
);
create index wrong_tries_by_time on wrong_tries (at);
