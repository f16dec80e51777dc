import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { shortDay } from '@nockwright/core/calendar';
import { unitName } from '@nockwright/core/units';
import { Session } from '../../access';
import { Places } from '../../supply';
import type { FieldCollision } from '../field-merge';
import { OrderStore } from '../order-store';
import { Unsaved } from './unsaved';

const LABELS: Readonly<Record<string, string>> = {
  shipTo: 'Ship to',
  poNumber: 'Customer PO',
  requestKind: 'Requested',
  requestedDay: 'Requested day',
  warehouse: 'Warehouse',
  carrierService: 'Carrier',
  shipComplete: 'Delivery rule',
  mostShipments: 'Most shipments',
  termsDays: 'Terms',
  description: 'Description',
  source: 'Source',
  contract: 'Contract',
  validUntil: 'Valid until',
  quantity: 'Quantity',
  unit: 'Unit',
  note: 'Text',
  alternative: 'Offered',
  alternativeTo: 'Offered instead of',
};

/** At a field that two people changed: both values, and whose is to stand. */
@Component({
  selector: 'nock-collision-note',
  imports: [MatButton],
  template: `
    @for (one of found(); track one.key) {
      <div role="alert">
        <span
          ><b>{{ label(one) }}</b
          >: yours {{ words(one, one.mine) }}, {{ one.who }}’s {{ words(one, one.theirs) }}</span
        >
        <button mat-button type="button" (click)="decide(one, 'mine')">Keep mine</button>
        <button mat-button type="button" (click)="decide(one, 'theirs')">Use theirs</button>
      </div>
    }
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 0 8px;
      align-items: center;
      color: var(--late);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CollisionNote {
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly unsaved = inject(Unsaved);
  private readonly places = inject(Places);
  /** Of which line; null: of the head. */
  readonly line = input<number | null>(null);
  protected readonly found = computed(() => this.store.collisions().filter((one) => one.line === this.line()));

  protected label({ field }: FieldCollision): string {
    return LABELS[field] ?? field;
  }

  protected words({ field }: FieldCollision, value: FieldCollision['mine']): string {
    if (value === null || value === '') return 'nothing';
    if (field === 'requestedDay' || field === 'validUntil') return shortDay(String(value), this.session.today());
    if (field === 'unit') return unitName(String(value));
    if (field === 'requestKind') return value === 'ship_by' ? 'ship by' : 'deliver by';
    if (field === 'shipComplete') return String(value) === 'true' ? 'ship complete' : 'partial shipments';
    if (field === 'warehouse') return this.places.warehouses().find((place) => place.code === value)?.name ?? String(value);
    const order = this.store.order();
    if (field === 'shipTo') return order?.customer.shipTos.find((place) => String(place.id) === String(value))?.street ?? String(value);
    if (field === 'contract') return order?.contracts.find((contract) => String(contract.id) === String(value))?.number ?? String(value);
    return `“${value}”`;
  }

  protected decide(one: FieldCollision, keep: 'mine' | 'theirs'): void {
    if (keep === 'theirs') this.unsaved.set(one.key, '', null);
    this.store.decide(one, keep);
  }
}
