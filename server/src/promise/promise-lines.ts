import type { CommandContext, Services } from '../http/context';
import type { Task } from '../work';
import { bookOf, readBook, type BookRead } from './load-book';
import { newPromises, storePromises, type NewPromise } from './store-promises';

/** Lines to be promised together, as surely as `confidence` says, in percent; null: the suppliers' days are believed. */
export interface LinesToPromise {
  readonly items: readonly string[];
  readonly lines: readonly number[];
  readonly confidence: number | null;
}

export const newPromisesTask: Task<{ readonly read: BookRead; readonly lines: readonly number[] }, NewPromise[]> = {
  name: 'newPromises',
  run: ({ read, lines }) => newPromises(bookOf(read), lines).promises,
};

/** So many lines are promised in the thread that answers. */
const MOST_LINES_HERE = 50;

/**
 * Promises all that can be promised of lines. The pools must be locked. The book of many lines is read here, where what
 * this transaction has changed is seen, and computed beside the thread that answers.
 */
export async function promiseLines(context: CommandContext, { items, lines, confidence }: LinesToPromise, services?: Pick<Services, 'work'>): Promise<void> {
  const input = { read: await readBook(context.trx, context.now, { items, confidence }), lines };
  const beside = services && lines.length > MOST_LINES_HERE;
  await storePromises(context, beside ? await services.work.run(newPromisesTask, input, context.user.id) : await newPromisesTask.run(input));
}
