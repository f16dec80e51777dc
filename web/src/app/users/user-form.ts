import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';
import { accessRoutes, type Account } from '@nockwright/contract/access';
import { ROLES, type Role } from '@nockwright/contract/shape';
import type { Observable } from 'rxjs';
import { Api } from '../api';
import { GlossForm, TextField, typedOver } from '../paper';

/** A new user, or another name, role or password for one there is. */
@Component({
  selector: 'nock-user-form',
  imports: [GlossForm, TextField, MatFormField, MatSelect, MatOption],
  template: `
    <nock-gloss-form [heading]="heading()" [act]="user() ? 'Save user' : 'Create user'" [ready]="!busy()" (done)="confirm()" (left)="closed.emit()">
      @if (kind() !== 'password') {
        @if (!user()) {
          <nock-text-field fieldId="user-login" [most]="40" [(text)]="login">Login name</nock-text-field>
        }
        <nock-text-field fieldId="user-name" [most]="80" [(text)]="name">Full name</nock-text-field>
        <span class="label" id="user-role">Role</span>
        <mat-form-field>
          <mat-select aria-labelledby="user-role" [value]="role()" (selectionChange)="role.set($event.value)">
            @for (choice of roles; track choice) {
              <mat-option [value]="choice">{{ choice }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      }
      @if (!user() || kind() === 'password') {
        <nock-text-field fieldId="user-password" password="new-password" [(text)]="password">Password, at least 12 characters</nock-text-field>
        <p class="quiet">The user must change it at the next log-in.</p>
      }
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UserForm {
  private readonly api = inject(Api);
  /** Null: a new one. */
  readonly user = input.required<Account | null>();
  readonly kind = input.required<'account' | 'password'>();
  readonly closed = output<void>();

  protected readonly roles = ROLES;
  protected readonly login = signal('');
  protected readonly name = typedOver(() => this.user()?.name ?? '');
  protected readonly role = typedOver((): Role => this.user()?.role ?? 'coordinator');
  protected readonly password = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly heading = computed(() => {
    const user = this.user();
    return user === null ? 'New user' : this.kind() === 'password' ? `Reset password: ${user.name}` : user.name;
  });

  protected confirm(): void {
    this.fault.set('');
    this.busy.set(true);
    this.wish().subscribe({
      next: () => this.closed.emit(),
      error: (error: Error) => {
        this.fault.set(error.message);
        this.busy.set(false);
      },
    });
  }

  private wish(): Observable<Account> {
    const user = this.user();
    const [name, role, password] = [this.name().trim(), this.role(), this.password()];
    if (user === null) return this.api.call(accessRoutes.createUser, { body: { login: this.login().trim(), name, role, password } });
    const params = { user: user.id };
    if (this.kind() === 'password') return this.api.call(accessRoutes.resetPassword, { params, body: { password } });
    return this.api.call(accessRoutes.changeUser, { params, body: { version: user.version, name, role } });
  }
}
