import { dayNumber } from '../src/calendar';
import type { OrderBook } from '../src/promise';
import { solve } from './solver';

/** How a book of one item could be served at best: least total lateness (quantity × days) among all that cover the most. */
export interface Optimum {
  readonly covered: number;
  readonly lateness: number;
}

/** More than any lateness: covering comes before being on time. */
const UNCOVERED_COST = 10_000;

/**
 * The optimum of a book of one item at one warehouse that works every day, as a program for HiGHS: x of a line and a day
 * is the quantity (or, `whole`, whether the line) leaves then; what has left by a day cannot exceed what has come by it.
 */
export async function optimumOf(book: OrderBook, whole: boolean): Promise<Optimum> {
  const today = dayNumber(book.asOf.slice(0, 10));
  const supply = book.supply.map((row) => ({ day: row.date === undefined ? today : Math.max(today, dayNumber(row.date)), quantity: row.quantity }));
  const lines = book.demand.map((row) => ({ target: Math.max(today, dayNumber(row.requested)), quantity: row.quantity }));
  const days = [...new Set([...supply.map((row) => row.day), ...lines.map((row) => row.target)])].sort((a, b) => a - b);

  const variables = lines.flatMap((line, at) =>
    days.filter((day) => day >= line.target).map((day) => ({ name: `x${at}_${day}`, at, day, late: day - line.target, units: whole ? line.quantity : 1 })),
  );
  const cost = [
    ...variables.map(({ name, late, units }) => `${late * units} ${name}`),
    ...lines.map(({ quantity }, at) => `${UNCOVERED_COST * (whole ? quantity : 1)} u${at}`),
  ];
  const all = lines.map(({ quantity }, at) => {
    const parts = variables.filter((variable) => variable.at === at).map(({ name }) => name);
    return ` all${at}: ${[...parts, `u${at}`].join(' + ')} = ${whole ? 1 : quantity}`;
  });
  const stock = days.flatMap((day) => {
    const left = variables.filter((variable) => variable.day <= day).map(({ name, units }) => `${units} ${name}`);
    const come = supply.filter((row) => row.day <= day).reduce((sum, row) => sum + row.quantity, 0);
    return left.length === 0 ? [] : [` stock${day}: ${left.join(' + ')} <= ${come}`];
  });
  const names = [...variables.map(({ name }) => name), ...lines.map((_, at) => `u${at}`)];
  const program = ['Minimize', ` cost: ${cost.join(' + ')}`, 'Subject To', ...all, ...stock, whole ? `Binary\n ${names.join(' ')}` : '', 'End'].join('\n');

  const value = await solve(program);
  return {
    covered: round(variables.reduce((sum, { name, units }) => sum + units * value(name), 0)),
    lateness: round(variables.reduce((sum, { name, late, units }) => sum + late * units * value(name), 0)),
  };
}

const round = (value: number) => Math.round(value * 1e6) / 1e6;
