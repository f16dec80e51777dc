import { daysInWords } from '@nockwright/core/billing';
import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect, MatSelectTrigger } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { ORDER_SOURCES, type OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayField, DayPipe, CustomerName } from '../paper';
import { Places } from '../supply';
import { Carriers } from './carriers';
import { OrderStore } from './order-store';
import { CollisionNote } from './typed/collision-note';
import { SavedField } from './typed/saved-field';
import { Unsaved } from './typed/unsaved';

/** Days after the invoice that are usual. */
const TERMS = [0, 7, 14, 30, 45, 60, 90];

/** The head of an order: fields of a draft in the order they are asked on the phone, plain words once it is released. */
@Component({
  selector: 'nock-order-header',
  imports: [CustomerName, RouterLink, MatFormField, MatSelect, MatSelectTrigger, MatOption, CollisionNote, DayField, DayPipe, SavedField],
  templateUrl: './order-header.html',
  styleUrl: './order-header.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderHeader {
  protected readonly store = inject(OrderStore);
  protected readonly unsaved = inject(Unsaved);
  private readonly maySell = inject(Session).maySell;
  readonly order = input.required<OrderView>();
  /** It goes to an address that is not known yet. */
  readonly elsewhere = output<void>();
  protected readonly draft = computed(() => this.order().state === 'draft' && this.maySell());
  protected readonly placeName = computed(() => this.warehouses().find((place) => place.code === this.order().warehouse)?.name ?? this.order().warehouse);
  protected readonly sources = ORDER_SOURCES;
  protected readonly warehouses = inject(Places).warehouses;
  private readonly known = inject(Carriers).services;
  /** The one it has stands among them, also before they are read. */
  protected readonly carriers = computed(() => (this.known().some((row) => row.code === this.order().carrier.code) ? this.known() : [this.order().carrier]));

  protected readonly standing = computed(() => {
    const { kind, state, progress, revision } = this.order();
    const words = kind === 'quote' && revision > 1 ? `revision ${revision}, ${progress}` : progress;
    return state === 'draft' ? `${words}, saved as you type` : words;
  });

  protected readonly rule = computed(() => {
    const { shipComplete, mostShipments } = this.order();
    return shipComplete ? 'complete' : (mostShipments ?? 'parts');
  });
  protected readonly mosts = computed(() =>
    [...new Set([1, 2, 3, 4, 5, ...(this.order().mostShipments === null ? [] : [this.order().mostShipments!])])].sort((a, b) => a - b),
  );
  protected readonly terms = computed(() => [...new Set([...TERMS, this.order().termsDays])].sort((a, b) => a - b));
  protected termsWords(days: number): string {
    return daysInWords(this.order().termsKind, days);
  }

  protected deliver(rule: 'parts' | 'complete' | number): void {
    this.store.change({ shipComplete: rule === 'complete', mostShipments: typeof rule === 'number' ? rule : null });
  }

  /** A day that is being typed is kept as every text is: by the tab, and past a colleague's release. */
  protected keepDay(field: string, label: string, text: string | null, before: string): void {
    this.unsaved.set(field, label, text, before);
  }

  protected shipTo(place: number, field: MatSelect): void {
    if (place > 0) return this.store.change({ shipTo: place });
    field.value = this.order().shipTo.id;
    this.elsewhere.emit();
  }
}
