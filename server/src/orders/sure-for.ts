import { USUALLY_SURE } from '@nockwright/core/orders';
import type { Db } from '../database';
import { deskConfidence } from '../promise';

/** How sure the days of an order's customer are asked to be, in percent. */
export async function sureFor(db: Db, order: { readonly confidence: number | null }): Promise<number> {
  return order.confidence ?? (await deskConfidence(db)) ?? USUALLY_SURE;
}
