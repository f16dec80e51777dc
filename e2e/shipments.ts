import { expect, type Page } from '@playwright/test';
import { ask, leaveFields, send } from './desk';

export interface Shipment {
  readonly id: number;
  readonly number: string;
  readonly consignment: number;
  readonly state: string;
}
export interface Order {
  readonly id: number;
  readonly number: string;
  readonly version: number;
  readonly lines: readonly { readonly id: number; readonly item: string; readonly stockQuantity: string }[];
  readonly shipments: readonly Shipment[];
}
interface Board {
  readonly ready: readonly {
    readonly order: number;
    readonly warehouse: string;
    readonly lines: readonly { readonly line: number; readonly quantity: string }[];
  }[];
}

/** An order as it stands. */
export const read = (page: Page, id: number) => ask<Order>(page, `/orders/${id}`);

/** Releases the draft on the screen; gives the order. */
export async function released(page: Page): Promise<Order> {
  await leaveFields(page);
  await expect(page.getByRole('button', { name: /^Release/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/\d{5}/);
  return read(page, Number(page.url().split('/').at(-1)));
}

/** Picks what is ready of an order, from each warehouse it is ready at. */
export async function pickAll(page: Page, order: Order): Promise<void> {
  const board = await ask<Board>(page, `/shipping?q=${order.number}`);
  for (const { warehouse, lines } of board.ready.filter((row) => row.order === order.id))
    await send(page, '/shipments', { order: order.id, warehouse, lines: lines.map(({ line, quantity }) => ({ line, quantity })) });
}

/** Everything of an order that is ready leaves, without a carrier. */
export async function shipAll(page: Page, order: Order): Promise<readonly Shipment[]> {
  await pickAll(page, order);
  const { shipments } = await read(page, order.id);
  for (const { id } of shipments.filter((row) => row.state === 'picking')) await send(page, `/shipments/${id}/ship`, { tracking: '' });
  return (await read(page, order.id)).shipments;
}

/** Presses a button by keyboard once it can be pressed: what was done before it may still be on its way. */
export async function press(page: Page, name: RegExp): Promise<void> {
  const button = page.getByRole('button', { name });
  await expect(button).toBeEnabled();
  await button.press('Enter');
}
