import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { payableRoutes } from '@nockwright/contract/payables';
import { Session } from '../access';

const PLACES = [
  ['/supply', 'Purchase orders'],
  ['/supply/messages', 'Responses'],
  ['/supply/reorder', 'What to buy'],
  ['/supply/suppliers', 'Suppliers'],
  ['/supply/inside', 'Transfers, assemblies'],
  ['/receiving', 'Receiving'],
  ['/supply/invoices', 'Supplier invoices'],
] as const;

/** The lists of supply, from each to each. */
@Component({
  selector: 'nock-supply-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `
    <nav aria-label="Supply">
      @for (place of places(); track place[0]) {
        <a [routerLink]="place[0]" routerLinkActive="here" ariaCurrentWhenActive="page" [routerLinkActiveOptions]="exact">{{ place[1] }}</a>
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 18px;
      margin: 0 0 10px;
    }
    a {
      padding: 2px 0;
      color: var(--ink-quiet);
      text-decoration: none;
    }
    a:hover {
      text-decoration: underline;
    }
    .here {
      color: var(--ink);
      font-weight: 600;
      border-bottom: 2px solid var(--act);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplyNav {
  private readonly session = inject(Session);
  protected readonly places = computed(() => PLACES.filter(([path]) => path !== '/supply/invoices' || this.session.may(payableRoutes.listSupplierInvoices)));
  protected readonly exact = { paths: 'exact', queryParams: 'ignored', matrixParams: 'ignored', fragment: 'ignored' } as const;
}
