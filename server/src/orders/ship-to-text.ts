import type { ShipToId } from '@nockwright/core/ids';
import type { ShipTo } from '@nockwright/contract/customers';

/** An address as it is joined to an order or a line. */
export interface JoinedShipTo {
  readonly ship_name: string | null;
  readonly ship_street: string | null;
  readonly ship_postcode: string | null;
  readonly ship_town: string | null;
  readonly ship_country: string | null;
}

/** A ship-to address on one line. */
export function shipToText({ ship_name, ship_street, ship_postcode, ship_town, ship_country }: JoinedShipTo): string {
  return `${ship_name}, ${ship_street}, ${ship_postcode} ${ship_town}, ${ship_country}`;
}

export function shipToView(row: JoinedShipTo & { readonly ship_to_id: ShipToId }): ShipTo {
  return { id: row.ship_to_id, name: row.ship_name!, street: row.ship_street!, postcode: row.ship_postcode!, town: row.ship_town!, country: row.ship_country! };
}
