import { checkDigit } from './gs1';

/**
 * The serial shipping container code of a carton, 18 digits: an extension digit, the firm's prefix, a serial that fills what is
 * left, the check digit. Throws where the serial does not fit. Source: GS1 General Specifications, SSCC.
 */
export function makeSscc(prefix: string, serial: number, extension = 0): string {
  const room = 16 - prefix.length;
  const digits = String(serial);
  if (!/^\d{7,10}$/.test(prefix) || digits.length > room) throw new Error(`serial ${serial} does not fit behind the prefix ${prefix}`);
  const body = `${extension}${prefix}${digits.padStart(room, '0')}`;
  return `${body}${checkDigit(body)}`;
}

/** Elements in brackets as GS1 bar codes are made from: `(00)376…`. */
export function elementText(elements: readonly (readonly [id: string, value: string])[]): string {
  return elements.map(([id, value]) => `(${id})${value}`).join('');
}
