-- Several schools in one database: every row belongs to one. Whoever asks says for which school by the setting vigilum.school, a number;
-- 'all' is for the server's own work, and where nothing is said nothing is seen. Rows of other schools are neither read nor written,
-- whatever a statement asks for. (Superusers are above that: an embedded database holds one school.)
create table schools (
  id integer generated always as identity primary key,
  -- By this name people say where they sign in.
  slug text not null unique check (slug ~ '^[a-z0-9-]{1,40}$'),
  name text not null check (length(name) between 1 and 120),
  -- Its owners make schools.
  office boolean not null default false,
  -- How many accounts, classes and robots it may have; what is not named has no limit.
  most jsonb not null default '{}'::jsonb,
  made_at timestamptz not null default now(),
  removed_at timestamptz
);
insert into schools (slug, name, office)
select 'first', left(coalesce((select value #>> '{}' from meta where key = 'school'), (select school from classes order by id desc limit 1), 'First school'), 120), true;

-- Ends of the range of schools that are open to whoever asks; null for none.
create function first_open_school() returns integer language sql stable as $$
  select case coalesce(current_setting('vigilum.school', true), '') when '' then null when 'all' then 0
         else current_setting('vigilum.school', true)::integer end
$$;
create function last_open_school() returns integer language sql stable as $$
  select case coalesce(current_setting('vigilum.school', true), '') when '' then null when 'all' then 2147483647
         else current_setting('vigilum.school', true)::integer end
$$;
-- The school of a new row: the one that is asked for, or the only one that there is.
create function school_of_new() returns integer language plpgsql stable as $$
declare
  said text := coalesce(current_setting('vigilum.school', true), '');
begin
  if said ~ '^[0-9]+$' then
    return said::integer;
  end if;
  return (select case when count(*) = 1 then min(id) end from schools);
end
$$;

do $$
declare
  name text;
begin
  for name in
    select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'public' and c.relkind = 'r' and c.relname not in ('migrations', 'schools', 'wrong_tries')
  loop
    execute format('alter table %I add column school_id integer not null default school_of_new()', name);
    execute format('alter table %I enable row level security', name);
    execute format('alter table %I force row level security', name);
    execute format(
      'create policy own_school on %I using (school_id between first_open_school() and last_open_school())',
      name
    );
  end loop;
end
$$;
alter table schools enable row level security;
alter table schools force row level security;
create policy own_school on schools using (id between first_open_school() and last_open_school());

-- What has to be the only one of its name is that in its school. The name comes first: whoever looks for one row reads no others, and two that
-- write different ones at the same time do not stand in each other's way.
alter table meta drop constraint meta_pkey, add primary key (key, school_id);
alter table writes drop constraint writes_pkey, add primary key (key, school_id);
alter table own_skills drop constraint own_skills_pkey, add primary key (id, school_id);
alter table kits drop constraint kits_slug_key, add unique (slug, school_id);
alter table lessons drop constraint lessons_slug_key, add unique (slug, school_id);
alter table series drop constraint series_shipped_key, add unique (shipped, school_id);
drop index classes_named;
create unique index classes_named on classes (school, name, school_id) where removed_at is null;
drop index robots_named;
create unique index robots_named on robots (name, school_id) where removed_at is null;
drop index accounts_by_name;
create unique index accounts_by_name on accounts (lower(name), school_id) where removed_at is null;

-- Who becomes owner of a new school is invited by the office, which has no account there.
alter table invitations alter column invited_by drop not null;
alter table invitations add column by_office boolean not null default false;

-- What pages list of a whole school.
create index classes_by_school on classes (school_id);
create index robots_by_school on robots (school_id);
create index kits_by_school on kits (school_id);
create index lessons_by_school on lessons (school_id);
create index series_by_school on series (school_id);
create index own_skills_by_school on own_skills (school_id);
create index accounts_by_school on accounts (school_id);
create index phrasebooks_by_school on phrasebooks (school_id);
create index courses_by_school on courses (school_id);
create index terms_by_school on terms (school_id);
create index days_off_by_school on days_off (school_id);
create index things_by_school on things (school_id);
create index invitations_by_school on invitations (school_id);
create index forgotten_by_school on forgotten (school_id);
create index periods_by_school on periods (school_id, starts_at);
create index meetings_by_school on meetings (school_id, starts_at);

-- Codes of doors lead into one class of all schools.
create or replace function door_code() returns text language plpgsql volatile as $$
declare
  code text;
  school text := coalesce(current_setting('vigilum.school', true), '');
begin
  perform set_config('vigilum.school', 'all', true);
  loop
    select string_agg(substr('bdfgklmnprstvz', 1 + floor(random() * 14 + 0 * n)::int, 1) || substr('aeiou', 1 + floor(random() * 5 + 0 * n)::int, 1), '')
      into code from generate_series(1, 4) as n;
    exit when not exists (select 1 from classes where door_code = code);
  end loop;
  perform set_config('vigilum.school', school, true);
  return code;
end
$$;
