import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { DayPipe } from '../paper';
import { nextAct } from './next-act';
import { shortLines } from './order-forms';
import { OrderStore } from './order-store';

/** What can be done with an order as a whole, or with the line that is marked. */
export type OrderAct = 'release' | 'discard' | 'accept' | 'lose' | 'revise' | 'mail' | 'promise' | 'turn' | 'raise' | 'line' | 'order' | 'combine';

/** The buttons at the foot of an order, those of its state; each says its key. */
@Component({
  selector: 'nock-order-acts',
  imports: [MatButton, MatMenu, MatMenuItem, MatMenuTrigger, RouterLink, DayPipe],
  template: `
    @switch (order().state) {
      @case ('draft') {
        <button mat-flat-button type="button" (click)="act.emit('release')" [disabled]="store.busy()">
          {{ order().kind === 'quote' ? 'Send quote' : 'Release' }} <kbd>Ctrl Enter</kbd>
        </button>
        @if (short() > 1) {
          <button mat-button type="button" (click)="act.emit('combine')">Options for {{ short() }} short lines <kbd>Ctrl O</kbd></button>
        }
        <button mat-button type="button" (click)="act.emit('discard')">Discard draft</button>
      }
      @case ('quoted') {
        <button mat-flat-button type="button" (click)="act.emit('accept')" [disabled]="store.busy()">Accept quote <kbd>Ctrl Enter</kbd></button>
        <a mat-button [href]="'/api/papers/' + order().papers[0]?.id" target="_blank" rel="noopener">Open quote <kbd>A</kbd></a>
        <button mat-button type="button" (click)="act.emit('mail')">Mail quote <kbd>W</kbd></button>
        <button mat-button type="button" (click)="act.emit('revise')">Revise quote <kbd>V</kbd></button>
        <button mat-button type="button" (click)="act.emit('lose')">Mark as lost <kbd>X</kbd></button>
      }
      @case ('lost') {
        <button mat-button type="button" (click)="act.emit('revise')">Revise quote <kbd>V</kbd></button>
      }
      @case ('released') {
        @if (mayPromise()) {
          <button mat-flat-button type="button" (click)="act.emit('promise')" [disabled]="store.busy()">Promise what is available <kbd>Ctrl Enter</kbd></button>
        } @else if (open()) {
          @let step = next();
          @switch (step.does) {
            @case ('ship') {
              <a mat-flat-button routerLink="/shipping" [queryParams]="{ q: order().number }">To shipping <kbd>Ctrl Enter</kbd></a>
            }
            @case ('send') {
              <a mat-flat-button [routerLink]="['/supply', step.purchase]">Send {{ step.number }} <kbd>Ctrl Enter</kbd></a>
            }
            @case ('wait') {
              <span class="waits">{{ step.until ? 'Ships from ' + (step.until | day) : 'Waits for supply' }}</span>
            }
          }
        }
        @if (open()) {
          @if (line(); as line) {
            <button mat-button type="button" (click)="act.emit('raise')">Increase line {{ line.lineNo }} <kbd>M</kbd></button>
          }
          <button mat-button type="button" (click)="act.emit('line')">Cancel {{ line() ? 'line ' + line()!.lineNo : 'a line' }} <kbd>X</kbd></button>
          <button mat-button type="button" (click)="act.emit('turn')">Change priority <kbd>U</kbd></button>
        }
        <button mat-button type="button" [matMenuTriggerFor]="more">More</button>
        <mat-menu #more="matMenu">
          <a mat-menu-item [href]="'/api/orders/' + order().id + '/acknowledgement'" target="_blank" rel="noopener">Open acknowledgement <kbd>A</kbd></a>
          <button mat-menu-item type="button" (click)="act.emit('mail')">Mail acknowledgement <kbd>W</kbd></button>
          @if (short() > 1) {
            <button mat-menu-item type="button" (click)="act.emit('combine')">Options for {{ short() }} short lines <kbd>Ctrl O</kbd></button>
          }
          @if (open()) {
            <a mat-menu-item routerLink="/shipping" [queryParams]="{ q: order().number }">To shipping</a>
            <button mat-menu-item type="button" (click)="act.emit('order')">Cancel order {{ order().number }}</button>
          }
        </mat-menu>
      }
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    .waits {
      font-weight: 600;
      color: var(--late);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderActs {
  private readonly session = inject(Session);
  protected readonly store = inject(OrderStore);
  readonly order = input.required<OrderView>();
  /** The line that is marked. */
  readonly line = input<LineView | null>(null);
  /** Something of it is still to come. */
  readonly open = input(false);
  /** What waits of the line could be promised now. */
  readonly mayPromise = input(false);
  readonly act = output<OrderAct>();
  /** Lines that leave later than requested, or have no day. */
  protected readonly short = computed(() => shortLines(this.order()));
  protected readonly next = computed(() => nextAct(this.order(), this.session.today()));
}
