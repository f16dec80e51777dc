import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { accessRoutes, type OpenSession, type SecondFactor } from '@nockwright/contract/access';
import { catchError, of, startWith, Subject, switchMap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { TextField } from '../paper';
import { SessionList } from './session-list';

const NO_CODES: SecondFactor = { active: false, begun: null };

/** One's own log-in: the password, time codes, and where one is logged in. */
@Component({
  selector: 'nock-own-page',
  imports: [MatButton, SessionList, TextField],
  template: `
    <h1>Your log-in</h1>
    @if (due()) {
      <p class="due" role="status">Your password was set by a manager. Change it to continue.</p>
    }
    <div class="parts">
      <form aria-label="Password" novalidate (submit)="$event.preventDefault(); changePassword()">
        <h2>Password</h2>
        <nock-text-field fieldId="old-password" password="current-password" [(text)]="old">Current password</nock-text-field>
        <nock-text-field fieldId="new-password" password="new-password" [(text)]="password">New password, at least 12 characters</nock-text-field>
        <nock-text-field fieldId="new-again" password="new-password" [(text)]="again">Repeat new password</nock-text-field>
        <p class="open" role="alert">{{ fault() }}</p>
        <p role="status">{{ said() }}</p>
        <button mat-flat-button type="submit">Change password <kbd>Enter</kbd></button>
      </form>
      @if (!due()) {
        <form aria-label="Second factor" novalidate (submit)="$event.preventDefault(); stepCodes()">
          <h2>Second factor</h2>
          @if (codes().active) {
            <p>On: every log-in asks for a six-digit code as well as your password.</p>
            <nock-text-field fieldId="codes-password" password="current-password" [(text)]="codesPassword">Your password</nock-text-field>
          } @else if (codes().begun; as begun) {
            <p>Add this key to your authenticator app, then enter the code it shows.</p>
            <p class="code key">{{ begun.key }}</p>
            <p><a [href]="begun.address">Open the key in an app on this computer</a></p>
            <nock-text-field fieldId="first-code" [most]="8" [figure]="true" [(text)]="code">Six-digit code</nock-text-field>
          } @else {
            <p class="quiet">
              An authenticator app on your phone shows a six-digit code that changes every 30 seconds. With it, your password alone is not enough to log in.
            </p>
            <nock-text-field fieldId="codes-password" password="current-password" [(text)]="codesPassword">Your password</nock-text-field>
          }
          <p class="open" role="alert">{{ codesFault() }}</p>
          <button mat-stroked-button type="submit">
            {{ codes().active ? 'Turn off second factor' : codes().begun ? 'Turn on second factor' : 'Set up second factor' }}
          </button>
        </form>
        <section aria-label="Sessions">
          <h2>Sessions</h2>
          <nock-session-list [sessions]="sessions()" (closing)="end($event)" />
        </section>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      padding: 16px 20px;
    }
    h1 {
      margin-bottom: 18px;
    }
    .parts {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(260px, 340px));
      gap: 40px;
      align-items: start;
    }
    .due {
      border-left: 3px solid var(--late);
      padding-left: 12px;
      font-weight: 600;
    }
    .key {
      overflow-wrap: anywhere;
      font-size: 16px;
    }
    button[type='submit'] {
      margin-top: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OwnPage {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly anew = new Subject<void>();
  protected readonly due = computed(() => this.session.user()?.mustChangePassword ?? false);

  protected readonly old = signal('');
  protected readonly password = signal('');
  protected readonly again = signal('');
  protected readonly fault = signal('');
  protected readonly said = signal('');

  protected readonly codesPassword = signal('');
  protected readonly code = signal('');
  protected readonly codesFault = signal('');
  protected readonly codes = this.kept(() => this.api.call(accessRoutes.readSecondFactor), NO_CODES);
  protected readonly sessions = this.kept<readonly OpenSession[]>(() => this.api.call(accessRoutes.ownSessions), []);

  private kept<T>(load: () => Observable<T>, without: T) {
    return toSignal(
      this.anew.pipe(
        startWith(undefined),
        switchMap(() => (this.due() ? of(without) : load().pipe(catchError(() => of(without))))),
      ),
      { initialValue: without },
    );
  }

  protected changePassword(): void {
    this.said.set('');
    if (this.password() !== this.again()) return this.fault.set('The two new passwords differ. Type the new password again.');
    const first = this.due();
    this.api.call(accessRoutes.changePassword, { body: { old: this.old(), password: this.password() } }).subscribe({
      next: () => {
        this.fault.set('');
        for (const field of [this.old, this.password, this.again]) field.set('');
        this.said.set('Password changed. Your other sessions were ended.');
        this.session.passwordChosen();
        if (first) void this.router.navigateByUrl('/orders');
        else this.anew.next();
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  /** What comes next with time codes: a key, its first code, or the end of them. */
  protected stepCodes(): void {
    const { active, begun } = this.codes();
    const body = { password: this.codesPassword() };
    const act = active
      ? this.api.call(accessRoutes.endSecondFactor, { body })
      : begun
        ? this.api.call(accessRoutes.confirmSecondFactor, { body: { code: this.code().trim() } })
        : this.api.call(accessRoutes.beginSecondFactor, { body });
    act.subscribe({
      next: () => {
        this.codesFault.set('');
        this.codesPassword.set('');
        this.code.set('');
        this.anew.next();
      },
      error: (error: Error) => this.codesFault.set(error.message),
    });
  }

  protected end(session: number): void {
    this.api.call(accessRoutes.endOwnSession, { params: { session }, body: {} }).subscribe({ next: () => this.anew.next(), error: () => this.anew.next() });
  }
}
