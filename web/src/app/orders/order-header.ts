import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect, MatSelectTrigger } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { ORDER_SOURCES, type OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayField, DayPipe } from '../paper';
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
  imports: [RouterLink, MatFormField, MatSelect, MatSelectTrigger, MatOption, CollisionNote, DayField, DayPipe, SavedField],
  template: `
    @let view = order();
    <h1>
      {{ view.kind === 'quote' ? 'Quote' : '' }} <span class="code">{{ view.number ?? (view.kind === 'quote' ? view.id : 'Draft ' + view.id) }}</span>
      {{ view.customer.name }}
      <span class="quiet state">{{ standing() }}</span>
    </h1>
    <p class="quiet who">
      {{ view.customer.number }}, {{ view.customer.contact }}, {{ view.customer.phone }}. {{ view.carrier.name }}, {{ view.carrier.transitDays }}
      {{ view.carrier.transitDays === 1 ? 'day' : 'days' }} on the way.
      <b class="note">{{ view.customer.notes }}</b>
    </p>
    @if (draft() && view.poRepeats.length > 0) {
      <p class="repeat" role="status">
        Their order number {{ view.poNumber }} is on
        @for (other of view.poRepeats; track other.id) {
          <a [routerLink]="['/orders', other.id]">{{ other.number }}</a> of {{ other.day | day }}{{ $last ? '' : ', ' }}
        }
        already: the same order twice?
      </p>
    }
    <dl [class.plain]="!draft()">
      <div class="wide">
        <dt><span class="label" id="ship-to-label">Ship to</span></dt>
        <dd>
          @if (draft()) {
            <mat-form-field>
              <mat-select aria-labelledby="ship-to-label" [value]="view.shipTo.id" (selectionChange)="shipTo($event.value, $event.source)">
                @for (place of view.customer.shipTos; track place.id) {
                  <mat-option [value]="place.id">{{ place.street }}, {{ place.town }}</mat-option>
                }
                <mat-option [value]="0">another address …</mat-option>
              </mat-select>
            </mat-form-field>
          } @else {
            {{ view.shipTo.street }}, {{ view.shipTo.town }}
          }
        </dd>
      </div>
      <div>
        <dt><label for="po">Customer PO</label></dt>
        <dd>
          @if (draft()) {
            <nock-saved-field
              fieldId="po"
              name="poNumber"
              label="Customer PO"
              [code]="true"
              [most]="60"
              [value]="view.poNumber"
              (saved)="store.change({ poNumber: $event.text }, { ...view, poNumber: $event.before })"
            />
          } @else {
            <span class="code">{{ view.poNumber || '–' }}</span>
          }
        </dd>
      </div>
      <div class="asked">
        <dt><label for="asked">Asked</label></dt>
        <dd>
          @if (draft()) {
            <mat-form-field class="kind">
              <mat-select aria-label="Ship by or deliver by" [value]="view.requestKind" (selectionChange)="store.change({ requestKind: $event.value })">
                <mat-option value="ship_by">leave by</mat-option>
                <mat-option value="deliver_by">be there by</mat-option>
              </mat-select>
            </mat-form-field>
            <nock-day-field
              fieldId="asked"
              [day]="view.requestedDay"
              [kept]="unsaved.textOf('requestedDay')"
              (edited)="keepDay('requestedDay', 'Requested day', $event, view.requestedDay)"
              (changed)="store.change({ requestedDay: $event })"
            />
          } @else {
            {{ view.requestKind === 'ship_by' ? 'leave by' : 'be there by' }} {{ view.requestedDay | day }}
          }
        </dd>
      </div>
      <div>
        <dt><span class="label" id="warehouse-label">From</span></dt>
        <dd>
          @if (draft()) {
            <mat-form-field>
              <mat-select aria-labelledby="warehouse-label" [value]="view.warehouse" (selectionChange)="store.change({ warehouse: $event.value })">
                @for (place of warehouses(); track place.code) {
                  <mat-option [value]="place.code">{{ place.name }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          } @else {
            {{ placeName() }}
          }
        </dd>
      </div>
      @if (draft()) {
        <div class="carrier">
          <dt><span class="label" id="carrier-label">Carrier</span></dt>
          <dd>
            <mat-form-field>
              <mat-select aria-labelledby="carrier-label" [value]="view.carrier.code" (selectionChange)="store.change({ carrierService: $event.value })">
                <mat-select-trigger>{{ view.carrier.name }}</mat-select-trigger>
                @for (carrier of carriers(); track carrier.code) {
                  <mat-option [value]="carrier.code">{{ carrier.name }}, {{ carrier.transitDays }} {{ carrier.transitDays === 1 ? 'day' : 'days' }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          </dd>
        </div>
      }
      <div class="rule">
        <dt><span class="label" id="rule-label">Delivery rule</span></dt>
        <dd>
          @if (draft()) {
            <mat-form-field>
              <mat-select aria-labelledby="rule-label" [value]="rule()" (selectionChange)="deliver($event.value)">
                <mat-option value="parts">parts allowed</mat-option>
                <mat-option value="complete">complete</mat-option>
                @for (most of mosts(); track most) {
                  <mat-option [value]="most">at most {{ most }} {{ most === 1 ? 'shipment' : 'shipments' }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          } @else {
            {{ view.shipComplete ? 'complete, on one day' : view.mostShipments === null ? 'parts allowed' : 'at most ' + view.mostShipments + ' shipments' }}
          }
        </dd>
      </div>
      <div class="terms">
        <dt><span class="label" id="terms-label">Terms</span></dt>
        <dd>
          @if (draft()) {
            <mat-form-field>
              <mat-select aria-labelledby="terms-label" [value]="view.termsDays" (selectionChange)="store.change({ termsDays: $event.value })">
                @for (days of terms(); track days) {
                  <mat-option [value]="days">{{ termsWords(days) }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          } @else {
            {{ termsWords(view.termsDays) }}
          }
        </dd>
      </div>
      @if (draft() || view.description) {
        <div class="about">
          <dt><label for="description">Description</label></dt>
          <dd>
            @if (draft()) {
              <nock-saved-field
                fieldId="description"
                name="description"
                label="Description"
                [most]="200"
                [value]="view.description"
                (saved)="store.change({ description: $event.text }, { ...view, description: $event.before })"
              />
            } @else {
              {{ view.description }}
            }
          </dd>
        </div>
      }
      @if (view.kind === 'quote') {
        <div class="until">
          <dt><label for="until">Valid until</label></dt>
          <dd>
            @if (draft()) {
              <nock-day-field
                fieldId="until"
                [day]="view.validUntil!"
                [kept]="unsaved.textOf('validUntil')"
                (edited)="keepDay('validUntil', 'Valid until', $event, view.validUntil!)"
                (changed)="store.change({ validUntil: $event })"
              />
            } @else {
              {{ view.validUntil! | day }}
            }
          </dd>
        </div>
      }
      @if (view.contracts.length > 0 || view.contract) {
        <div class="contract">
          <dt><span class="label" id="contract-label">Contract</span></dt>
          <dd>
            @if (draft()) {
              <mat-form-field>
                <mat-select
                  canSelectNullableOptions
                  aria-labelledby="contract-label"
                  [value]="view.contract?.id ?? null"
                  (selectionChange)="store.change({ contract: $event.value })"
                >
                  <mat-option [value]="null">{{ view.mustNameContract ? 'to be named' : 'by line' }}</mat-option>
                  @for (contract of view.contracts; track contract.id) {
                    <mat-option [value]="contract.id">{{ contract.number }} {{ contract.name }}, until {{ contract.lastDay | day }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
            } @else {
              {{ view.contract?.number ?? 'by line' }}
            }
          </dd>
        </div>
      }
      <div class="by">
        <dt><span class="label" id="source-label">Came by</span></dt>
        <dd>
          @if (draft()) {
            <mat-form-field>
              <mat-select aria-labelledby="source-label" [value]="view.source" (selectionChange)="store.change({ source: $event.value })">
                @for (source of sources; track source) {
                  <mat-option [value]="source">{{ source }}</mat-option>
                }
              </mat-select>
            </mat-form-field>
          } @else {
            {{ view.source }}
          }
        </dd>
      </div>
    </dl>
    @if (view.mostShipments !== null && view.shipmentsPlanned > view.mostShipments) {
      <p class="repeat" role="status">It would come in {{ view.shipmentsPlanned }} shipments as promised; they take at most {{ view.mostShipments }}.</p>
    }
    <nock-collision-note />
  `,
  styles: `
    .state {
      font-size: 13px;
      font-weight: 400;
      margin-left: 6px;
    }
    .who {
      margin: 2px 0 10px;
    }
    .repeat {
      margin: 0 0 8px;
      color: var(--late);
      font-weight: 600;
    }
    .note {
      color: var(--ink);
      font-weight: 600;
    }
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
      margin: 0 0 8px;
    }
    .plain {
      gap: 4px 22px;
    }
    mat-form-field,
    nock-saved-field {
      width: 94px;
    }
    .wide mat-form-field {
      width: 134px;
    }
    .carrier mat-form-field {
      width: 92px;
    }
    .rule mat-form-field {
      width: 118px;
    }
    .contract mat-form-field {
      width: 82px;
    }
    .by mat-form-field {
      width: 80px;
    }
    .asked dd {
      display: flex;
      gap: 6px;
    }
    .terms mat-form-field {
      width: 120px;
    }
    .about nock-saved-field {
      width: 300px;
    }
    .until nock-day-field,
    .asked nock-day-field {
      width: 94px;
    }
    dt {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
      min-height: 24px;
      font-weight: 600;
    }
  `,
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
    return days === 0 ? 'at once' : `${days} days net`;
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
