import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { accessRoutes, type Account } from '@nockwright/contract/access';
import { ROLES, type BodyOf } from '@nockwright/contract/shape';
import type { Observable } from 'rxjs';
import { Api } from '../api';
import { fieldsOf, RecordForm, type Choice } from '../paper';

type Body = BodyOf<typeof accessRoutes.createUser>;

const LOGIN = fieldsOf<Body>([{ name: 'login', label: 'Login name', most: 40 }]);
const ACCOUNT = fieldsOf<Body>([
  { name: 'name', label: 'Full name', most: 80 },
  { name: 'role', label: 'Role', kind: 'choice', choices: ROLES.map((role): Choice => [role, role]) },
]);
const PASSWORD = fieldsOf<Body>([{ name: 'password', label: 'Password, at least 12 characters', called: 'Password', kind: 'password' }]);

/** A new user, or another name, role or password for one there is. */
@Component({
  selector: 'nock-user-form',
  imports: [RecordForm],
  template: `
    <nock-record-form
      [heading]="heading()"
      [act]="user() ? 'Save user' : 'Create user'"
      name="user"
      [fields]="fields()"
      [value]="value()"
      [route]="route()"
      [send]="store"
      (saved)="closed.emit()"
      (closed)="closed.emit()"
    >
      @if (setsPassword()) {
        <p class="quiet">The user must change it at the next log-in.</p>
      }
    </nock-record-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UserForm {
  private readonly api = inject(Api);
  /** Null: a new one. */
  readonly user = input.required<Account | null>();
  readonly kind = input.required<'account' | 'password'>();
  readonly closed = output<void>();

  protected readonly value = computed(() => this.user() ?? { role: 'coordinator' });
  protected readonly setsPassword = computed(() => this.user() === null || this.kind() === 'password');
  private readonly isNew = computed(() => this.user() === null);
  protected readonly fields = computed(() => [
    ...(this.isNew() ? LOGIN : []),
    ...(this.kind() === 'password' ? [] : ACCOUNT),
    ...(this.setsPassword() ? PASSWORD : []),
  ]);
  protected readonly route = computed(() =>
    this.isNew() ? accessRoutes.createUser : this.kind() === 'password' ? accessRoutes.resetPassword : accessRoutes.changeUser,
  );
  protected readonly heading = computed(() => {
    const user = this.user();
    return user === null ? 'New user' : this.kind() === 'password' ? `Reset password: ${user.name}` : user.name;
  });

  protected readonly store = (body: Body): Observable<Account> => {
    const user = this.user();
    if (user === null) return this.api.call(accessRoutes.createUser, { body });
    const params = { user: user.id };
    return this.kind() === 'password'
      ? this.api.call(accessRoutes.resetPassword, { params, body })
      : this.api.call(accessRoutes.changeUser, { params, body: { ...body, version: user.version } });
  };
}
