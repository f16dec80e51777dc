import { type Quantity, type Decimal, compareDecimal, divide, plus, sum, times } from '../money';
import { deliveryDay, CARRIER_WEEK, leavesAgain } from '../calendar';
import { type Way, way, given, sumsOf, firstOf } from './way';
import type { AssemblyOffer, Shortage, SubstituteOffer, TransferOffer } from './shortage';
import { sentInstead, priceInstead } from './instead';

/** For one of what is short, so that amounts are those of what is sent. */
export function perShort(sent: Decimal, each: Decimal, quantity: Quantity): Decimal {
  return compareDecimal(quantity, '0') === 0 ? each : divide(times(sent, each), quantity, 8);
}

export function transfer(shortage: Shortage, offer: TransferOffer): Way {
  const expected = deliveryDay(offer.leaves, offer.transitDays, CARRIER_WEEK);
  const day = leavesAgain(expected, shortage.warehouse);
  return way([offer.free], null, offer.free, (quantity) =>
    given(shortage, {
      kind: 'transfer',
      warehouse: offer.warehouse,
      label: `Transfer from ${offer.name}`,
      quantity,
      leaves: [{ day, quantity }],
      barred: compareDecimal(quantity, offer.free) > 0,
      unitCost: plus(shortage.unitCost, offer.unitCost),
      remarks: [
        { kind: 'free_there', warehouse: offer.name, free: offer.free, enough: compareDecimal(quantity, offer.free) <= 0 },
        { kind: 'due', day: expected, bound: false },
      ],
    }),
  );
}

export function assemble(shortage: Shortage, offer: AssemblyOffer): Way {
  const day = leavesAgain(offer.done, shortage.warehouse);
  return way([offer.most], '1', offer.most, (quantity) => {
    const whole = Number.isInteger(Number(quantity));
    return given(shortage, {
      kind: 'assemble',
      label: 'Assemble here',
      quantity,
      leaves: [{ day, quantity }],
      barred: !whole || compareDecimal(quantity, offer.most) > 0,
      unitCost: offer.unitCost,
      remarks: [
        whole ? { kind: 'components', most: offer.most, enough: compareDecimal(quantity, offer.most) <= 0 } : { kind: 'only_whole' },
        { kind: 'made_of', components: offer.components },
        { kind: 'done_by', day: offer.done },
      ],
    });
  });
}

export function substitute(shortage: Shortage, offer: SubstituteOffer): Way {
  const most = sum(offer.days.map((entry) => entry.quantity));
  return way(sumsOf(offer.days), null, most, (quantity) => {
    const { sent, over } = sentInstead(quantity, { ratio: offer.ratio, step: offer.step ?? '1' });
    const own = offer.ownPrice?.(sent) ?? null;
    const instead = priceInstead(offer.unitPrice, offer.ratio, own);
    const whole = compareDecimal(over, '0') === 0;
    return given(shortage, {
      kind: 'substitute',
      item: offer.item,
      label: `${sent} ${offer.item} in place of ${quantity}${offer.successor ? ', its successor' : ''}`,
      quantity,
      leaves: firstOf(offer.days, quantity).map(({ day, quantity: part }) => ({ day, quantity: part })),
      cost: times(sent, offer.unitCost),
      unitCost: perShort(sent, offer.unitCost, quantity),
      unitPrice: perShort(sent, instead.price, quantity),
      obliges: [{ kind: 'consent', to: 'other_item' }],
      remarks: [
        { kind: 'item', description: offer.description },
        ...(compareDecimal(quantity, most) > 0 ? [{ kind: 'only_promised', most } as const] : []),
        ...(offer.ratio === '1' && whole ? [] : [{ kind: 'stands_for', sent, quantity, over: whole ? null : over } as const]),
        ...(instead.own ? [{ kind: 'own_price', price: own!.price, source: own!.source } as const] : []),
      ],
    });
  });
}
