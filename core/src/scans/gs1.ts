import { parseDay } from '../calendar';

/** What a scan of a label says; or what was typed, where it is no label. */
export interface Scan {
  /** Trade item number of one unit, 14 digits. */
  readonly gtin?: string;
  /** Trade item number of what is inside a logistic unit, 14 digits; how many stand in `count`. */
  readonly sscc?: string;
  readonly lot?: string;
  /** The last day it may be used. */
  readonly expires?: string;
  readonly count?: number;
  readonly serial?: string;
  /** The order number of whoever ordered: ours, on what a supplier sends. */
  readonly order?: string;
  /** What was read, where it is no GS1 label. */
  readonly plain?: string;
}

export type ScanResult = { readonly ok: true; readonly scan: Scan } | { readonly ok: false; readonly fault: string };

/** Ends an element of variable length. Source: GS1 General Specifications, FNC1 as transmitted. */
const GS = '\u001d';
/** Symbology identifiers that a scanner may send before GS1 data: GS1-128, DataMatrix, QR, DataBar. */
const SYMBOLOGY = /^\](C1|d2|Q3|e0)/;

type Element = keyof Omit<Scan, 'plain'>;

interface Rule {
  readonly element: Element | null;
  readonly length: number;
  readonly fixed: boolean;
}

/** Application identifiers that goods come with. Source: GS1 General Specifications (identifiers and lengths from memory). */
const RULES: Readonly<Record<string, Rule>> = {
  '00': { element: 'sscc', length: 18, fixed: true },
  '01': { element: 'gtin', length: 14, fixed: true },
  '02': { element: 'gtin', length: 14, fixed: true },
  '10': { element: 'lot', length: 20, fixed: false },
  '11': { element: null, length: 6, fixed: true },
  '13': { element: null, length: 6, fixed: true },
  '15': { element: 'expires', length: 6, fixed: true },
  '17': { element: 'expires', length: 6, fixed: true },
  '20': { element: null, length: 2, fixed: true },
  '21': { element: 'serial', length: 20, fixed: false },
  '30': { element: 'count', length: 8, fixed: false },
  '37': { element: 'count', length: 8, fixed: false },
  '240': { element: null, length: 30, fixed: false },
  '400': { element: 'order', length: 30, fixed: false },
};

/**
 * The check digit of a GS1 number given without it: modulo 10, weights 3 and 1 from the right.
 * Source: GS1 General Specifications, section on check digits.
 */
export function checkDigit(digits: string): number {
  let sum = 0;
  for (let at = digits.length - 1, weight = 3; at >= 0; at--, weight = 4 - weight) sum += Number(digits[at]) * weight;
  return (10 - (sum % 10)) % 10;
}

/** Whether digits are a GTIN-8, -12, -13 or -14 with the right check digit. */
export function isGtin(text: string): boolean {
  return /^(\d{8}|\d{12,14})$/.test(text) && checkDigit(text.slice(0, -1)) === Number(text.at(-1));
}

/**
 * Reads what a scanner typed: GS1 element strings with FNC1 between them or identifiers in brackets, a bare GTIN, or any
 * other text. `today` decides the century of two-digit years. A label that is broken is a fault that says where.
 */
export function readScan(typed: string, today: string): ScanResult {
  const text = typed.trim();
  if (text === '') return { ok: false, fault: 'nothing was scanned' };
  if (SYMBOLOGY.test(text)) return readElements(text.replace(SYMBOLOGY, ''), today);
  if (/^\(\d{2,4}\)/.test(text)) return readBracketed(text, today);
  if (isGtin(text)) return { ok: true, scan: { gtin: text.padStart(14, '0') } };
  if (text.includes(GS) || /^(01|02)\d{14}(?=\D|\d{2})/.test(text)) return readElements(text, today);
  return { ok: true, scan: { plain: text } };
}

function readBracketed(text: string, today: string): ScanResult {
  const elements = [...text.matchAll(/\((\d{2,4})\)([^(]*)/g)].map((match) => [match[1]!, match[2]!.trim()] as const);
  return collect(elements, today);
}

function readElements(text: string, today: string): ScanResult {
  const elements: (readonly [string, string])[] = [];
  for (let rest = text; rest !== '';) {
    if (rest.startsWith(GS)) {
      rest = rest.slice(1);
      continue;
    }
    const id = [2, 3, 4].map((length) => rest.slice(0, length)).find((one) => RULES[one]);
    if (!id) return { ok: false, fault: `the label says ${rest.slice(0, 4)} where an identifier should be` };
    const rule = RULES[id]!;
    const after = rest.slice(id.length);
    const end = after.indexOf(GS);
    const value = rule.fixed ? after.slice(0, rule.length) : after.slice(0, end < 0 ? undefined : end);
    elements.push([id, value]);
    rest = after.slice(value.length);
  }
  return collect(elements, today);
}

function collect(elements: readonly (readonly [id: string, value: string])[], today: string): ScanResult {
  const scan: Record<string, string | number> = {};
  for (const [id, value] of elements) {
    const rule = RULES[id];
    if (!rule) return { ok: false, fault: `(${id}) is not known here` };
    if (value === '' || value.length > rule.length || (rule.fixed && value.length !== rule.length))
      return { ok: false, fault: `(${id}) holds ${value === '' ? 'nothing' : value}: expected ${rule.fixed ? '' : 'up to '}${rule.length} characters` };
    if (rule.element === null) continue;
    const read = elementOf(rule.element, value, today);
    if (read === null) return { ok: false, fault: `(${id}) ${value} is not right: ${WRONG[rule.element] ?? 'it cannot be read'}` };
    scan[rule.element] = read;
  }
  return { ok: true, scan };
}

const WRONG: Partial<Record<Element, string>> = {
  gtin: 'its check digit does not fit',
  sscc: 'its check digit does not fit',
  expires: 'expected a day as YYMMDD',
  count: 'expected a whole number above 0',
};

function elementOf(element: Element, value: string, today: string): string | number | null {
  if (element === 'gtin' || element === 'sscc') return /^\d+$/.test(value) && checkDigit(value.slice(0, -1)) === Number(value.at(-1)) ? value : null;
  if (element === 'expires') return expiryOf(value, today);
  if (element === 'count') return /^\d+$/.test(value) && Number(value) > 0 ? Number(value) : null;
  return value;
}

/**
 * A day written YYMMDD; day 00 is the last of the month. The century is the one that brings the year closest: from 49
 * years back to 50 ahead. Source: GS1 General Specifications, determination of century in dates.
 */
function expiryOf(value: string, today: string): string | null {
  const match = /^(\d{2})(\d{2})(\d{2})$/.exec(value);
  if (!match) return null;
  const [year, month, day] = match.slice(1).map(Number) as [number, number, number];
  const now = Number(today.slice(0, 4));
  const ahead = year - (now % 100);
  const full = now - (now % 100) + year + (ahead >= 51 ? -100 : ahead <= -50 ? 100 : 0);
  if (month < 1 || month > 12) return null;
  const last = new Date(Date.UTC(full, month, 0)).getUTCDate();
  const text = `${full}-${String(month).padStart(2, '0')}-${String(day === 0 ? last : day).padStart(2, '0')}`;
  return parseDay(text) === null ? null : text;
}
