import { setImmediate as othersTurn } from 'node:timers/promises';

/** So many rows are gone through before others have their turn: some milliseconds. */
const ROWS_A_TURN = 25;

/** Rows made of rows, by a function that takes its time: whoever else asks is answered meanwhile. */
export async function mapInTurns<In, Out>(rows: readonly In[], make: (row: In) => Out): Promise<Out[]> {
  const made: Out[] = [];
  for (const [at, row] of rows.entries()) {
    if (at % ROWS_A_TURN === ROWS_A_TURN - 1) await othersTurn();
    made.push(make(row));
  }
  return made;
}
