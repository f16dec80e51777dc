import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { OrderStore } from './order-store';

/** What can be done with an order as a whole, or with the line that is marked. */
export type OrderAct = 'release' | 'discard' | 'accept' | 'lose' | 'revise' | 'mail' | 'promise' | 'turn' | 'raise' | 'line' | 'order';

/** The buttons at the foot of an order, those of its state; each says its key. */
@Component({
  selector: 'nock-order-acts',
  imports: [MatButton, RouterLink],
  template: `
    @switch (order().state) {
      @case ('draft') {
        <button mat-flat-button type="button" (click)="act.emit('release')" [disabled]="store.busy()">
          {{ order().kind === 'quote' ? 'Send the quote' : 'Release' }} <kbd>Ctrl Enter</kbd>
        </button>
        <button mat-button type="button" (click)="act.emit('discard')">Discard the draft</button>
      }
      @case ('quoted') {
        <button mat-flat-button type="button" (click)="act.emit('accept')" [disabled]="store.busy()">They take it <kbd>Ctrl Enter</kbd></button>
        <a mat-button [href]="'/api/papers/' + order().papers[0]?.id" target="_blank" rel="noopener">The paper <kbd>A</kbd></a>
        <button mat-button type="button" (click)="act.emit('mail')">Mail it <kbd>W</kbd></button>
        <button mat-button type="button" (click)="act.emit('revise')">Revise <kbd>V</kbd></button>
        <button mat-button type="button" (click)="act.emit('lose')">It is lost <kbd>X</kbd></button>
      }
      @case ('lost') {
        <button mat-button type="button" (click)="act.emit('revise')">Revise <kbd>V</kbd></button>
      }
      @case ('released') {
        @if (mayPromise()) {
          <button mat-flat-button type="button" (click)="act.emit('promise')" [disabled]="store.busy()">Promise what is possible <kbd>Ctrl Enter</kbd></button>
        } @else if (open()) {
          <a mat-flat-button routerLink="/shipping" [queryParams]="{ q: order().number }">To shipping <kbd>Ctrl Enter</kbd></a>
        }
        <a mat-button [href]="'/api/orders/' + order().id + '/acknowledgement'" target="_blank" rel="noopener">Acknowledgement <kbd>A</kbd></a>
        <button mat-button type="button" (click)="act.emit('mail')">Mail it <kbd>W</kbd></button>
        @if (open()) {
          <button mat-button type="button" (click)="act.emit('turn')">Move it up <kbd>U</kbd></button>
          @if (line(); as line) {
            <button mat-button type="button" (click)="act.emit('raise')">More of line {{ line.lineNo }} <kbd>M</kbd></button>
          }
          <button mat-button type="button" (click)="act.emit('line')">Cancel {{ line() ? 'line ' + line()!.lineNo : 'a line' }} <kbd>X</kbd></button>
          <button mat-button type="button" (click)="act.emit('order')">Cancel the order</button>
        }
      }
    }
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderActs {
  protected readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
  /** The line that is marked. */
  readonly line = input<LineView | null>(null);
  /** Something of it is still to come. */
  readonly open = input(false);
  /** What waits of the line could be promised now. */
  readonly mayPromise = input(false);
  readonly act = output<OrderAct>();
}
