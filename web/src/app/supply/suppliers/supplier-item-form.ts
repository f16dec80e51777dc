import { ChangeDetectionStrategy, Component, inject, input, output, signal, type OnInit } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { supplyRoutes, type SupplierItem, type SupplierPage } from '@nockwright/contract/supply';
import type { Observable } from 'rxjs';
import { Api } from '../../api';
import { GlossForm, TextField } from '../../paper';
import { readUnit, unitName } from '@nockwright/core/units';
import { QUANTITY } from '../../ripple';

/** At what terms a supplier sells an item: one they sell, or another. */
@Component({
  selector: 'nock-supplier-item-form',
  imports: [MatButton, MatCheckbox, GlossForm, TextField],
  template: `
    <nock-gloss-form
      [heading]="known() ? known()!.item + ' from ' + supplier().name : 'Another item from ' + supplier().name"
      act="Keep it so"
      [ready]="!busy()"
      (done)="keep()"
      (left)="closed.emit()"
    >
      @if (!known()) {
        <nock-text-field fieldId="sold-item" [most]="40" [(text)]="item">Our item</nock-text-field>
      }
      <nock-text-field fieldId="their-code" [most]="60" [(text)]="theirCode">Their code</nock-text-field>
      <nock-text-field fieldId="sold-cost" [figure]="true" [(text)]="cost">Cost each</nock-text-field>
      <nock-text-field fieldId="sold-breaks" [(text)]="breaks">Cheaper from (as 1440: 0.18, 4320: 0.17)</nock-text-field>
      <nock-text-field fieldId="sold-units" [(text)]="units">Their units (as box: 100, pallet: 4800)</nock-text-field>
      <nock-text-field fieldId="sold-minimum" [figure]="true" [(text)]="minimum">At least</nock-text-field>
      <nock-text-field fieldId="sold-multiple" [figure]="true" [(text)]="multiple">In lots of</nock-text-field>
      <nock-text-field fieldId="sold-days" [figure]="true" [(text)]="leadDays">Working days (empty: as their others)</nock-text-field>
      <mat-checkbox [checked]="returnable()" (change)="returnable.set($event.checked)">They take it back</mat-checkbox>
      <p class="open" role="alert">{{ fault() }}</p>
      @if (known()) {
        <button mat-button type="button" (click)="drop()">They do not sell it any more</button>
      }
    </nock-gloss-form>
  `,
  styles: `
    mat-checkbox {
      display: block;
      margin-top: 8px;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierItemForm implements OnInit {
  private readonly api = inject(Api);
  readonly supplier = input.required<SupplierPage>();
  readonly known = input.required<SupplierItem | null>();
  readonly changed = output<SupplierPage>();
  readonly closed = output<void>();

  protected readonly item = signal('');
  protected readonly theirCode = signal('');
  protected readonly cost = signal('');
  protected readonly breaks = signal('');
  protected readonly units = signal('');
  protected readonly minimum = signal('1');
  protected readonly multiple = signal('1');
  protected readonly leadDays = signal('');
  protected readonly returnable = signal(true);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private version = 0;

  ngOnInit(): void {
    this.version = this.supplier().version;
    const known = this.known();
    if (!known) return;
    this.item.set(known.item);
    this.theirCode.set(known.theirCode);
    this.cost.set(known.cost);
    this.breaks.set(known.breaks.map((step) => `${step.from}: ${step.cost}`).join(', '));
    this.units.set(known.units.map((row) => `${unitName(row.unit)}: ${row.quantity}`).join(', '));
    this.minimum.set(known.minimum);
    this.multiple.set(known.multiple);
    this.leadDays.set(known.leadDays === null ? '' : String(known.leadDays));
    this.returnable.set(known.returnable);
  }

  protected keep(): void {
    const breaks: { from: string; cost: string }[] = [];
    for (const part of this.breaks()
      .split(',')
      .map((word) => word.trim())
      .filter(Boolean)) {
      const match = /^(\S+)\s*:\s*(\S+)$/.exec(part);
      if (!match || !QUANTITY.test(match[1]!) || !QUANTITY.test(match[2]!)) return this.fault.set(`${part}: expected a quantity, a colon and a cost.`);
      breaks.push({ from: match[1]!, cost: match[2]! });
    }
    const units: { unit: string; quantity: string }[] = [];
    for (const part of this.units()
      .split(',')
      .map((word) => word.trim())
      .filter(Boolean)) {
      const match = /^(.+?)\s*:\s*(\S+)$/.exec(part);
      const unit = match ? readUnit(match[1]!) : null;
      if (unit === null || !QUANTITY.test(match![2]!)) return this.fault.set(`${part}: expected a unit, a colon and how many it holds.`);
      units.push({ unit, quantity: match![2]! });
    }
    if (this.item().trim() === '') return this.fault.set('Which item of ours?');
    for (const [name, text] of [
      ['Cost', this.cost()],
      ['At least', this.minimum()],
      ['In lots of', this.multiple()],
    ] as const)
      if (!QUANTITY.test(text.trim())) return this.fault.set(`${name}: expected a number.`);
    if (!/^\d{0,3}$/.test(this.leadDays().trim())) return this.fault.set('Working days: expected a whole number.');
    this.send(() =>
      this.api.call(supplyRoutes.setSupplierItem, {
        params: { supplier: this.supplier().code, item: this.item().trim().toUpperCase() },
        body: {
          version: this.version,
          theirCode: this.theirCode().trim(),
          cost: this.cost().trim(),
          breaks,
          units,
          minimum: this.minimum().trim(),
          multiple: this.multiple().trim(),
          leadDays: this.leadDays().trim() === '' ? null : Number(this.leadDays()),
          returnable: this.returnable(),
        },
      }),
    );
  }

  protected drop(): void {
    this.send(() => this.api.call(supplyRoutes.dropSupplierItem, { params: { supplier: this.supplier().code, item: this.item() } }));
  }

  private send(command: () => Observable<SupplierPage>): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command().subscribe({
      next: (supplier) => this.changed.emit(supplier),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
