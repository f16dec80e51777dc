import { invalid } from '../http/refusal';

/** A quantity of a line of a document: what came of it, or what is still to come. */
export interface LineQuantity {
  readonly line: number;
  readonly quantity: string;
  /** Of what came: unfit to be sold, besides. */
  readonly damaged?: string;
}

/** `12:5,13:8:1`: quantities by line, and how many received damaged, as a query carries them. */
export function readQuantities(text: string): LineQuantity[] {
  return text.split(',').map((part, at) => {
    const match = /^(\d{1,9}):(\d{1,9}(?:\.\d{1,4})?)(?::(\d{1,9}(?:\.\d{1,4})?))?$/.exec(part.trim());
    if (!match) throw invalid('query.lines', `expected line:quantity with commas between, got ${part.slice(0, 40)} at ${at + 1}`);
    const damaged = match[3];
    return { line: Number(match[1]), quantity: match[2]!, ...(damaged !== undefined && Number(damaged) > 0 ? { damaged } : {}) };
  });
}
