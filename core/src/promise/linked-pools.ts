import type { BookColumns } from './book-columns';

/**
 * Which pools decide about each other: an assembled item and its components, and the lines of an order that must leave
 * complete. Pools of different groups never touch, so each group is promised on its own, with its data close together.
 */
export interface PoolGroups {
  readonly count: number;
  readonly groupOf: Int32Array;
}

/** Union-find over the pools, without recursion. */
export function groupPools(book: BookColumns): PoolGroups {
  const { partFrom, partPool, poolSite, lineOrder, linePool, orderComplete } = book;
  const pools = poolSite.length;
  const parent = new Int32Array(pools);
  for (let pool = 0; pool < pools; pool++) parent[pool] = pool;
  const root = (pool: number) => {
    while (parent[pool] !== pool) pool = parent[pool] = parent[parent[pool]!]!;
    return pool;
  };
  for (let pool = 0; pool < pools; pool++) {
    for (let part = partFrom[pool]!; part < partFrom[pool + 1]!; part++) parent[root(partPool[part]!)] = root(pool);
  }
  if (orderComplete.includes(1)) {
    const firstPool = new Int32Array(orderComplete.length).fill(-1);
    for (let line = 0; line < lineOrder.length; line++) {
      const order = lineOrder[line]!;
      if (!orderComplete[order]) continue;
      if (firstPool[order]! < 0) firstPool[order] = linePool[line]!;
      else parent[root(linePool[line]!)] = root(firstPool[order]!);
    }
  }
  const groupOf = new Int32Array(pools).fill(-1);
  let count = 0;
  for (let pool = 0; pool < pools; pool++) {
    const top = root(pool);
    if (groupOf[top]! < 0) groupOf[top] = count++;
    groupOf[pool] = groupOf[top]!;
  }
  return { count, groupOf };
}
