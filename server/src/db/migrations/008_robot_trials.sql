-- Trials by which a robot is measured: timed ways, known turns, stops, the least speed that moves it.
create table robot_trials (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  trial jsonb not null,
  tried_at timestamptz not null default now(),
  removed_at timestamptz
);
create index robot_trials_by_robot on robot_trials (robot_id, tried_at);
