-- Found by asking the pages of one class among the years of many: what had to read a whole table.
create index teams_by_class on teams (class_id);
create index periods_going_on on periods (starts_at desc, id desc) where removed_at is null and began_at is not null and ended_at is null;
create index periods_begun on periods (starts_at desc, id desc) where removed_at is null and began_at is not null;
-- Links that are followed when something is removed for good.
create index step_visits_by_work on step_visits (work_id);
create index works_by_first_period on works (first_period_id);
create index periods_by_first on periods (first_id);
