import type { OrderView } from '@nockwright/contract/orders';

/** What stands between a draft and its release, or what comes next; empty where there is nothing to say. */
export function adviceFor(order: OrderView): string {
  if (order.state !== 'draft') return '';
  const repriced = order.lines.filter((line) => line.offered);
  if (repriced.length > 0)
    return `${repriced.map((line) => `Line ${line.lineNo}`).join(', ')}: the price has changed. Go to it with ↑, then take it (Y) or keep the agreed (K).`;
  if (order.mustNameContract && order.contract === null && order.contracts.length > 0) return 'This customer orders under a contract: name it.';
  if (order.kind === 'quote')
    return order.lines.length === 0 ? '' : 'A line typed as “or jar hex 20” is offered instead of the one above, “and …” as an extra.';
  const tasks = order.tasks.filter((task) => !task.closed).length;
  if (tasks > 0) return `${tasks} ${tasks === 1 ? 'thing' : 'things'} of their text to deal with: see the order as a whole (H).`;
  const open = order.lines.filter(
    (line) => Number(line.uncovered) > line.routes.filter((route) => route.kind === 'backorder').reduce((sum, route) => sum + Number(route.quantity), 0),
  );
  if (open.length > 0)
    return open.length === 1
      ? `Line ${open[0]!.lineNo} has ${open[0]!.uncovered} backordered: go to it with ↑ and choose an option.`
      : `${open.length} lines are backordered: choose an option on each (↑), or for all at once (Ctrl O).`;
  return order.lines.some((line) => line.state === 'late') ? 'Some lines ship later than requested: say so, or choose another option.' : '';
}
