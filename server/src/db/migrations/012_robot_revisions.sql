-- A robot's build is changed from a revision, as kits and lessons are: who works from an older one is told, and overwrites nothing.
alter table robots add column revision integer not null default 1;
