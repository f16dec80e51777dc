import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { serialRoutes, type SerialPage } from '@nockwright/contract/items';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Api } from '../../api';
import { Live } from '../../live';
import { CustomerName, Keys, Sheet } from '../../paper';
import { STATES, stepWords } from './serial-states';

/** A piece with a serial number: where it is, and every step of its way. */
@Component({
  selector: 'nock-serial-sheet',
  imports: [DatePipe, RouterLink, CustomerName, Sheet],
  template: `
    @if (page(); as page) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            Serial number <span class="code">{{ page.now.serial }}</span> <span class="state quiet">{{ states[page.now.state] }}</span>
          </h1>
          <p>
            <a class="code" [routerLink]="['/items', page.item]">{{ page.item }}</a> {{ page.description }}
          </p>
          <p>
            It is <b>{{ page.now.where }}</b>.
            @if (page.now.order) {
              <a class="code" [routerLink]="['/orders', page.now.order]">{{ page.now.shipment }}</a>
              @if (page.now.customerId) {
                <nock-customer-name [id]="page.now.customerId" [name]="page.now.customer ?? ''" />
              }
            }
          </p>
          <table class="ruled" aria-label="Where it was">
            <thead>
              <tr>
                <th>When</th>
                <th>What happened</th>
                <th>By</th>
              </tr>
            </thead>
            <tbody>
              @for (step of page.steps; track $index) {
                <tr>
                  <td>{{ step.at | date: 'EEE d MMM y HH:mm' }}</td>
                  <td>{{ words(step) }}</td>
                  <td>{{ step.by }}</td>
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          <h2>Serial number</h2>
          <p class="quiet">A piece is in one place. Where it is scanned, it is found: when it is packed, sold, received, or entered in a bin.</p>
          <p>
            <a [routerLink]="['/items', page.item, 'serials']">All serial numbers of {{ page.item }}</a>
          </p>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet" role="status">{{ fault() || 'Fetching the serial number …' }}</p>
    }
  `,
  styles: `
    .state {
      margin-left: 8px;
      font-size: 15px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SerialSheet {
  readonly id = input.required<string>();
  protected readonly page = signal<SerialPage | null>(null);
  protected readonly fault = signal('');
  protected readonly states = STATES;
  protected readonly words = stepWords;

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    const router = inject(Router);
    toObservable(this.id)
      .pipe(
        switchMap((id) =>
          live.kept(
            () =>
              api.call(serialRoutes.readSerial, { params: { serial: Number(id) } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `item:${this.page()?.item ?? ''}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((page) => this.page.set(page));
    inject(Keys).use([
      { key: 'Escape', does: 'to the serial numbers of the item', run: () => void router.navigate(['/items', this.page()?.item ?? '', 'serials']) },
    ]);
  }
}
