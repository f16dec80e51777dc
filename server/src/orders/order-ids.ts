import { invalid } from '../http/refusal';

/** Ids of orders as they stand in an address: `12,15,20`. */
export function readOrderIds(text: string): number[] {
  const parts = text === '' ? [] : text.split(',');
  if (parts.some((part) => !/^[1-9]\d{0,8}$/.test(part))) throw invalid('query.orders', 'expected ids of orders, as 12,15,20');
  return parts.map(Number);
}
