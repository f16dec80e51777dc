import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { customerRoutes } from '@nockwright/contract/customers';
import { Session } from '../access';

/** A customer's name among other text; it leads to their page where the user may open it. In a row it is passed over by Tab. */
@Component({
  selector: 'nock-customer-name',
  imports: [RouterLink],
  template: `
    @if (leads()) {
      <a [routerLink]="['/customers', id()]" [attr.tabindex]="inRow() ? -1 : null" (click)="$event.stopPropagation()">{{ name() }}</a>
    } @else {
      {{ name() }}
    }
  `,
  styles: `
    a {
      color: inherit;
      text-decoration: none;
    }
    a:hover,
    a:focus-visible {
      text-decoration: underline;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CustomerName {
  private readonly session = inject(Session);
  readonly id = input.required<number>();
  readonly name = input.required<string>();
  readonly inRow = input(true);
  protected readonly leads = computed(() => this.session.may(customerRoutes.readCustomer));
}
