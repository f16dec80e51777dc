import type { Choice } from '../list-choice';

/** What a text is read as, or what is wrong with it. */
export type Reading = { readonly value: unknown } | { readonly fault: string };

/** A field of a form, by its name in the body that is sent: what may stand in it the contract says. */
export interface RecordField<Name extends string = string> {
  readonly name: Name;
  readonly label: string;
  /** What a message calls it, where its label says more. */
  readonly called?: string;
  /** `text` where nothing is said; `figure`: a decimal as text; `whole`: a whole number; `flag`: yes or no; `choice`: one of some words. */
  readonly kind?: 'text' | 'figure' | 'whole' | 'flag' | 'choice' | 'password';
  readonly most?: number;
  readonly choices?: readonly Choice[];
  /** What is sent where nothing is typed. */
  readonly empty?: null;
  readonly upper?: true;
  /** How it is written and read, where it is no plain text. */
  readonly write?: (value: never) => string;
  readonly read?: (text: string) => Reading;
  /** The flag it belongs to: it is shown only where that is set. */
  readonly under?: string;
}

/** Fields of a body of the contract; their names are checked against it. */
export const fieldsOf = <Body>(fields: readonly RecordField<keyof Body & string>[]): readonly RecordField<keyof Body & string>[] => fields;

/** What stands in a field before anything is typed. */
export function written({ kind, write }: RecordField, value: unknown): string | boolean {
  if (kind === 'flag') return value === true;
  if (write && value !== null && value !== undefined) return write(value as never);
  return value === null || value === undefined ? '' : String(value as string | number);
}

/** What is sent for what stands in a field. */
export function read({ kind, empty, upper, read: reader }: RecordField, typed: string | boolean): Reading {
  if (typeof typed === 'boolean') return { value: typed };
  if (kind === 'password') return { value: typed };
  const text = upper ? typed.trim().toUpperCase() : typed.trim();
  if (text === '' && empty === null) return { value: null };
  if (reader) return reader(text);
  // What is no number is sent as it is: the contract says what it expects.
  return { value: kind === 'whole' && /^\d+$/.test(text) ? Number(text) : text };
}

/** Faults by field as one message, fields with the same fault together: `Street, Town: missing.` */
export function faultsInWords(faults: readonly { readonly field: RecordField; readonly message: string; readonly typed: string | boolean }[]): string {
  const byMessage = new Map<string, string[]>();
  for (const { field, message, typed } of faults) {
    const said = faultOf(field, message, typed);
    byMessage.set(said, [...(byMessage.get(said) ?? []), field.called ?? field.label]);
  }
  return [...byMessage].map(([message, names]) => `${names.join(', ')}: ${message}.`).join(' ');
}

function faultOf({ kind }: RecordField, message: string, typed: string | boolean): string {
  if (typeof typed === 'string' && typed.trim() === '') return 'missing';
  return kind === 'whole' && message === 'expected a number' ? 'expected a whole number' : message;
}
