-- When whoever holds a session last showed their password: what destroys or reveals much asks for it again.
alter table sessions add column proved_at timestamptz;

-- Browsers in which somebody has signed in to an account, by the SHA-256 of what the browser shows. What others get wrong at the same
-- address does not hold these up.
create table account_devices (
  account_id integer not null references accounts (id),
  device text not null,
  at timestamptz not null,
  primary key (account_id, device)
);

-- Whose class it is: only they, or an owner, remove it, its teams, or what is kept of them. Null where nobody has said.
alter table classes add column teacher_id integer references accounts (id);

-- The classes that a guest colleague was invited to, and sees.
alter table invitations add column classes integer[] not null default '{}';
create table guest_classes (
  account_id integer not null references accounts (id),
  class_id integer not null references classes (id),
  primary key (account_id, class_id)
);

do $$
declare
  name text;
begin
  foreach name in array array['account_devices', 'guest_classes']
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
create index guest_classes_by_class on guest_classes (class_id);

-- Wrong attempts are counted anew: some by slowing down, others against a budget of an hour.
delete from wrong_tries;
