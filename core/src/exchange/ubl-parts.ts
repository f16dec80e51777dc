import { parseDay } from '../calendar';
import type { TradeItem, TradeParty } from './documents';
import type { Tree } from './xml';
import { textAt } from './xml';

export function party({ name, code }: TradeParty): Tree {
  return {
    'cac:Party': { ...(code ? { 'cac:PartyIdentification': { 'cbc:ID': code } } : {}), 'cac:PartyName': { 'cbc:Name': name } },
  };
}

export function readParty(tree: Tree | undefined): TradeParty {
  const code = textAt(tree, 'Party/PartyIdentification/ID');
  return { name: textAt(tree, 'Party/PartyName/Name'), ...(code ? { code } : {}) };
}

export function itemOf({ description, buyersCode, sellersCode, gtin }: TradeItem): Tree {
  return {
    'cbc:Description': description,
    'cbc:Name': description,
    'cac:BuyersItemIdentification': { 'cbc:ID': buyersCode },
    ...(sellersCode ? { 'cac:SellersItemIdentification': { 'cbc:ID': sellersCode } } : {}),
    ...(gtin ? { 'cac:StandardItemIdentification': { 'cbc:ID': { '@schemeID': '0160', '#text': gtin } } } : {}),
  };
}

export function required(tree: Tree, path: string, where: string, faults: string[]): string {
  const text = textAt(tree, path);
  if (text === '') faults.push(`${where}: ${path} is missing`);
  return text;
}

export function decimalAt(tree: Tree, path: string, where: string, faults: string[]): string | null {
  const text = textAt(tree, path);
  if (text === '') return null;
  if (DECIMAL.test(text)) return text;
  faults.push(`${where}: ${path} is ${text.slice(0, 30)}, expected a number of at most four decimals`);
  return null;
}

export function dayAt(text: string, where: string, faults: string[]): string | null {
  if (text === '') return null;
  if (parseDay(text) !== null) return text;
  faults.push(`${where}: ${text.slice(0, 30)} is no day, expected YYYY-MM-DD`);
  return null;
}

export const DECIMAL = /^\d{1,9}(\.\d{1,4})?$/;
