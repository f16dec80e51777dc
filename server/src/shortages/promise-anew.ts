import type { CommandContext, Services } from '../http/context';
import type { OrderLineRecord } from '../orders';
import { promiseLines } from '../promise';

/** Promises all that can be promised of lines, each as surely as its customer or the desk wants (`sureFor` its order). */
export async function promiseAnew(
  context: CommandContext,
  sureFor: (order: number) => number | null,
  lines: readonly OrderLineRecord[],
  services?: Pick<Services, 'work'>,
): Promise<void> {
  const groups = new Map<number | null, OrderLineRecord[]>();
  for (const line of lines) {
    const sure = sureFor(line.order_id);
    const known = groups.get(sure);
    if (known) known.push(line);
    else groups.set(sure, [line]);
  }
  for (const [confidence, list] of groups)
    await promiseLines(context, { items: [...new Set(list.map((line) => line.item))], lines: list.map((line) => line.id), confidence }, services);
}
