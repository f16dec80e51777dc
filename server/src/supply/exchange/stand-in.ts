import type { SupplierCode } from '@nockwright/core/ids';
import { mkdir, readdir, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Habit } from '@nockwright/contract/supply';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import {
  readCancellation,
  readOrder,
  writeDespatchAdvice,
  writeOrderResponse,
  type OrderResponseMessage,
  type PurchaseOrderMessage,
} from '@nockwright/core/exchange';
import { divide, minus, times } from '@nockwright/core/money';
import { each, supplierFolder, writeWhole } from './exchange-folder';

export interface StandInSettings {
  /** Between their getting an order, their answer, and each thing they do after. */
  readonly seconds: number;
  /** By the supplier's code; who has none answers as asked. */
  readonly habits: Readonly<Record<string, Habit>>;
}

/** What is known of an order, kept beside the supplier's folders so that a restarted server goes on with it. */
interface Kept {
  readonly order: PurchaseOrderMessage;
  readonly cameMs: number;
  readonly habit: Habit;
  readonly done: number;
}

/** Later by habit, in calendar days. */
const LATER = { later: 5, slips: 14 } as const;
const LOT_KEEPS_DAYS = 540;

/**
 * Stands in for suppliers: takes orders out of their folders and answers with files, as a partner would from their own
 * machine. It knows nothing but the files. What it does of an order and when hangs on the supplier's habit.
 */
export class SupplierStandIn {
  constructor(
    private readonly root: string,
    private readonly today: () => string,
    private readonly nowMs: () => number = Date.now,
  ) {}

  /** One round: takes what is new and does what is due. */
  async round(settings: StandInSettings): Promise<void> {
    await mkdir(this.root, { recursive: true });
    const folders = (await readdir(this.root, { withFileTypes: true })).filter((entry) => entry.isDirectory());
    await each(folders, async ({ name }) => {
      const supplier = decodeURIComponent(name);
      const habit = settings.habits[supplier] ?? 'as_asked';
      if (habit === 'away') return;
      await this.takeOrders(supplier, habit);
      await this.answer(supplier, settings.seconds * 1000);
    });
  }

  private folder(supplier: SupplierCode, name: string): string {
    return join(supplierFolder(this.root, supplier), name);
  }

  private async takeOrders(supplier: SupplierCode, habit: Habit): Promise<void> {
    const out = this.folder(supplier, 'out');
    const found = await Promise.all((await namesIn(out, '.xml')).map(async (name) => ({ name, xml: await readFile(join(out, name), 'utf8') })));
    // What is taken back may lie beside what it takes back.
    for (const { name, xml } of [...found.filter(({ xml }) => readOrder(xml).ok), ...found.filter(({ xml }) => !readOrder(xml).ok)]) {
      const cancelled = readCancellation(xml);
      const order = readOrder(xml);
      if (cancelled.ok) await rm(join(this.folder(supplier, 'stand-in'), `${fileOf(cancelled.document.order)}.json`), { force: true });
      else if (order.ok) await this.keep(supplier, { order: order.document, cameMs: this.nowMs(), habit, done: 0 });
      const fetched = this.folder(supplier, 'fetched');
      await mkdir(fetched, { recursive: true });
      await rename(join(out, name), join(fetched, name));
    }
  }

  private async answer(supplier: SupplierCode, stepMs: number): Promise<void> {
    for (const name of await namesIn(this.folder(supplier, 'stand-in'), '.json')) {
      const kept = JSON.parse(await readFile(join(this.folder(supplier, 'stand-in'), name), 'utf8')) as Kept;
      const steps = stepsOf(kept, this.today());
      const due = Math.min(steps.length, stepMs === 0 ? steps.length : Math.floor((this.nowMs() - kept.cameMs) / stepMs));
      for (const step of steps.slice(kept.done, due)) await writeWhole(this.folder(supplier, 'in'), `${fileOf(step.number)}.xml`, step.xml);
      if (due > kept.done) await this.keep(supplier, { ...kept, done: due });
    }
  }

  private keep(supplier: SupplierCode, kept: Kept): Promise<void> {
    return writeWhole(this.folder(supplier, 'stand-in'), `${fileOf(kept.order.number)}.json`, JSON.stringify(kept));
  }
}

interface Step {
  readonly number: string;
  readonly xml: string;
}

/** All that a supplier of this habit ever says about an order, in sequence. */
function stepsOf({ order, habit }: Kept, today: string): readonly Step[] {
  if (habit === 'silent' || habit === 'away') return [];
  const answer = response(order, habit, today);
  if (habit === 'refuses') return [answer];
  const slip = habit === 'slips' ? [laterResponse(order, `${order.number}-R2`, LATER.slips, 'our line stands still for a fortnight', today)] : [];
  return [answer, ...slip, despatch(order, habit, today)];
}

function response(order: PurchaseOrderMessage, habit: Habit, today: string): Step {
  const number = `${order.number}-R1`;
  if (habit === 'later') return laterResponse(order, number, LATER.later, '', today);
  const lines = order.lines.map((line): OrderResponseMessage['lines'][number] => {
    const as = { id: line.id, answer: 'accepted' as const, quantity: line.quantity, day: line.day, price: line.price, note: '', instead: null };
    if (habit === 'refuses') return { ...as, answer: 'refused', quantity: null, day: null, price: null, note: 'no longer made' };
    if (habit === 'dearer') return { ...as, answer: 'changed', price: divide(times(line.price, '108'), '100', 4) };
    if (habit === 'fewer' && line.id === order.lines[0]!.id) return { ...as, answer: 'changed', quantity: part(line.quantity, '0.5') };
    return as;
  });
  return { number, xml: written(order, { number, issueDay: today, order: order.number, note: '', lines }) };
}

function laterResponse(order: PurchaseOrderMessage, number: string, days: number, note: string, today: string): Step {
  const lines = order.lines.map((line) => ({
    id: line.id,
    answer: 'changed' as const,
    quantity: line.quantity,
    day: isoDay(dayNumber(line.day < today ? today : line.day) + days),
    price: line.price,
    note: '',
    instead: null,
  }));
  return { number, xml: written(order, { number, issueDay: today, order: order.number, note, lines }) };
}

function written(order: PurchaseOrderMessage, message: OrderResponseMessage): string {
  return writeOrderResponse(message, order.seller, order.buyer, unitsOf(order), order.currency);
}

function despatch(order: PurchaseOrderMessage, habit: Habit, today: string): Step {
  const number = `${order.number}-D1`;
  const lines = order.lines.map((line, at) => {
    const accepted = habit === 'fewer' && at === 0 ? part(line.quantity, '0.5') : line.quantity;
    return {
      orderLine: line.id,
      quantity: habit === 'short_ships' ? part(accepted, '0.8') : accepted,
      lot: `${order.number}-${line.id}`.slice(0, 20),
      expires: isoDay(dayNumber(today) + LOT_KEEPS_DAYS),
    };
  });
  const xml = writeDespatchAdvice(
    { number, issueDay: today, order: order.number, tracking: `TRK${order.number.replace(/\W/g, '')}`, lines },
    order.seller,
    order.buyer,
    unitsOf(order),
  );
  return { number, xml };
}

/** A share of a quantity in whole units, at least one. */
function part(quantity: string, share: string): string {
  const whole = Math.max(1, Math.floor(Number(times(quantity, share))));
  return Number(minus(quantity, String(whole))) < 0 ? quantity : String(whole);
}

function unitsOf(order: PurchaseOrderMessage): (line: string) => string {
  return (id) => order.lines.find((line) => line.id === id)?.unit ?? 'C62';
}

/** A number as a file's name: what a folder would take for something else is written otherwise. */
function fileOf(number: string): string {
  return encodeURIComponent(number).replaceAll('.', '%2E');
}

async function namesIn(folder: string, ending: string): Promise<string[]> {
  const names = await readdir(folder).catch(() => []);
  return names.filter((name) => name.endsWith(ending) && !name.startsWith('.')).sort();
}
