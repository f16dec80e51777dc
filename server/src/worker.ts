import { freshenTask } from './boards';
import { drawCartonLabelsTask, drawPapersTask, drawPaperTask, drawPickListTask, drawReceiptTask, drawStatementTask } from './documents';
import { orderBookTask } from './exchange/order-book';
import { ordersCsvTask, readTextTask } from './orders';
import { newPromisesTask } from './promise/promise-lines';
import { choiceOfRunTask, movesOfRunTask, poolsOfRunTask } from './promise/accept-run';
import { combinationsTask } from './shortages/read-combinations';
import { planOfRoutesTask } from './shortages/plan-routes';
import { decideRoutingTask, reachOfRoutingTask } from './shortages/routing-decision';
import { readMessageTask } from './supply';
import type { Task } from './work';

/** Everything that is computed beside the thread that answers, by name. */
const TASKS = new Map(
  [
    readTextTask,
    ordersCsvTask,
    drawPaperTask,
    drawPapersTask,
    drawCartonLabelsTask,
    drawPickListTask,
    drawReceiptTask,
    drawStatementTask,
    readMessageTask,
    orderBookTask,
    freshenTask,
    planOfRoutesTask,
    combinationsTask,
    choiceOfRunTask,
    poolsOfRunTask,
    movesOfRunTask,
    reachOfRoutingTask,
    decideRoutingTask,
    newPromisesTask,
  ].map((task) => [task.name, task as Task<unknown, unknown>]),
);

/** What a thread of the pool runs. */
export default async function work({ name, input }: { readonly name: string; readonly input: unknown }): Promise<unknown> {
  const task = TASKS.get(name);
  if (!task) throw new Error(`there is no task ${name}`);
  return task.run(input);
}
