import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { AskForm, ChosenRoutes, ConsentNote } from '../shortages';
import { LineOptions } from './options/line-options';
import { OptionGloss } from './options/option-gloss';
import { LineRouting } from './line-routing';
import { OrderStore } from './order-store';

/** What the customer is asked about a line, the option that is looked at, and the routes chosen. */
@Component({
  selector: 'nock-line-ways',
  imports: [AskForm, ChosenRoutes, ConsentNote, OptionGloss],
  template: `
    @let view = line();
    @if (view.asked; as asked) {
      <nock-consent-note
        [asked]="asked"
        [mayChange]="options.mayChange()"
        (answer)="routing.answer(asked.consent, $event)"
        (withdraw)="routing.withdraw(asked.consent)"
      />
    }
    @if (options.asking(); as route) {
      <nock-ask-form
        [route]="route"
        [line]="view"
        [email]="order().customer.email"
        [shipTo]="options.elsewhere()"
        (asked)="options.ask($event.wish, $event.agreed)"
        (left)="options.asking.set(null)"
      />
    } @else {
      <nock-option-gloss />
    }
    @if (view.routes.length > 0) {
      <h3>Routes chosen</h3>
      <nock-chosen-routes
        [released]="order().state === 'released'"
        [routes]="view.routes"
        [mayChange]="options.mayChange()"
        [look]="look"
        (undo)="routing.undoRoute(view, $event.route, $event.supplier)"
        (fault)="store.fault.set($event)"
      />
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineWays {
  protected readonly store = inject(OrderStore);
  protected readonly routing = inject(LineRouting);
  protected readonly options = inject(LineOptions);
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  protected readonly look = (route: number) => this.routing.previewUndo(this.line(), route);
}
