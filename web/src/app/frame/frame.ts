import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { filter, map } from 'rxjs';
import { Session } from '../access';
import { Reach } from '../api';
import { Live } from '../live';
import { DueToday, OpenCalls } from '../worklist';
import { Keys, Mark } from '../paper';
import { FindField } from './find-field';
import { KeyList } from './key-list';
import { Theme } from './theme';

/** The frame: a slim bar with the work areas as words, one field that finds anything, and who you are. */
@Component({
  selector: 'nock-root',
  imports: [RouterOutlet, RouterLink, RouterLinkActive, MatButton, MatMenu, MatMenuItem, MatMenuTrigger, Mark, FindField, KeyList],
  template: `
    @if (user(); as user) {
      <header>
        <a class="brand" routerLink="/orders"><nock-mark /> Nockwright</a>
        <nav aria-label="Work areas">
          @for (area of areas(); track area.path) {
            <a [routerLink]="area.path" routerLinkActive="here" ariaCurrentWhenActive="page" [attr.title]="reminderOf(area.path)"
              >{{ area.name }}{{ countOf(area.path) }}</a
            >
          }
        </nav>
        <nock-find />
        <button mat-button type="button" [matMenuTriggerFor]="menu">
          <span class="who">{{ user.name }}, {{ user.role }}</span
          ><span class="menu">Menu</span>
        </button>
        <mat-menu #menu="matMenu">
          <button mat-menu-item type="button" (click)="theme.next()">Colours: {{ theme.name() }}</button>
          <button mat-menu-item type="button" (click)="keys.listed.set(true)">Keys of this screen (?)</button>
          @if (inOffice()) {
            <a mat-menu-item href="/api/order-book" download="order-book.json">Download the order book</a>
          }
          <a mat-menu-item routerLink="/you">Your log-in</a>
          @if (mayPlan()) {
            <a mat-menu-item routerLink="/users">Users</a>
            <a mat-menu-item routerLink="/firm">Firm</a>
          }
          <button mat-menu-item type="button" (click)="logOut()">Log out</button>
        </mat-menu>
      </header>
      @if (!live.connected() || !reach.reached()) {
        <p class="away" role="status">Nockwright cannot be reached. What you see may be old; what you type is kept.</p>
      }
    }
    <main [class.with-bar]="user()"><router-outlet /></main>
    @if (keys.listed()) {
      <nock-key-list (closed)="keys.listed.set(false)" />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      height: 100%;
    }
    header {
      display: flex;
      align-items: stretch;
      gap: 22px;
      height: 44px;
      padding: 0 12px 0 20px;
      border-bottom: 1px solid var(--rule);
      flex: none;
    }
    .brand {
      display: flex;
      align-items: center;
      gap: 9px;
      font-size: 16px;
      font-weight: 700;
      color: var(--ink);
    }
    nav {
      display: flex;
      gap: 16px;
      flex: 1;
    }
    nav a {
      display: flex;
      align-items: center;
      color: var(--ink);
      font-weight: 400;
      border-bottom: 3px solid transparent;
      padding-top: 3px;
      white-space: nowrap;
    }
    nav a.here {
      font-weight: 700;
      border-bottom-color: var(--act);
    }
    nock-find,
    header > button {
      align-self: center;
    }
    .menu {
      display: none;
    }
    .away {
      margin: 0;
      padding: 6px 20px;
      background: var(--paper-marked);
      border-bottom: 1px solid var(--rule);
    }
    main {
      flex: 1;
      min-height: 0;
      overflow: auto;
    }
    @media (max-width: 1120px) {
      header {
        gap: 12px;
        padding: 0 12px;
      }
      nav {
        gap: 12px;
      }
      nock-find {
        width: 120px;
        min-width: 0;
      }
      .who {
        display: none;
      }
      .menu {
        display: inline;
      }
    }
    @media (max-width: 820px) {
      header {
        gap: 10px;
        padding: 0 8px;
        overflow-x: auto;
      }
      nav {
        gap: 14px;
        overflow-x: auto;
      }
      nock-find,
      .brand {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Frame {
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  protected readonly live = inject(Live);
  protected readonly reach = inject(Reach);
  protected readonly calls = inject(OpenCalls);
  protected readonly due = inject(DueToday);
  protected readonly keys = inject(Keys);
  protected readonly theme = inject(Theme);
  protected readonly inOffice = this.session.inOffice;
  protected readonly mayPlan = this.session.mayPlan;
  private readonly allAreas = [
    { path: '/orders', name: 'Orders' },
    { path: '/shortages', name: 'Shortages', office: true },
    { path: '/supply', name: 'Supply' },
    { path: '/shipping', name: 'Shipping' },
    { path: '/items', name: 'Items' },
    { path: '/prices', name: 'Prices', office: true },
    { path: '/plan', name: 'Plan', office: true },
    { path: '/invoices', name: 'Invoices', office: true },
    { path: '/calls', name: 'Calls', office: true },
    { path: '/mail', name: 'Mail', office: true },
  ];
  protected readonly areas = computed(() => this.allAreas.filter((area) => !area.office || this.session.inOffice()));

  private readonly address = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: '' },
  );
  private readonly atLogIn = computed(() => this.address().startsWith('/log-in'));
  protected readonly user = computed(() => (this.atLogIn() ? null : this.session.user()));

  constructor() {
    this.reach.back.pipe(takeUntilDestroyed()).subscribe(() => this.live.refresh());
    effect(() => {
      if (!this.session.user()) return this.live.close();
      this.live.open();
      this.due.follow();
      if (this.session.inOffice()) this.calls.follow();
    });
    this.keys.use([
      { key: '?', does: 'list the keys of this screen', run: () => this.keys.listed.update((listed) => !listed) },
      { key: 'N', does: 'new order', run: () => this.session.maySell() && void this.router.navigateByUrl('/orders/new') },
    ]);
  }

  /** What waits in a work area, beside its name. */
  protected countOf(path: string): string {
    const count = path === '/calls' ? this.calls.open() : path === '/shipping' ? this.due.orders() : 0;
    return count > 0 ? ` ${count}` : '';
  }

  /** What its number counts. */
  protected reminderOf(path: string): string | null {
    const count = path === '/shipping' ? this.due.orders() : 0;
    return count > 0 ? `${count} ${count === 1 ? 'order is' : 'orders are'} promised for today or earlier and not shipped` : null;
  }

  protected logOut(): void {
    this.session.logOut().subscribe({ complete: () => void this.router.navigateByUrl('/log-in'), error: () => void this.router.navigateByUrl('/log-in') });
  }
}
