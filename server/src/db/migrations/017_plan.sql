-- What a teacher adds to the skills that Vigilum knows how to see.
create table own_skills (
  id text primary key check (id ~ '^own-[a-z0-9-]{1,36}$'),
  name text not null check (length(name) between 1 and 60),
  shows text not null check (length(shows) between 1 and 300),
  needs jsonb not null,
  lessons jsonb not null,
  removed_at timestamptz
);

-- Lessons in an order. `shipped` names one that came with Vigilum.
create table series (
  id integer generated always as identity primary key,
  shipped text unique,
  name text not null check (length(name) between 1 and 80),
  aim text not null check (length(aim) <= 400),
  -- Slugs, in order.
  lessons jsonb not null,
  changed_at timestamptz,
  removed_at timestamptz
);

-- Days are days of the school's calendar, without a time of their own.
create table terms (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 60),
  from_day text not null check (from_day ~ '^\d{4}-\d\d-\d\d$'),
  to_day text not null check (to_day ~ '^\d{4}-\d\d-\d\d$'),
  removed_at timestamptz,
  check (from_day <= to_day)
);
create table days_off (
  id integer generated always as identity primary key,
  name text not null check (length(name) between 1 and 120),
  from_day text not null check (from_day ~ '^\d{4}-\d\d-\d\d$'),
  to_day text not null check (to_day ~ '^\d{4}-\d\d-\d\d$'),
  removed_at timestamptz,
  check (from_day <= to_day)
);

-- What lies in the cupboard beside robots, and the rooms. Robots are counted by their kits.
create table things (
  id integer generated always as identity primary key,
  kind text not null check (kind in ('mat', 'charger', 'room', 'box', 'other')),
  name text not null check (length(name) between 1 and 80),
  shelf text not null default '' check (length(shelf) <= 40),
  count integer not null check (count between 0 and 999),
  broken integer not null default 0 check (broken between 0 and 999),
  out integer not null default 0 check (out between 0 and 999),
  before_min integer not null default 0 check (before_min between 0 and 480),
  after_min integer not null default 0 check (after_min between 0 and 480),
  removed_at timestamptz
);
-- A robot that is in no state to be used, or not there.
alter table robots add column away text check (away in ('broken', 'out'));

-- When a class meets. A meeting that does not take place says why.
create table meetings (
  id integer generated always as identity primary key,
  class_id integer not null references classes (id),
  term_id integer references terms (id),
  starts_at timestamptz not null,
  minutes integer not null check (minutes between 5 and 480),
  room_id integer references things (id),
  lost text check (length(lost) between 1 and 120),
  -- The day off for which it is lost.
  off_id integer references days_off (id),
  removed_at timestamptz
);
create index meetings_by_class on meetings (class_id, starts_at);
-- The meeting in which an hour is planned; one hour each.
alter table periods add column meeting_id integer references meetings (id);
create unique index periods_by_meeting on periods (meeting_id) where removed_at is null;
-- Two teams to a robot.
alter table periods add column shared boolean not null default false;
