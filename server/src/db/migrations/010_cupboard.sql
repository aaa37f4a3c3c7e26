-- Classes, teams and robots are renamed, put away, removed and brought back; robots are kept in cupboards and shared between classes.

alter table classes add column archived_at timestamptz, add column removed_at timestamptz;
alter table classes drop constraint classes_school_name_key;
create unique index classes_named on classes (school, name) where removed_at is null;

-- A team that joined later is not on the boards of hours before; one that left stays on those it was in. Null: from the beginning.
alter table teams add column joined_at timestamptz, add column removed_at timestamptz;
alter table teams drop constraint teams_class_id_name_key;
create unique index teams_named on teams (class_id, name) where removed_at is null;
create index teams_by_robot on teams (robot_id);

alter table robots add column cupboard text not null default '' check (length(cupboard) <= 60);
alter table robots add column archived_at timestamptz;
alter table robots drop constraint robots_name_key;
create unique index robots_named on robots (name) where removed_at is null;
