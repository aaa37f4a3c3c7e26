-- Script versions with who saved them and where they came from; phrasebooks that carry programs over.

alter table script_versions add column saved_by text not null default '' check (length(saved_by) <= 40);
-- The older version that this one brought back.
alter table script_versions add column restored_from integer check (restored_from >= 1);

create table phrasebooks (
  id integer generated always as identity primary key,
  kit_id integer not null references kits (id),
  name text not null check (length(name) between 1 and 60),
  syntax text not null check (syntax in ('python', 'c')),
  phrases jsonb not null,
  changed_at timestamptz not null default now(),
  removed_at timestamptz
);
create index phrasebooks_by_kit on phrasebooks (kit_id);
