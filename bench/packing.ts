import { percentile, type Figure } from './measure';

type Call = <T>(method: string, path: string, body?: object) => Promise<T>;
interface Order {
  readonly id: number;
  readonly version: number;
  readonly lines: readonly { readonly id: number; readonly warehouse: string; readonly stockQuantity: string; readonly service?: string }[];
}
interface Pick {
  readonly id: number;
  readonly consignment: number;
}

const PACKERS = 4;
const SHIPMENTS = 200;
/** 200 a minute. */
const PACE_MS = 300;
/** The lines that entry adds while nobody packs. */
const IDLE = 40;

/**
 * Shipments packed as proposed and closed by four packers, 200 a minute, with packing list, mail and events, while a coordinator enters lines: how long
 * 200 take against a minute, and what entry takes against an idle desk. `release` makes an order of some items that is released.
 */
export async function measurePacking(
  call: Call,
  items: readonly string[],
  start: () => Promise<{ readonly id: number; readonly version: number }>,
  release: (order: never) => Promise<unknown>,
): Promise<Figure[]> {
  const enter = async (): Promise<number> => {
    const draft = await start();
    const before = performance.now();
    await call('POST', `/orders/${draft.id}/lines/many`, { version: draft.version, lines: items.slice(0, 2).map((item) => ({ item, quantity: '1' })) });
    return performance.now() - before;
  };
  const idle: number[] = [];
  for (let at = 0; at < IDLE; at++) idle.push(await enter());

  const picks: Pick[] = [];
  for (let at = 0; at < SHIPMENTS; at++) {
    const draft = await start();
    const filled = await call<Order>('POST', `/orders/${draft.id}/lines/many`, {
      version: draft.version,
      lines: items.slice(0, 2).map((item) => ({ item, quantity: '2' })),
    });
    await release(filled as never);
    const order = await call<Order>('GET', `/orders/${draft.id}`);
    const warehouse = order.lines[0]!.warehouse;
    const lines = order.lines.filter((line) => line.warehouse === warehouse).map((line) => ({ line: line.id, quantity: line.stockQuantity }));
    picks.push(await call<Pick>('POST', '/shipments', { order: order.id, warehouse, lines }));
  }

  const busy: number[] = [];
  let packing = true;
  const entry = (async () => {
    while (packing) busy.push(await enter());
  })();
  const waiting = [...picks];
  const began = performance.now();
  await Promise.all(
    Array.from({ length: PACKERS }, async () => {
      for (let pick = waiting.shift(); pick; pick = waiting.shift()) {
        // As fast as is asked for, and no faster: what entry takes meanwhile is what counts.
        const early = (SHIPMENTS - waiting.length - 1) * PACE_MS - (performance.now() - began);
        if (early > 0) await new Promise((resolve) => setTimeout(resolve, early));
        const { version } = await call<{ version: number }>('GET', `/consignments/${pick.consignment}`);
        const packed = await call<{ version: number }>('POST', `/consignments/${pick.consignment}/pack-proposed`, { version });
        // A label made elsewhere: no carrier runs beside the bench.
        await call('POST', `/consignments/${pick.consignment}/ship`, { version: packed.version, tracking: `B${pick.id}` });
      }
    }),
  );
  const minutes = (performance.now() - began) / 60_000;
  packing = false;
  await entry;
  const p95 = (taken: number[]) =>
    percentile(
      [...taken].sort((a, b) => a - b),
      0.95,
    );
  return [
    { name: `${SHIPMENTS} shipments packed and closed by ${PACKERS} packers`, ratio: minutes, against: 'a minute', target: 1.05 },
    { name: 'entering lines meanwhile, p95', ratio: p95(busy) / p95(idle), against: 'entering them while nobody packs', target: 2 },
  ];
}
