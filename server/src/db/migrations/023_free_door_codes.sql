-- Of 24 million codes two classes in thousands drew the same: a code is drawn until it is free.
create or replace function door_code() returns text language plpgsql volatile as $$
declare
  code text;
begin
  loop
    select string_agg(substr('bdfgklmnprstvz', 1 + floor(random() * 14 + 0 * n)::int, 1) || substr('aeiou', 1 + floor(random() * 5 + 0 * n)::int, 1), '')
      into code from generate_series(1, 4) as n;
    exit when not exists (select 1 from classes where door_code = code);
  end loop;
  return code;
end
$$;
