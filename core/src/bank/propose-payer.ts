import { isCreditorReference, proposeSettlement, type OpenInvoice, type Settled } from '../billing';
import type { CustomerId } from '../ids';
import { compareDecimal, minus, sum, type Amount } from '../money';
import type { BankEntry } from './bank-entry';

export interface BankInvoice extends OpenInvoice {
  readonly customer: CustomerId;
  readonly reference: string;
}

/** Why a payment may be of a customer. */
export type ProposalReason =
  { readonly kind: 'reference' | 'number' | 'amount'; readonly invoice: string } | { readonly kind: 'account' | 'name' | 'name_like' | 'all_open' };

export interface PayerProposal {
  readonly customer: CustomerId;
  readonly settled: readonly Settled[];
  readonly onAccount: Amount;
  readonly why: readonly ProposalReason[];
  /** Named by reference, number or account, to the cent, and nobody else is. */
  readonly sure: boolean;
}

/** What payments are matched with, so that each is found at once. */
export interface PayerIndex {
  readonly byReference: ReadonlyMap<string, BankInvoice>;
  readonly byNumber: ReadonlyMap<string, BankInvoice>;
  readonly byAmount: ReadonlyMap<string, readonly BankInvoice[]>;
  readonly byCustomer: ReadonlyMap<CustomerId, readonly BankInvoice[]>;
  readonly byAccount: ReadonlyMap<string, CustomerId>;
  readonly byName: ReadonlyMap<string, readonly CustomerId[]>;
}

const MOST_PROPOSALS = 3;
/** How much each reason counts. Ours: what names an invoice comes before what names a customer, and that before an amount alone. */
const WEIGHTS = { reference: 100, number: 60, account: 50, name: 40, name_like: 25, all_open: 15, amount: 30 } as const;
const LEGAL = /\b(?:ltd|limited|plc|llp|gmbh|ag|kg|ohg|bv|sa|sarl|srl|co|and|the|company)\b/g;

const plainName = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9 ]/g, ' ')
    .replace(LEGAL, ' ')
    .replace(/\s+/g, ' ')
    .trim();
const firstWord = (name: string) => name.split(' ').find((word) => word.length > 3) ?? name;
const cents = (amount: Amount) => String(Number(amount));

function grouped<K, V>(rows: readonly V[], keyOf: (row: V) => K): ReadonlyMap<K, readonly V[]> {
  const groups = new Map<K, V[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** Puts open invoices and customers where a payment finds them. `accounts`: which customer paid from which account before. */
export function indexPayers(
  invoices: readonly BankInvoice[],
  customers: readonly { readonly id: CustomerId; readonly name: string }[],
  accounts: readonly (readonly [account: string, customer: CustomerId])[],
): PayerIndex {
  const named = customers.map((row) => ({ ...row, name: plainName(row.name) })).filter((row) => row.name !== '');
  const byName = new Map<string, readonly CustomerId[]>();
  for (const [name, rows] of grouped(named, (row) => row.name))
    byName.set(
      `=${name}`,
      rows.map((row) => row.id),
    );
  for (const [word, rows] of grouped(named, (row) => firstWord(row.name)))
    byName.set(
      word,
      rows.map((row) => row.id),
    );
  return {
    byReference: new Map(invoices.filter((row) => row.reference !== '').map((row) => [row.reference, row])),
    byNumber: new Map(invoices.map((row) => [row.number.toUpperCase(), row])),
    byAmount: grouped(invoices, (row) => cents(row.open)),
    byCustomer: grouped(invoices, (row) => row.customer),
    byAccount: new Map(accounts),
    byName,
  };
}

interface Candidate {
  readonly customer: CustomerId;
  readonly why: ProposalReason[];
  readonly named: BankInvoice[];
}

/**
 * Of whom a payment may be, the likeliest first, at most three: by creditor reference (ISO 11649), invoice numbers in its text, the account it came from,
 * the payer's name, the amount. `discountFor`: what may be taken off an invoice on the day of the payment.
 */
export function proposePayers(entry: BankEntry, index: PayerIndex, discountFor: (invoice: OpenInvoice) => Amount): readonly PayerProposal[] {
  const found = new Map<CustomerId, Candidate>();
  const note = (customer: CustomerId, reason: ProposalReason, invoice?: BankInvoice) => {
    const candidate = found.get(customer) ?? { customer, why: [], named: [] };
    found.set(customer, candidate);
    if (invoice && candidate.named.includes(invoice)) return;
    candidate.why.push(reason);
    if (invoice && reason.kind !== 'amount') candidate.named.push(invoice);
  };
  for (const reference of referencesIn(entry)) {
    const invoice = index.byReference.get(reference);
    if (invoice) note(invoice.customer, { kind: 'reference', invoice: invoice.number }, invoice);
  }
  for (const word of new Set(`${entry.text} ${entry.reference}`.toUpperCase().match(/[A-Z]{0,6}-?\d{1,12}/g) ?? [])) {
    const invoice = index.byNumber.get(word);
    if (invoice) note(invoice.customer, { kind: 'number', invoice: invoice.number }, invoice);
  }
  const known = entry.partyAccount === '' ? undefined : index.byAccount.get(entry.partyAccount);
  if (known !== undefined) note(known, { kind: 'account' });
  const name = plainName(entry.party);
  const same = name === '' ? [] : (index.byName.get(`=${name}`) ?? []);
  for (const customer of same) note(customer, { kind: 'name' });
  if (same.length === 0 && name !== '') for (const customer of index.byName.get(firstWord(name)) ?? []) note(customer, { kind: 'name_like' });
  for (const invoice of index.byAmount.get(cents(entry.amount)) ?? []) note(invoice.customer, { kind: 'amount', invoice: invoice.number }, invoice);
  const judged = [...found.values()].map((candidate) => judge(candidate, entry, index, discountFor));
  const nobodyElse = judged.filter((one) => one.strong).length === 1;
  return judged
    .sort((a, b) => b.score - a.score || a.customer - b.customer)
    .slice(0, MOST_PROPOSALS)
    .map(({ customer, settled, onAccount, why, strong, fits }) => ({ customer, settled, onAccount, why, sure: strong && fits && nobodyElse }));
}

/** Creditor references of an entry whose check digits are right. */
function referencesIn({ reference, text }: BankEntry): readonly string[] {
  const plain = reference.replace(/\s/g, '').toUpperCase();
  const inText = text.toUpperCase().match(/\bRF\d{2}[0-9A-Z]{1,21}\b/g) ?? [];
  return [...new Set([plain, ...inText])].filter(isCreditorReference);
}

/** Where the payment would go if it is of this customer: to what it names, else to what it fits, else to what is due first. */
function judge({ customer, why, named }: Candidate, { amount }: BankEntry, index: PayerIndex, discountFor: (invoice: OpenInvoice) => Amount) {
  const open = index.byCustomer.get(customer) ?? [];
  const { settled, onAccount } = proposeSettlement(amount, named.length > 0 ? named : open, discountFor);
  const paid = new Set(settled.map((row) => row.invoice));
  const target = named.length > 0 ? named : open.filter((row) => paid.has(row.id));
  const whole = target.every((row) => settled.some((one) => one.invoice === row.id && compareDecimal(minus(row.open, one.discount), one.amount) === 0));
  const fits = settled.length > 0 && compareDecimal(onAccount, '0') === 0 && whole;
  const one = settled.length === 1;
  const reasons = [...why];
  if (fits && named.length === 0 && !one && compareDecimal(sum(open.map((row) => row.open)), amount) === 0) reasons.push({ kind: 'all_open' });
  const names = named.length > 0;
  const known = why.some((reason) => reason.kind === 'account');
  return {
    customer,
    settled,
    onAccount,
    why: reasons,
    fits,
    /** What of it leaves no doubt whose it is. */
    strong: names || (known && one),
    score: sumOf(reasons) + (fits ? 30 : 0),
  };
}

const sumOf = (reasons: readonly ProposalReason[]) => reasons.reduce((total, reason) => total + WEIGHTS[reason.kind], 0);
