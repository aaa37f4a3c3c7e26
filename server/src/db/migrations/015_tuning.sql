-- The numbers that a trial ran with, and what came out of it: from these the walk is drawn.

-- A list of { name, value, unit }; null for what was tried before they were kept: then the script says them.
alter table tries add column knobs jsonb;
alter table proofs add column knobs jsonb;
alter table floor_trials add column knobs jsonb;
-- By name of the result, in its own unit.
alter table tries add column results jsonb not null default '{}';
-- Run with other numbers than the script has: it says nothing of the script as it stands.
alter table tries add column tuned boolean not null default false;
