import { afterNextRender, ChangeDetectionStrategy, ChangeDetectorRef, Component, type ElementRef, inject, input, signal, viewChild } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router } from '@angular/router';
import type { ProblemError } from '../api';
import { Mark } from '../paper';
import { Session } from './session';

@Component({
  selector: 'nock-log-in',
  imports: [ReactiveFormsModule, MatButton, MatFormField, MatInput, Mark],
  template: `
    <main>
      <h1><nock-mark /> Nockwright</h1>
      <p class="quiet">The order desk</p>
      <form [formGroup]="form" (ngSubmit)="submit()">
        <label for="login">Name</label>
        <mat-form-field><input matInput #name id="login" formControlName="login" autocomplete="username" /></mat-form-field>
        <label for="password">Password</label>
        <mat-form-field><input matInput id="password" type="password" formControlName="password" autocomplete="current-password" /></mat-form-field>
        @if (asksCode()) {
          <label for="code">Six-digit code</label>
          <mat-form-field
            ><input matInput #code id="code" formControlName="code" inputmode="numeric" autocomplete="one-time-code" maxlength="8"
          /></mat-form-field>
        }
        <p class="fault" role="alert">{{ fault() }}</p>
        <button mat-flat-button type="submit" [disabled]="busy()">Log in <kbd>Enter</kbd></button>
      </form>
    </main>
  `,
  styles: `
    main {
      max-width: 320px;
      margin: 18vh auto 0;
      padding: 0 16px;
    }
    h1 {
      display: flex;
      gap: 10px;
      align-items: center;
      font-size: 26px;
    }
    form {
      margin-top: 28px;
    }
    label {
      display: block;
      margin-top: 14px;
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    .fault {
      color: var(--open);
      min-height: 20px;
      margin: 12px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LogIn {
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly name = viewChild.required<ElementRef<HTMLInputElement>>('name');
  private readonly code = viewChild<ElementRef<HTMLInputElement>>('code');
  private readonly changes = inject(ChangeDetectorRef);

  /** The address that was asked for. */
  readonly to = input<string>();
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  /** The password was right, and more is asked for. */
  protected readonly asksCode = signal(false);
  protected readonly form = new FormGroup({
    login: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    password: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    code: new FormControl('', { nonNullable: true }),
  });

  constructor() {
    afterNextRender(() => this.name().nativeElement.focus());
  }

  protected submit(): void {
    const { login, password, code } = this.form.getRawValue();
    if (this.form.invalid) return this.fault.set('Type your name and your password.');
    this.busy.set(true);
    this.session.logIn(login.trim(), password, code.trim()).subscribe({
      next: ({ mustChangePassword }) => void this.router.navigateByUrl(mustChangePassword ? '/you' : safe(this.to())),
      error: (error: ProblemError) => {
        this.fault.set(error.message);
        this.busy.set(false);
        if (error.type !== '/problems/code-needed') return;
        this.asksCode.set(true);
        this.form.controls.code.reset();
        // At once: what is typed next is the code.
        this.changes.detectChanges();
        this.code()?.nativeElement.focus();
      },
    });
  }
}

/** Only an address of our own: what stands in a link must not lead elsewhere. */
function safe(to: string | undefined): string {
  return to?.startsWith('/') && !to.startsWith('//') ? to : '/orders';
}
