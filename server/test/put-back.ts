/**
 * What stands in a test's database before anything is sold, kept beside it, so that the next test of the same file can
 * begin from it without a new database: plans and caches of its connections stay warm. `standing.put_back()` deletes every
 * row, puts back what stood, and sets every sequence to where it was. Only the owner may.
 */
export const KEEP_STANDING = `
create schema standing;
create table standing.kept (place regclass, copy text, columns text);
create table standing.counted (place regclass, last bigint, called boolean);
do $$
declare
  t record;
  any_row boolean;
  seen bigint;
  was_called boolean;
begin
  for t in
    select c.oid::regclass place, format('%s_%s', n.nspname, c.relname) copy,
      (select string_agg(quote_ident(attname), ', ' order by attnum) from pg_attribute a
       where a.attrelid = c.oid and attnum > 0 and not attisdropped and attgenerated = '') columns
    from pg_class c join pg_namespace n on n.oid = relnamespace
    where relkind = 'r' and nspname not in ('pg_catalog', 'information_schema', 'standing')
  loop
    execute format('select exists (select from %s)', t.place) into any_row;
    if any_row then
      execute format('create table standing.%I as select %s from %s', t.copy, t.columns, t.place);
      insert into standing.kept values (t.place, t.copy, t.columns);
    end if;
  end loop;
  for t in select c.oid::regclass place from pg_class c where relkind = 'S' loop
    execute format('select last_value, is_called from %s', t.place) into seen, was_called;
    insert into standing.counted values (t.place, seen, was_called);
  end loop;
end $$;
create function standing.put_back() returns void language plpgsql as $$
declare
  t record;
begin
  /* No trigger fires, and no foreign key is asked: what stood is whole. */
  perform set_config('session_replication_role', 'replica', true);
  for t in
    select c.oid::regclass place from pg_class c join pg_namespace n on n.oid = relnamespace
    where relkind = 'r' and nspname not in ('pg_catalog', 'information_schema', 'standing')
  loop
    execute format('delete from %s', t.place);
  end loop;
  for t in select * from standing.kept loop
    execute format('insert into %1$s (%2$s) overriding system value select %2$s from standing.%3$I', t.place, t.columns, t.copy);
  end loop;
  perform setval(place, last, called) from standing.counted;
end $$;
`;
