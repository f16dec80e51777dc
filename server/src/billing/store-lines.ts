import type { InvoiceTotals, LineTax } from '@nockwright/core/billing';
import type { ItemCode, LineId, OrderId, ShipmentId } from '@nockwright/core/ids';
import { insertRows, type Trx } from '../database';

/** A line as it is written, of an invoice or a credit note. */
export interface StoredLine extends LineTax {
  readonly kind: 'goods' | 'freight';
  readonly shipment: ShipmentId | null;
  readonly order: OrderId | null;
  readonly line: LineId | null;
  readonly item: ItemCode | null;
  readonly text: string;
  readonly quantity: string;
  readonly unit: string;
  readonly price: string;
  readonly amount: string;
  /** The line it takes back. */
  readonly credits?: number;
}

/** Writes the lines and taxes of an invoice: two statements, however many there are. */
export async function storeLines(trx: Trx, invoice: number, lines: readonly StoredLine[], { taxes }: InvoiceTotals): Promise<void> {
  await insertRows(
    trx,
    'invoice_line',
    lines.map(({ shipment, order, line, credits, reason, ...row }, at) => ({
      ...row,
      invoice_id: invoice,
      line_no: at + 1,
      shipment_id: shipment,
      order_id: order,
      order_line_id: line,
      tax_reason: reason,
      credits_id: credits ?? null,
    })),
  );
  await insertRows(
    trx,
    'invoice_tax',
    taxes.map((row) => ({ ...row, invoice_id: invoice })),
  );
}
