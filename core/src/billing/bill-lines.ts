import type { ItemCode, LineId, OrderId, ShipmentId } from '../ids';
import { divide, lineAmount, minus, times, type Amount, type Decimal, type Quantity, type UnitPrice } from '../money';
import { inUnit } from '../pricing';
import { fromStockingUnits, SAME_UNIT, type UnitRatio } from '../units';
import { taxFor, type LineTax, type TaxFacts } from './tax';

/** A line of a shipment that has left and is on no invoice. Quantity in stocking units, price for one of the unit ordered. */
export interface ShippedLine extends UnitRatio, Omit<TaxFacts, 'firmCountry'> {
  readonly line: LineId;
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly description: string;
  readonly quantity: Quantity;
  readonly unit: string;
  readonly stockingUnit: string;
  readonly price: UnitPrice;
}

/** A shipment that is billed, with what the customer pays for its freight. */
export interface BilledShipment {
  readonly shipment: ShipmentId;
  readonly order: OrderId;
  readonly freight: Amount | null;
  readonly lines: readonly ShippedLine[];
}

/** A line of an invoice. Goods: `quantity` in `unit`, at `price` for one. */
export interface InvoiceLine extends LineTax {
  readonly kind: 'goods' | 'freight';
  readonly shipment: ShipmentId;
  readonly order: OrderId;
  readonly line: LineId | null;
  readonly item: ItemCode | null;
  readonly text: string;
  readonly quantity: Decimal;
  readonly unit: string;
  readonly price: Decimal;
  readonly amount: Amount;
}

/**
 * The lines of an invoice over shipments: goods in the unit ordered at the price agreed, then the freight of each shipment. What shipped is no whole
 * number of that unit and no short fraction of it either: whole units are one line, the rest a line in stocking units.
 */
export function billLines(shipments: readonly BilledShipment[], firmCountry: string, currency: string): readonly InvoiceLine[] {
  return shipments.flatMap(({ shipment, order, freight, lines }) => {
    const own = { shipment, order };
    const goods = lines.flatMap((line) => {
      const tax = taxFor({ ...line, firmCountry });
      return inUnits(line).map(({ quantity, unit, price }): InvoiceLine => ({
        ...own,
        ...tax,
        kind: 'goods',
        line: line.line,
        item: line.item,
        text: line.description,
        quantity,
        unit,
        price,
        amount: lineAmount(quantity, price, currency),
      }));
    });
    return [...goods, ...freightLine(own, freight, lines, firmCountry)];
  });
}

/** Freight is taxed as the goods it came with: at the dearest rate among them. Common practice, no source. */
function freightLine(
  own: { readonly shipment: ShipmentId; readonly order: OrderId },
  freight: Amount | null,
  lines: readonly ShippedLine[],
  firmCountry: string,
): readonly InvoiceLine[] {
  if (freight === null || Number(freight) === 0) return [];
  const [tax] = lines.map((line) => taxFor({ ...line, firmCountry })).sort((a, b) => Number(b.percent) - Number(a.percent));
  if (!tax) return [];
  return [{ ...own, ...tax, kind: 'freight', line: null, item: null, text: 'Freight', quantity: '1', unit: 'C62', price: freight, amount: freight }];
}

interface InUnit {
  readonly quantity: Decimal;
  readonly unit: string;
  readonly price: Decimal;
}

function inUnits({ quantity, unit, stockingUnit, price, numerator, denominator }: ShippedLine): readonly InUnit[] {
  const ratio = { numerator, denominator };
  const ordered = fromStockingUnits(quantity, ratio);
  if (ordered !== null) return [{ quantity: ordered, unit, price }];
  const whole = Math.floor(Number(divide(times(quantity, denominator), numerator, 4)));
  const rest = minus(quantity, divide(times(String(whole), numerator), denominator, 4));
  const each = { quantity: rest, unit: stockingUnit, price: inUnit(price, ratio, SAME_UNIT) };
  return whole > 0 ? [{ quantity: String(whole), unit, price }, each] : [each];
}
