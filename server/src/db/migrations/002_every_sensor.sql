-- Every kind of sensor: kits with modes, sets against a ruler and in colour, sweeps, quick looks, checks of
-- all kinds, and every school of threshold.

-- A sensor's facts belong to its modes.
update kits set definition = jsonb_set(definition, '{sensors}', (
  select coalesce(jsonb_agg(
    case when s ? 'modes' then s else
      (s - 'kinds' - 'unit' - 'min' - 'max' - 'step' - 'samplePeriodMs') || jsonb_build_object('modes', (
        select jsonb_agg(
          jsonb_build_object('kind', k, 'unit', s->'unit', 'min', s->'min', 'max', s->'max',
                             'step', s->'step', 'samplePeriodMs', s->'samplePeriodMs')
          || case when k = '"colour"'::jsonb
               then '{"unit":"","min":0,"max":6,"step":1,"colours":["black","white","red","green","blue","yellow","brown"]}'::jsonb
               else '{}'::jsonb end)
        from jsonb_array_elements(s->'kinds') as k))
    end), '[]'::jsonb)
  from jsonb_array_elements(definition->'sensors') as s));
alter table kits add column removed_at timestamptz;
alter table kits add column changed_at timestamptz not null default now();

alter table robots add column removed_at timestamptz;

alter table wire_checks add column kind text check (length(kind) between 1 and 16);
alter table wire_checks add column drift_per_s double precision;
alter table wire_checks add column says text not null default '' check (length(says) <= 300);
update wire_checks set kind = 'light';
alter table wire_checks alter column kind set not null;

alter table sample_sets drop constraint sample_sets_readings_check;
alter table sample_sets add constraint sample_sets_readings_check check (cardinality(readings) between 1 and 600000);
-- Three numbers a look for rgb.
alter table sample_sets add column channels smallint not null default 1 check (channels in (1, 3));
-- What the ruler or the protractor said, in the sensor's unit.
alter table sample_sets add column truth double precision;
alter table sample_sets add constraint sample_sets_whole_looks check (cardinality(readings) % channels = 0);

-- Many looks in a row: a slow drag over everything, a bumper's presses.
create table recordings (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  socket text not null check (length(socket) between 1 and 16),
  kind text not null check (length(kind) between 1 and 16),
  purpose text not null check (purpose in ('sweep', 'touch')),
  period_ms double precision not null check (period_ms between 1 and 10000),
  readings double precision[] not null check (cardinality(readings) between 2 and 20000),
  taken_at timestamptz not null default now(),
  removed_at timestamptz
);
create index recordings_by_robot on recordings (robot_id, socket, purpose, taken_at desc);

-- A few quick looks, to learn whether stored readings still hold. The verdict is computed, never stored.
create table quick_looks (
  id integer generated always as identity primary key,
  robot_id integer not null references robots (id),
  socket text not null check (length(socket) between 1 and 16),
  surface text not null check (length(surface) between 1 and 60),
  readings double precision[] not null check (cardinality(readings) between 1 and 50),
  taken_at timestamptz not null default now()
);
create index quick_looks_by_robot on quick_looks (robot_id, socket, surface, taken_at desc);

alter table thresholds drop constraint thresholds_way_check;
alter table thresholds add constraint thresholds_way_check check (way in (
  'halfway', 'across the edge', 'past the nearest rival', 'fewest misreads', 'split of a sweep',
  'change by', 'two levels', 'stop gap', 'own choice'));
alter table thresholds add column compare text not null default 'level' check (compare in ('level', 'change', 'pair'));
alter table thresholds add column leave_value double precision;
alter table thresholds add column reason text not null default '' check (length(reason) <= 200);
-- A stop gap rests on the robot's stopping distance, not on two surfaces.
alter table thresholds alter column low_set_id drop not null;
alter table thresholds alter column high_set_id drop not null;
alter table thresholds add constraint thresholds_rest_on_sets check (way = 'stop gap' or (low_set_id is not null and high_set_id is not null));
alter table thresholds add constraint thresholds_pair_has_leave check ((compare = 'pair') = (leave_value is not null));
