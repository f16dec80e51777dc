/**
 * A guard that only tests have: whoever writes more than one pool in a transaction has locked them all beforehand, as the
 * one lock order asks. A pool that is locked by being written is locked in its turn, and two such transactions can wait for
 * each other. `stock_change` and `stock_set_aside` are the only ways to a pool.
 */
export const POOL_GUARD = `
create function pool_is_locked(p_item text, p_warehouse text) returns void language plpgsql as $$
declare
  pool text := p_item || '@' || p_warehouse;
  written text := coalesce(current_setting('test.pools_written', true), '');
  unlocked text := coalesce(current_setting('test.pool_unlocked', true), '');
  own boolean;
begin
  /* Who locks or writes a row leaves the number of the transaction on it: one under way is this one. */
  select pg_xact_status(xmin::text::xid8) = 'in progress' or xmax::text <> '0' and pg_xact_status(xmax::text::xid8) = 'in progress' into own
  from stock where item = p_item and warehouse = p_warehouse;
  if own is not true and unlocked = '' then
    unlocked := pool;
    perform set_config('test.pool_unlocked', pool, true);
  end if;
  if position(pool || ' ' in written) = 0 then
    written := written || pool || ' ';
    perform set_config('test.pools_written', written, true);
  end if;
  if unlocked <> '' and written <> unlocked || ' ' then
    raise exception 'pool % is written and was not locked before; written: %', unlocked, written;
  end if;
end $$;
alter function stock_change rename to stock_change_itself;
create function stock_change(p_item text, p_warehouse text, d_on_hand numeric, d_allocated numeric, d_inbound numeric, d_committed numeric) returns void language plpgsql as $$
begin
  perform pool_is_locked(p_item, p_warehouse);
  perform stock_change_itself(p_item, p_warehouse, d_on_hand, d_allocated, d_inbound, d_committed);
end $$;
alter function stock_set_aside rename to stock_set_aside_itself;
create function stock_set_aside(p_item text, p_warehouse text, p_change numeric) returns void language plpgsql as $$
begin
  if p_change <> 0 then perform pool_is_locked(p_item, p_warehouse); end if;
  perform stock_set_aside_itself(p_item, p_warehouse, p_change);
end $$;
`;
