import { proposeCartons, type CartonKind, type PackGoods } from '@nockwright/core/packing';
import { minus } from '@nockwright/core/money';
import type { ProposalView } from '@nockwright/contract/shipping';
import type { Db } from '../database';
import { OWN, readCartonTypes } from './carton-types';
import { loadConsignment, type Consignment } from './read-consignment';

/** Cartons that what is not packed yet would go into. */
export async function readProposal(db: Db, id: number): Promise<ProposalView> {
  const consignment = await loadConsignment(db, id);
  const plan = proposeCartons(goodsOf(consignment), await loadKinds(db));
  const named = (rows: readonly { readonly key: number; readonly quantity: number }[]) => {
    const items = new Map<string, number>();
    for (const { key, quantity } of rows) {
      const { item } = consignment.parts.find((part) => part.id === key)!;
      items.set(item, (items.get(item) ?? 0) + quantity);
    }
    return [...items].map(([item, quantity]) => ({ item, quantity: String(quantity) }));
  };
  return {
    cartons: plan.cartons.map(({ kind, weight, contents }) => ({ type: kind, weight: kilograms(weight), contents: named(contents) })),
    alone: named(plan.alone),
  };
}

/** A weight to the gram. */
export function kilograms(weight: number): string {
  return String(Math.round(weight * 1000) / 1000);
}

/** What is not packed yet, as cartons are proposed for it. */
export function goodsOf({ parts }: Consignment): PackGoods[] {
  return parts
    .map((part): PackGoods => {
      const { length_cm: length, width_cm: width, height_cm: height } = part;
      return {
        key: part.id,
        quantity: Number(minus(part.quantity, part.packed)),
        weight: Number(part.weight),
        size: length === null ? null : { length: Number(length), width: Number(width), height: Number(height) },
        apart: part.apart,
      };
    })
    .filter((row) => row.quantity > 0);
}

/** Kinds of cartons that can be proposed. */
export async function loadKinds(db: Db): Promise<CartonKind[]> {
  const types = await readCartonTypes(db);
  return types
    .filter((type) => type.code !== OWN)
    .map(({ code, length, width, height, tare, most }) => ({
      code,
      size: { length: Number(length), width: Number(width), height: Number(height) },
      tare: Number(tare),
      most: Number(most),
    }));
}
