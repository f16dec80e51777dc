import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { supplyRoutes, type SupplierItem, type SupplierPage } from '@nockwright/contract/supply';
import type { BodyOf } from '@nockwright/contract/shape';
import { readUnit, unitName } from '@nockwright/core/units';
import { Api } from '../../api';
import { fieldsOf, RecordForm, type Reading } from '../../paper';

/** With our item, which stands in the address. */
type Body = BodyOf<typeof supplyRoutes.setSupplierItem> & { readonly item: string };

const ITEM = fieldsOf<Body>([
  { name: 'item', label: 'Our item', most: 40, upper: true, read: (text) => (text === '' ? { fault: 'missing' } : { value: text }) },
]);
const TERMS = fieldsOf<Body>([
  { name: 'theirCode', label: 'Their code', most: 60 },
  { name: 'cost', label: 'Cost each', called: 'Cost', kind: 'figure' },
  {
    name: 'breaks',
    label: 'Price breaks (as 1440: 0.18, 4320: 0.17)',
    called: 'Price breaks',
    write: (breaks: SupplierItem['breaks']) => breaks.map((step) => `${step.from}: ${step.cost}`).join(', '),
    read: (text) => pairs(text, 'a quantity, a colon and a cost', (from, cost) => ({ from, cost })),
  },
  {
    name: 'units',
    label: 'Their units (as box: 100, pallet: 4800)',
    called: 'Their units',
    write: (units: SupplierItem['units']) => units.map((row) => `${unitName(row.unit)}: ${row.quantity}`).join(', '),
    read: (text) => pairs(text, 'a unit, a colon and how many it holds', (word, quantity) => withUnit(readUnit(word), quantity)),
  },
  { name: 'minimum', label: 'At least', kind: 'figure' },
  { name: 'multiple', label: 'In multiples of', kind: 'figure' },
  { name: 'leadDays', label: 'Working days (empty: as their others)', called: 'Working days', kind: 'whole', most: 3, empty: null },
  { name: 'returnable', label: 'Returnable', kind: 'flag' },
]);
const BEGINS = { minimum: '1', multiple: '1', returnable: true };

function withUnit(unit: string | null, quantity: string) {
  return unit === null ? null : { unit, quantity };
}

/** `1440: 0.18, 4320: 0.17` as rows; what a pair is made of is checked by the contract. */
function pairs<T>(text: string, expected: string, row: (before: string, after: string) => T | null): Reading {
  const rows: T[] = [];
  for (const part of text.split(',').map((word) => word.trim())) {
    if (part === '') continue;
    const [before = '', after = '', more] = part.split(':').map((word) => word.trim());
    const made = more === undefined && before !== '' && after !== '' ? row(before, after) : null;
    if (made === null) return { fault: `${part}: expected ${expected}` };
    rows.push(made);
  }
  return { value: rows };
}

/** At what terms a supplier sells an item: one they sell, or another. */
@Component({
  selector: 'nock-supplier-item-form',
  imports: [MatButton, RecordForm],
  template: `
    <nock-record-form
      [heading]="known() ? known()!.item + ' from ' + supplier().name : 'Another item from ' + supplier().name"
      act="Save terms"
      name="sold"
      [fields]="fields()"
      [value]="known() ?? begins"
      [route]="route"
      [version]="supplier().version"
      [send]="store"
      (saved)="changed.emit($event)"
      (closed)="closed.emit()"
    >
      @if (known(); as row) {
        <button mat-button type="button" (click)="drop(row)">Remove item from supplier</button>
      }
      @if (fault()) {
        <p class="open" role="alert">{{ fault() }}</p>
      }
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierItemForm {
  private readonly api = inject(Api);
  readonly supplier = input.required<SupplierPage>();
  readonly known = input.required<SupplierItem | null>();
  readonly changed = output<SupplierPage>();
  readonly closed = output<void>();
  protected readonly route = supplyRoutes.setSupplierItem;
  protected readonly begins = BEGINS;
  protected readonly fields = computed(() => (this.known() ? TERMS : [...ITEM, ...TERMS]));
  protected readonly fault = signal('');

  protected readonly store = ({ item, ...terms }: Body, version: number) =>
    this.api.call(supplyRoutes.setSupplierItem, {
      params: { supplier: this.supplier().code, item: this.known()?.item ?? item },
      body: { ...terms, version },
    });

  protected drop({ item }: SupplierItem): void {
    this.api.call(supplyRoutes.dropSupplierItem, { params: { supplier: this.supplier().code, item } }).subscribe({
      next: (supplier) => this.changed.emit(supplier),
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
