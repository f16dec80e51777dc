import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { accessRoutes, type Account } from '@nockwright/contract/access';
import { catchError, EMPTY, of, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { History, Keys, ListCell, ListPage, RecordForm, Sheet, type ListColumn } from '../paper';
import { SessionList } from './session-list';
import { userRecord } from './user-record';

const stateOf = (user: Account) => (user.disabled ? 'disabled' : user.mustChangePassword ? 'must change password' : '');

const COLUMNS: readonly ListColumn<Account>[] = [
  { id: 'name', name: 'Name', text: (user) => user.name, sort: (user) => user.name },
  { id: 'login', name: 'Login name', text: (user) => user.login, sort: (user) => user.login },
  { id: 'role', name: 'Role', text: (user) => user.role, sort: (user) => user.role },
  { id: 'second', name: 'Second factor', text: (user) => (user.secondFactor ? 'on' : ''), sort: (user) => (user.secondFactor ? 0 : 1), from: 560 },
  { id: 'sessions', name: 'Sessions', figure: true, text: (user) => String(user.sessions.length || ''), sort: (user) => user.sessions.length, from: 560 },
  { id: 'state', name: 'State', text: stateOf, sort: stateOf },
];

/** Who may log in, what they may do, and where they are logged in. A manager keeps them. */
@Component({
  selector: 'nock-user-list',
  imports: [Sheet, History, ListCell, ListPage, RecordForm, SessionList, MatButton],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <nock-list
          heading="Users"
          what="users"
          label="Users"
          [columns]="columns"
          [rows]="users()"
          [key]="idOf"
          [explains]="true"
          [current]="at()"
          (looked)="at.set($event.id)"
          (opened)="form.set('account')"
        >
          <ng-template nockCell="name" [nockCellOf]="users()" let-user>
            <span [class.quiet]="user.disabled">{{ user.name }}</span>
          </ng-template>
        </nock-list>
        <p class="open" role="alert">{{ fault() }}</p>
      </ng-container>
      <ng-container gloss>
        @if (record(); as record) {
          <nock-record-form [record]="record" (saved)="close()" (closed)="close()" />
        } @else if (chosen(); as user) {
          <h2>{{ user.name }}</h2>
          <p>{{ roleWords[user.role] }}</p>
          <h3>Sessions</h3>
          <nock-session-list [sessions]="user.sessions" (closing)="end(user, $event)" />
          <h3>History</h3>
          <nock-history [rows]="history()" />
        } @else {
          <h2>Users</h2>
          <p class="quiet">Select a user with ↓ to see their sessions and history.</p>
        }
      </ng-container>
      <ng-container acts>
        <button mat-flat-button type="button" (click)="form.set('new')">New user <kbd>A</kbd></button>
        @if (chosen(); as user) {
          <button mat-button type="button" (click)="form.set('account')">Edit user <kbd>E</kbd></button>
          <button mat-button type="button" (click)="form.set('password')">Reset password <kbd>P</kbd></button>
          @if (user.secondFactor) {
            <button mat-button type="button" (click)="withoutCodes(user)">Remove second factor</button>
          }
          @if (user.sessions.length > 0) {
            <button mat-button type="button" (click)="end(user)">End all sessions</button>
          }
          <button mat-button type="button" (click)="shut(user)">{{ user.disabled ? 'Enable user' : 'Disable user' }}</button>
        }
      </ng-container>
    </nock-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UserList {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  protected readonly columns = COLUMNS;
  protected readonly idOf = (user: Account) => user.id;
  protected readonly roleWords = {
    coordinator: 'Sells, promises, routes and buys.',
    warehouse: 'Receives, moves, picks and ships; sees no costs, margins or credit.',
    finance: 'Sees what the office sees, sets credit limits, releases holds.',
    manager: 'Does what a coordinator does, approves it, and manages users, prices and rules.',
  } as const;
  protected readonly users = signal<readonly Account[]>([]);
  protected readonly at = signal<number | null>(null);
  protected readonly form = signal<'new' | 'account' | 'password' | null>(null);
  protected readonly fault = signal('');
  protected readonly chosen = computed(() => this.users().find((user) => user.id === this.at()) ?? null);
  protected readonly history = toSignal(
    toObservable(this.chosen).pipe(
      switchMap((user) => (user ? this.api.call(accessRoutes.userHistory, { params: { user: user.id } }).pipe(catchError(() => of([]))) : of([]))),
    ),
    { initialValue: [] },
  );
  protected readonly record = computed(() => {
    const form = this.form();
    return form ? userRecord(this.api, form === 'new' ? null : this.chosen(), form === 'password' ? 'password' : 'account') : null;
  });

  constructor() {
    inject(Live)
      .kept(
        () => this.api.call(accessRoutes.listUsers).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic.startsWith('user:'),
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((users) => this.users.set(users));
    const some = (run: () => void) => () => this.form() === null && this.chosen() !== null && run();
    inject(Keys).use([
      { key: 'A', does: 'new user', run: () => this.form() === null && this.form.set('new') },
      { key: 'E', does: 'edit the user', run: some(() => this.form.set('account')) },
      { key: 'P', does: 'reset the password', run: some(() => this.form.set('password')) },
    ]);
  }

  protected close(): void {
    this.form.set(null);
    this.again.next();
  }

  protected shut(user: Account): void {
    this.run(this.api.call(accessRoutes.changeUser, { params: { user: user.id }, body: { version: user.version, disabled: !user.disabled } }));
  }

  protected withoutCodes(user: Account): void {
    this.run(this.api.call(accessRoutes.removeSecondFactor, { params: { user: user.id }, body: {} }));
  }

  protected end(user: Account, session?: number): void {
    this.run(this.api.call(accessRoutes.endSessions, { params: { user: user.id }, body: session === undefined ? {} : { session } }));
  }

  private run(act: Observable<unknown>): void {
    this.fault.set('');
    act.subscribe({ next: () => this.again.next(), error: (error: Error) => (this.fault.set(error.message), this.again.next()) });
  }
}
