import { computed, inject, Injectable, signal } from '@angular/core';
import { accessRoutes, type User } from '@nockwright/contract/access';
import { OFFICE, type AnyRoute } from '@nockwright/contract/shape';
import { firstValueFrom, tap, type Observable } from 'rxjs';
import { Api } from '../api';

/** Who is logged in, and the day the application takes for today. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly current = signal<User | null>(null);
  readonly user = this.current.asReadonly();

  /** Today by the server; a page is shown only to who is logged in, so it is there. */
  today(): string {
    return this.current()?.today ?? '';
  }

  /** The firm's name, as mails end with it. */
  readonly firm = computed(() => this.current()?.firm.name ?? '');

  /** What the firm's amounts are in. */
  readonly currency = computed(() => this.current()?.firm.currency ?? '');

  /** Whether the user's role may enter and change orders and purchases; the server decides all the same. */
  readonly maySell = computed(() => ['coordinator', 'manager'].includes(this.current()?.role ?? ''));

  /** Whether they may take goods in and move them. */
  readonly mayMove = computed(() => ['coordinator', 'warehouse', 'manager'].includes(this.current()?.role ?? ''));

  /** Whether they may decide how the desk promises. */
  readonly mayPlan = computed(() => this.current()?.role === 'manager');

  /** Whether they work with prices and customers' accounts, not with goods alone. */
  readonly inOffice = computed(() => OFFICE.includes(this.current()?.role ?? 'warehouse'));

  /** Whether their role may ask something. */
  may(route: { readonly roles: AnyRoute['roles'] }): boolean {
    const role = this.current()?.role;
    return route.roles === 'public' || (role !== undefined && route.roles.includes(role));
  }

  /** Whether the cookie of an earlier visit still holds. */
  async restore(): Promise<boolean> {
    if (this.current()) return true;
    try {
      this.current.set(await firstValueFrom(this.api.call(accessRoutes.whoAmI)));
      return true;
    } catch {
      return false;
    }
  }

  logIn(login: string, password: string, code = ''): Observable<User> {
    return this.api.call(accessRoutes.logIn, { body: { login, password, ...(code ? { code } : {}) } }).pipe(tap((user) => this.current.set(user)));
  }

  /** They have a password that nobody else knows. */
  passwordChosen(): void {
    this.current.update((user) => user && { ...user, mustChangePassword: false });
  }

  logOut(): Observable<unknown> {
    return this.api.call(accessRoutes.logOut, {}).pipe(tap(() => this.current.set(null)));
  }
}
