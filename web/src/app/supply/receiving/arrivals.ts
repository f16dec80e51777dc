import { computed, signal, type Signal } from '@angular/core';
import type { Arrival, PurchaseView, Scanned } from '@nockwright/contract/supply';
import { readDay } from '@nockwright/core/calendar';
import { plus } from '@nockwright/core/money';
import { isQuantity } from '../../paper';

type Line = PurchaseView['lines'][number];

/** What has come of a line, of one lot, as it is being typed. */
export interface Typed {
  readonly key: number;
  readonly line: number;
  readonly quantity: string;
  readonly damaged: string;
  readonly lot: string;
  readonly expires: string;
  readonly bin: string;
  /** A number for each piece, where the item has them. */
  readonly serials: string;
}

type Field = Exclude<keyof Typed, 'key' | 'line'>;

/** What has come, entered by scan or by hand, until it is booked. */
export class Arrivals {
  private readonly rows = signal<readonly Typed[]>([]);
  private next = 1;
  readonly all = this.rows.asReadonly();
  /** How many sound ones came of each line, where that is a quantity. */
  readonly sums = computed(() => {
    const sums = new Map<number, string>();
    for (const { line, quantity } of this.rows()) if (isQuantity(quantity.trim())) sums.set(line, plus(sums.get(line) ?? '0', quantity.trim()));
    return [...sums].map(([line, quantity]) => ({ line, quantity }));
  });

  constructor(
    private readonly lines: Signal<readonly Line[]>,
    private readonly today: () => string,
  ) {}

  of(line: number): readonly Typed[] {
    return this.rows().filter((row) => row.line === line);
  }

  clear(): void {
    this.rows.set([]);
  }

  /** Another lot of a line: what is still missing of it is taken to have come. */
  add(line: Line, known: Partial<Omit<Typed, 'key' | 'line'>> = {}): Typed {
    const came = this.of(line.id).reduce((sum, row) => sum + Number(row.quantity || 0), 0);
    const rest = Math.max(0, Number(line.open) - came);
    const row: Typed = {
      key: this.next++,
      line: line.id,
      quantity: rest > 0 ? String(rest) : '',
      damaged: '',
      lot: '',
      expires: '',
      bin: line.home ?? '',
      serials: '',
      ...known,
    };
    this.rows.update((rows) => [...rows, row]);
    return row;
  }

  /** Takes a label in: a lot that was scanned before counts up, another is a row of its own. */
  scan(line: Line, { lot, expires, count, serial }: Scanned): Typed {
    const known = this.of(line.id).find((row) => row.lot === lot);
    if (serial) return this.scanPiece(line, known ?? this.add(line, { lot, expires: expires ?? '', quantity: '0' }), serial);
    if (!known) return this.add(line, { lot, expires: expires ?? '', ...(count ? { quantity: count } : {}) });
    const quantity = String(Number(known.quantity || 0) + Number(count ?? 1));
    this.set(known.key, 'quantity', quantity);
    return { ...known, quantity };
  }

  /** One more piece, by its number; the same label twice counts once. */
  private scanPiece(line: Line, row: Typed, serial: string): Typed {
    const serials = [...new Set([...row.serials.split('\n').filter(Boolean), serial])];
    this.set(row.key, 'serials', serials.join('\n'));
    this.set(row.key, 'quantity', String(serials.length));
    return this.of(line.id).find(({ key }) => key === row.key)!;
  }

  set(key: number, field: Field, text: string): void {
    this.rows.update((rows) => rows.map((row) => (row.key === key ? { ...row, [field]: text } : row)));
  }

  drop(key: number): void {
    this.rows.update((rows) => rows.filter((row) => row.key !== key));
  }

  /** The day that was typed; null where it is none. */
  dayOf({ expires }: Typed): string | null {
    return readDay(expires, this.today());
  }

  /** What is to be booked, or what is wrong with what was typed. */
  read(): { readonly arrivals: readonly Arrival[] } | { readonly fault: string } {
    const arrivals: Arrival[] = [];
    for (const row of this.rows()) {
      const line = this.lines().find((one) => one.id === row.line);
      const [quantity, damaged] = [row.quantity.trim(), row.damaged.trim()];
      if (!line || (Number(quantity || 0) === 0 && Number(damaged || 0) === 0)) continue;
      for (const text of [quantity, damaged]) if (text !== '' && !isQuantity(text)) return { fault: `${line.item}: ${text} is no quantity.` };
      const expires = row.expires.trim() === '' ? null : this.dayOf(row);
      if (row.expires.trim() !== '' && expires === null) return { fault: `${line.item}: ${row.expires} is no day; type 31 12 2028 or 2028-12-31.` };
      if (line.tracksSerials && row.serials.trim() === '') return { fault: `${line.item} has serial numbers: scan or type them.` };
      if (line.tracksLots && row.lot.trim() === '') return { fault: `${line.item} is kept by lot: type or scan the lot on the label.` };
      arrivals.push({
        line: row.line,
        quantity: quantity || '0',
        ...(Number(damaged || 0) > 0 ? { damaged } : {}),
        ...(row.lot.trim() ? { lot: row.lot.trim() } : {}),
        ...(expires ? { expires } : {}),
        ...(row.serials.trim() ? { serials: row.serials.trim() } : {}),
        ...(row.bin.trim() ? { bin: row.bin.trim().toUpperCase() } : {}),
      });
    }
    return arrivals.length > 0 ? { arrivals } : { fault: 'Scan or type what came.' };
  }
}
