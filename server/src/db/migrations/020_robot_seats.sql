-- Where servers share a database: which of them a robot's stand-in or bridge is at, until when unless it says so again.
create table robot_seats (
  robot_id integer primary key references robots (id) on delete cascade,
  server uuid not null,
  url text not null,
  -- What other servers show there, so that no stranger can say to be one.
  key text not null,
  until timestamptz not null
);
