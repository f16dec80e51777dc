import { supplyRoutes } from '@nockwright/contract/supply';
import { map, type Observable } from 'rxjs';
import type { Api } from '../api';
import type { ItemLine } from './item-lines';

/** A supplier or warehouse that is chosen at the head of a new paper. */
interface Chosen {
  readonly label: string;
  readonly of: 'suppliers' | 'warehouses';
}

/** A new paper as data: what is chosen at its head, and what its lines make. */
export interface NewPaperSpec {
  readonly heading: string;
  readonly hint?: string;
  readonly act: string;
  readonly head: readonly Chosen[];
  /** What is missing of the codes at the head or the lines, if anything. */
  readonly missing: (codes: readonly string[], lines: readonly ItemLine[]) => string | null;
  /** Makes it; gives where it is looked at. */
  readonly make: (api: Api, codes: readonly string[], lines: readonly ItemLine[]) => Observable<readonly (string | number)[]>;
}

const NO_LINE = 'Type at least one line.';

export const NEW_PAPERS = {
  /** A purchase to stock. What it can be bought in is checked when it is made. */
  purchase: {
    heading: 'New purchase order',
    act: 'Create draft',
    head: [
      { label: 'Supplier', of: 'suppliers' },
      { label: 'For warehouse', of: 'warehouses' },
    ],
    missing: ([supplier, warehouse], lines) => {
      if (!supplier) return 'Choose the supplier.';
      if (!warehouse) return 'Choose the warehouse.';
      return lines.length === 0 ? NO_LINE : null;
    },
    make: (api, [supplier, warehouse], lines) =>
      api.call(supplyRoutes.createPurchase, { body: { supplier: supplier!, warehouse: warehouse!, lines } }).pipe(map(({ id }) => ['/supply', id])),
  },
  /** Free goods to be brought from one warehouse to another: what is promised to somebody stays. */
  transfer: {
    heading: 'New transfer',
    hint: 'Only what is free on the shelf is brought: what is promised to a customer stays for them.',
    act: 'Commit goods',
    head: [
      { label: 'From', of: 'warehouses' },
      { label: 'To', of: 'warehouses' },
    ],
    missing: ([from, to], lines) => {
      if (!from || !to) return 'Choose from where to where.';
      return lines.length === 0 ? NO_LINE : null;
    },
    make: (api, [from, to], lines) =>
      api.call(supplyRoutes.createTransfer, { body: { from: from!, to: to!, lines } }).pipe(map(({ id }) => ['/supply/transfers', id])),
  },
  /** An item to be put together from free components. */
  assembly: {
    heading: 'New assembly',
    hint: 'Components that are free are committed to it; what is promised to a customer stays for them.',
    act: 'Commit components',
    head: [{ label: 'At warehouse', of: 'warehouses' }],
    missing: ([warehouse], lines) => {
      if (!warehouse) return 'Choose the warehouse.';
      if (lines.length === 0) return 'Type the item to assemble, and how many.';
      return lines.length > 1 ? 'One assembly is of one item: make the others after it.' : null;
    },
    make: (api, [warehouse], lines) =>
      api.call(supplyRoutes.createAssembly, { body: { ...lines[0]!, warehouse: warehouse! } }).pipe(map(({ id }) => ['/supply/assemblies', id])),
  },
} as const satisfies Record<string, NewPaperSpec>;

export type NewPaperKind = keyof typeof NEW_PAPERS;
