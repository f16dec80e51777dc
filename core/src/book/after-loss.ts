import type { IsoDay } from '../calendar';
import type { BookSupply, OrderBook } from '../promise';

/**
 * The book when goods on hand that are set aside for a demand are gone, `lost` of them in stocking units, of the lots that expire on a
 * day before others. What the demand was promised of them it may have from other goods, or others from it: that is the ripple's to say.
 */
export function bookAfterLoss(book: OrderBook, demand: string, lost: number, expires: IsoDay | null = null): OrderBook {
  let missing = Math.round(lost * 10_000);
  const own = book.supply.filter((row) => row.for === demand && row.date === undefined);
  const sequence = [...own].sort((a, b) => Number((b.expires ?? null) === expires) - Number((a.expires ?? null) === expires));
  const left = new Map<BookSupply, number>();
  for (const row of sequence) {
    const held = Math.round(row.quantity * 10_000);
    const taken = Math.min(missing, held);
    missing -= taken;
    left.set(row, held - taken);
  }
  return {
    ...book,
    supply: book.supply.flatMap((row) => {
      const held = left.get(row);
      if (held === undefined) return [row];
      return held > 0 ? [{ ...row, quantity: held / 10_000 }] : [];
    }),
  };
}
