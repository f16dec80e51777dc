/** Goods that may serve from a day on and until another; null: they keep. Days as text. */
export interface SlowGoods {
  readonly available: string;
  readonly expires: string | null;
  readonly quantity: bigint;
}

/** What is served on a day and needs its goods until another. */
export interface SlowNeed {
  readonly day: string;
  readonly until: string;
  readonly quantity: bigint;
}

export function suits(goods: Pick<SlowGoods, 'available' | 'expires'>, need: Pick<SlowNeed, 'day' | 'until'>): boolean {
  return goods.available <= need.day && (goods.expires === null || goods.expires >= need.until);
}

/**
 * How much of what is needed can be served together: the maximum flow from goods to needs, by augmenting paths (Ford and
 * Fulkerson 1956), one after the other until there is none.
 */
export function served(goods: readonly SlowGoods[], needs: readonly SlowNeed[]): bigint {
  const left = goods.map((row) => row.quantity);
  const missing = needs.map((need) => need.quantity);
  const flow = goods.map(() => needs.map(() => 0n));
  let total = 0n;
  for (;;) {
    // A path goes from goods that are left to a need that lacks some, taking back on the way what others were given.
    const from = new Map<number, { readonly goods: number; readonly before: number | null }>();
    const seen = new Set<number>();
    const open: { readonly goods: number; readonly before: number | null }[] = left.flatMap((quantity, at) =>
      quantity > 0n ? [{ goods: at, before: null }] : [],
    );
    let end: number | null = null;
    for (let next = open.shift(); next && end === null; next = open.shift()) {
      if (seen.has(next.goods)) continue;
      seen.add(next.goods);
      for (let need = 0; need < needs.length && end === null; need++) {
        if (from.has(need) || !suits(goods[next.goods]!, needs[need]!)) continue;
        from.set(need, next);
        if (missing[need]! > 0n) end = need;
        else for (let other = 0; other < goods.length; other++) if (flow[other]![need]! > 0n) open.push({ goods: other, before: need });
      }
    }
    if (end === null) return total;
    let most = missing[end]!;
    for (let need = end; ;) {
      const step = from.get(need)!;
      if (step.before === null) {
        most = most < left[step.goods]! ? most : left[step.goods]!;
        break;
      }
      const back = flow[step.goods]![step.before]!;
      most = most < back ? most : back;
      need = step.before;
    }
    for (let need = end; ;) {
      const step = from.get(need)!;
      flow[step.goods]![need]! += most;
      if (step.before === null) {
        left[step.goods]! -= most;
        break;
      }
      flow[step.goods]![step.before]! -= most;
      need = step.before;
    }
    missing[end]! -= most;
    total += most;
  }
}
