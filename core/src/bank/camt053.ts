import { parseDay } from '../calendar';
import { allOf, at, readTree, textAt, type Read, type Tree } from '../exchange';
import type { BankEntry, BankStatement } from './bank-entry';

/** `camt.053.001.02` and later: the part of a version's number is free. */
const NAMESPACE = /\burn:iso:std:iso:20022:tech:xsd:camt\.053\.001\.\d\d\b/;
const MANY = ['Stmt', 'Ntry', 'NtryDtls', 'TxDtls', 'Ustrd', 'Strd'];

/**
 * Reads bank statements of ISO 20022, camt.053 (BankToCustomerStatement): booked entries, those of a batch one by one. Which elements are read, and where
 * they stand, is written down from memory of the message's definition. Gives why it could not be read, by entry and element.
 */
export function readCamt053(xml: string): Read<BankStatement> {
  const read = readTree(xml, MANY);
  if (!read.ok) return read;
  const message = at(read.document, 'Document/BkToCstmrStmt');
  if (!message || !NAMESPACE.test(xml)) return { ok: false, faults: ['expected a bank statement as camt.053 of ISO 20022'] };
  const statements = allOf(message, 'Stmt');
  const [first] = statements;
  if (!first) return { ok: false, faults: ['the message has no statement'] };
  const account = textAt(first, 'Acct/Id/IBAN') || textAt(first, 'Acct/Id/Othr/Id');
  if (statements.some((one) => (textAt(one, 'Acct/Id/IBAN') || textAt(one, 'Acct/Id/Othr/Id')) !== account))
    return { ok: false, faults: ['the file is of several accounts: take one after the other'] };
  const booked = statements.flatMap((one) => allOf(one, 'Ntry')).filter((entry) => (textAt(entry, 'Sts/Cd') || textAt(entry, 'Sts') || 'BOOK') === 'BOOK');
  const faults = booked.flatMap((entry, index) => faultsOf(entry, `entry ${index + 1}`));
  const currencies = new Set(booked.map(currencyOf));
  if (currencies.size > 1) faults.push(`the file has amounts in ${[...currencies].join(' and ')}`);
  if (faults.length > 0) return { ok: false, faults };
  const entries = withKeys(booked.flatMap((entry) => partsOf(entry)));
  return { ok: true, document: { account, currency: [...currencies][0] || textAt(first, 'Acct/Ccy'), entries } };
}

const currencyOf = (entry: Tree) => textAt(at(entry, 'Amt'), '@Ccy');
const dayOf = (entry: Tree) => (textAt(entry, 'BookgDt/Dt') || textAt(entry, 'BookgDt/DtTm') || textAt(entry, 'ValDt/Dt')).slice(0, 10);

function faultsOf(entry: Tree, name: string): string[] {
  const amount = textAt(entry, 'Amt');
  const side = textAt(entry, 'CdtDbtInd');
  return [
    ...(/^\d{1,12}(\.\d{1,5})?$/.test(amount) ? [] : [`${name}: Amt: expected an amount, got ${amount || 'nothing'}`]),
    ...(side === 'CRDT' || side === 'DBIT' ? [] : [`${name}: CdtDbtInd: expected CRDT or DBIT, got ${side || 'nothing'}`]),
    ...(parseDay(dayOf(entry)) !== null ? [] : [`${name}: BookgDt: expected a day, got ${dayOf(entry) || 'nothing'}`]),
  ];
}

/** An entry, or the payments of a batch. A batch whose parts have no amounts of their own is one. */
function partsOf(entry: Tree): BankEntry[] {
  const parts = allOf(entry, 'NtryDtls').flatMap((details) => allOf(details, 'TxDtls'));
  const own = parts.map((part) => textAt(part, 'AmtDtls/TxAmt/Amt') || textAt(part, 'Amt'));
  const bank = textAt(entry, 'AcctSvcrRef') || textAt(entry, 'NtryRef');
  if (parts.length > 1 && own.every(Boolean)) return parts.map((part, index) => entryOf(entry, part, own[index]!, `${bank}/${index + 1}`));
  return [entryOf(entry, parts[0] ?? {}, textAt(entry, 'Amt'), bank)];
}

function entryOf(entry: Tree, part: Tree, amount: string, key: string): BankEntry {
  const incoming = textAt(entry, 'CdtDbtInd') === 'CRDT';
  const party = incoming ? 'Dbtr' : 'Cdtr';
  const remittance = at(part, 'RmtInf');
  const structured = remittance ? allOf(remittance, 'Strd') : [];
  const free = remittance ? allOf(remittance, 'Ustrd').map((one) => textOf(one)) : [];
  return {
    key,
    day: dayOf(entry),
    amount,
    direction: incoming ? 'in' : 'out',
    party: textAt(part, `RltdPties/${party}/Nm`) || textAt(part, `RltdPties/${party}/Pty/Nm`),
    partyAccount: textAt(part, `RltdPties/${party}Acct/Id/IBAN`),
    reference: structured.map((one) => textAt(one, 'CdtrRefInf/Ref')).find(Boolean) ?? '',
    text: [...free, ...structured.map((one) => textAt(one, 'RfrdDocInf/Nb')), textAt(entry, 'AddtlNtryInf')].filter(Boolean).join(' '),
  };
}

const textOf = (tree: Tree | string): string => (typeof tree === 'string' ? tree : ((tree['#text'] as string | undefined) ?? ''));

/** Entries that the bank numbers keep that; others are known by what they are, and the how-manieth of it they are on their day. */
function withKeys(entries: readonly BankEntry[]): BankEntry[] {
  const seen = new Map<string, number>();
  return entries.map((entry) => {
    if (entry.key !== '' && !entry.key.startsWith('/')) return entry;
    const what = [entry.day, entry.direction, Number(entry.amount), entry.partyAccount || entry.party, entry.reference, entry.text].join('|');
    const count = (seen.get(what) ?? 0) + 1;
    seen.set(what, count);
    return { ...entry, key: `${what}|${count}` };
  });
}
