-- A floor trial keeps whatever its lesson's sentences can be judged by, and the step in which it was driven.

-- Null: nobody said whether it came to rest.
alter table floor_trials alter column rested drop not null;
-- Answers by the key of what was asked, beside the measures that have columns of their own.
alter table floor_trials add column seen jsonb not null default '{}';
alter table floor_trials add column step_id text check (length(step_id) <= 60);
alter table floor_trials drop constraint floor_trials_measured;
alter table floor_trials add constraint floor_trials_measured
  check (num_nonnulls(past_mm, gap_mm, turned_deg, counted, took_s) > 0 or seen <> '{}');
