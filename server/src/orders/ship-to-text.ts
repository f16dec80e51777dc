/** A ship-to address on one line. */
export function shipToText(order: {
  readonly ship_name: string;
  readonly ship_street: string;
  readonly ship_postcode: string;
  readonly ship_town: string;
  readonly ship_country: string;
}): string {
  return `${order.ship_name}, ${order.ship_street}, ${order.ship_postcode} ${order.ship_town}, ${order.ship_country}`;
}
