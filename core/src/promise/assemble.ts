import type { DayNumber } from '../calendar';
import type { CompiledBook, Pool } from './compiled-book';
import { ceilToWhole, SCALE, type Scaled } from './quantity';

/** A quantity taken from a pool on a day. */
export interface Commitment {
  readonly pool: Pool;
  day: DayNumber;
  readonly quantity: Scaled;
  /** Working days from `day` until what it goes into can leave: the assembly days of every level above it; 0 for own supply. */
  readonly lead: number;
}

interface Frame {
  readonly item: number;
  readonly batch: Scaled;
  /** The day components are taken. */
  readonly day: DayNumber;
  readonly lead: number;
  next: number;
}

/**
 * Takes what it needs to assemble `batch` (a whole number of units) of `item` so that it leaves on `day`, `lead` working
 * days of assembly still to come after that. Components that lack own supply are assembled in turn, to any depth.
 * Gives the commitments, already made, in the order in which they were made; or null, with nothing taken, where it
 * cannot be done.
 */
export function assemble(book: CompiledBook, site: number, item: number, batch: Scaled, day: DayNumber, lead = 0): Commitment[] | null {
  const made: Commitment[] = [];
  const start = frame(book, site, item, batch, day, lead);
  const stack = start ? [start] : [];
  let possible = start !== null;
  while (possible && stack.length > 0) {
    const top = stack[stack.length - 1]!;
    const component = book.assemblies[top.item]!.components[top.next++];
    if (!component) {
      stack.pop();
      continue;
    }
    const needed = (top.batch / SCALE) * component.quantity;
    const step = takeOrAssemble(book, site, component.item, needed, top.day, top.lead, made);
    if (step === 'impossible') possible = false;
    else if (step !== 'taken') stack.push(step);
  }
  if (possible) return made;
  giveBack(made);
  return null;
}

/**
 * Takes the components of a batch that was promised earlier. What a component lacks and cannot be wholly assembled is
 * taken from the component's own pool all the same, more than there is: a kept promise stands, and pegging will say
 * what it lacks. `day`: the day components are taken.
 */
export function assembleKept(book: CompiledBook, site: number, item: number, batch: Scaled, day: DayNumber): Commitment[] {
  const assembly = book.assemblies[item]!;
  return assembly.components.flatMap((component) => {
    const needed = (batch / SCALE) * component.quantity;
    const made: Commitment[] = [];
    const step = takeOrAssemble(book, site, component.item, needed, day, assembly.days, made);
    if (step === 'taken') return made;
    if (step !== 'impossible') {
      const deeper = assemble(book, site, component.item, step.batch, day, assembly.days);
      if (deeper) return [...made, ...deeper];
    }
    giveBack(made);
    return [take(book.pool(component.item, site), day, needed, assembly.days)];
  });
}

/** Takes `quantity` from a pool, whether or not it is there. */
export function take(pool: Pool, day: DayNumber, quantity: Scaled, lead = 0): Commitment {
  pool.timeline.commit(day, quantity);
  return { pool, day, quantity, lead };
}

/** Moves a commitment to another day. */
export function moveTo(commitment: Commitment, day: DayNumber): void {
  commitment.pool.timeline.commit(commitment.day, -commitment.quantity);
  commitment.pool.timeline.commit(day, commitment.quantity);
  commitment.day = day;
}

/** How `needed` is split when own supply gives at most `own`: the assembled part is a whole number of units. Null where that cannot be. */
export function splitOwnAndAssembled(needed: Scaled, own: Scaled): { readonly own: Scaled; readonly assembled: Scaled } | null {
  const assembled = ceilToWhole(Math.max(0, needed - own));
  return assembled > needed ? null : { own: needed - assembled, assembled };
}

function takeOrAssemble(
  book: CompiledBook,
  site: number,
  item: number,
  needed: Scaled,
  day: DayNumber,
  lead: number,
  made: Commitment[],
): Frame | 'taken' | 'impossible' {
  const pool = book.pool(item, site);
  const split = splitOwnAndAssembled(needed, pool.timeline.available(day));
  if (!split) return 'impossible';
  const deeper = split.assembled > 0 ? frame(book, site, item, split.assembled, day, lead) : null;
  if (split.assembled > 0 && !deeper) return 'impossible';
  if (split.own > 0) made.push(take(pool, day, split.own, lead));
  return deeper ?? 'taken';
}

function frame(book: CompiledBook, site: number, item: number, batch: Scaled, day: DayNumber, lead: number): Frame | null {
  const assembly = book.assemblies[item];
  if (!assembly) return null;
  const { calendar, firstShipDay } = book.sites[site]!;
  const start = calendar.offset(day, -assembly.days);
  return start < firstShipDay ? null : { item, batch, day: start, lead: lead + assembly.days, next: 0 };
}

function giveBack(made: readonly Commitment[]) {
  for (const commitment of made) commitment.pool.timeline.commit(commitment.day, -commitment.quantity);
}
