import { ChangeDetectionStrategy, ChangeDetectorRef, Component, computed, inject, input, output, signal, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { shortDay } from '@nockwright/core/calendar';
import type { Difference } from '@nockwright/core/orders';
import { Session } from '../../access';
import { Keys, LineForm } from '../../paper';
import { ManyActs, type ManyAct } from './many-acts';

const DONE = { release: 'released', hold: 'held', mail: 'mailed' } as const;

/** What is done with the orders that are chosen in the list, and what became of each. */
@Component({
  selector: 'nock-many-bar',
  imports: [LineForm, MatButton, RouterLink],
  template: `
    @if (acts.run(); as run) {
      <p role="status">
        <b>{{ done() }} {{ words[run.act] }}</b>
        @if (run.running) {
          , {{ run.total - run.outcomes.length }} to go
        }
        @for (outcome of asking(); track outcome.id) {
          <span class="differs">
            <a [routerLink]="['/orders', outcome.id]">{{ outcome.label }}</a>
            @for (one of outcome.differs; track one.lineNo) {
              <span>{{ differenceWords(one) }}</span>
            }
            <button mat-button type="button" [disabled]="run.running" (click)="acts.releaseSeen([outcome.id])">Release {{ outcome.label }} so</button>
          </span>
        }
        @for (outcome of refused(); track outcome.id) {
          <span class="refused"
            ><a [routerLink]="['/orders', outcome.id]">{{ outcome.label }}</a> not: {{ outcome.why }}</span
          >
        }
      </p>
      @if (run.running) {
        <button mat-button type="button" (click)="acts.stop()">Stop</button>
      } @else {
        @if (asking().length > 1) {
          <button mat-button type="button" (click)="releaseAsked()">Release all {{ asking().length }} so <kbd>R</kbd></button>
        }
        <button mat-button type="button" (click)="acts.clear()">Close <kbd>Esc</kbd></button>
      }
    } @else if (chosen().length > 0) {
      <b>{{ chosen().length }} chosen</b>
      @if (holding()) {
        <nock-line-form fieldId="many-why" label="Hold drafts" hint="what?" act="Hold" [(text)]="reason" (said)="hold($event)" />
      } @else {
        @if (maySell()) {
          <button mat-button type="button" (click)="start('release')">Release <kbd>R</kbd></button>
          <button mat-button type="button" (click)="ask()">Hold <kbd>H</kbd></button>
          <button mat-button type="button" (click)="start('mail')">Mail <kbd>W</kbd></button>
        }
        @if (inOffice()) {
          <a mat-button [href]="'/api/order-print?orders=' + chosen().join(',')" target="_blank" rel="noopener">Print <kbd>P</kbd></a>
          <a mat-button [href]="'/api/order-export?state=all&orders=' + chosen().join(',')" download>Export <kbd>E</kbd></a>
        }
      }
      <button mat-button type="button" (click)="cleared.emit()">None <kbd>Esc</kbd></button>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
      flex-wrap: wrap;
      min-height: 40px;
    }
    p {
      margin: 0;
      max-height: 120px;
      overflow: auto;
    }
    .differs {
      display: flex;
      flex-wrap: wrap;
      gap: 0 12px;
      align-items: center;
      color: var(--late);
    }
    .refused {
      display: block;
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ManyBar {
  private readonly session = inject(Session);
  protected readonly inOffice = this.session.inOffice;
  protected readonly acts = inject(ManyActs);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly why = viewChild(LineForm);
  readonly chosen = input.required<readonly number[]>();
  readonly maySell = input.required<boolean>();
  readonly cleared = output<void>();

  protected readonly words = DONE;
  protected readonly holding = signal(false);
  protected readonly reason = signal('');
  protected readonly refused = computed(() => this.acts.run()?.outcomes.filter((outcome) => outcome.why !== '') ?? []);
  /** Those whose promise is not as requested: they are released when somebody says so. */
  protected readonly asking = computed(() => this.acts.run()?.outcomes.filter((outcome) => outcome.differs) ?? []);
  protected readonly done = computed(() => (this.acts.run()?.outcomes.length ?? 0) - this.refused().length - this.asking().length);

  constructor() {
    const some = (run: () => void) => () => {
      if (this.chosen().length === 0) return false;
      run();
      return true;
    };
    inject(Keys).use([
      { key: 'R', does: 'release the orders that are chosen; those that are late or short, when that was shown', run: () => this.releaseByKey() },
      { key: 'H', does: 'hold them', run: some(() => this.ask()) },
      { key: 'W', does: 'mail the newest paper of each', run: some(() => this.start('mail')) },
      {
        key: 'P',
        does: 'print the newest paper of each',
        run: some(() => this.inOffice() && window.open(`/api/order-print?orders=${this.chosen().join(',')}`, '_blank', 'noopener')),
      },
      {
        key: 'E',
        does: 'export them',
        run: some(() => this.inOffice() && window.open(`/api/order-export?state=all&orders=${this.chosen().join(',')}`, '_self')),
      },
      { key: 'Escape', does: 'choose none', run: () => this.leave() },
    ]);
  }

  protected start(act: ManyAct, why = ''): void {
    if (!this.maySell()) return;
    this.acts.start(act, this.chosen(), why);
    this.cleared.emit();
  }

  protected ask(): void {
    if (!this.maySell()) return;
    this.holding.set(true);
    this.changes.detectChanges();
    this.why()?.focus();
  }

  protected hold(reason: string): void {
    if (reason === '') return;
    this.start('hold', reason);
    this.holding.set(false);
    this.reason.set('');
  }

  protected differenceWords(one: Difference): string {
    const what = `line ${one.lineNo}, ${one.item}:`;
    if (one.kind === 'short') return `${what} ${one.quantity} backordered without a day`;
    return `${what} promised ${shortDay(one.day, this.session.today())}, ${one.daysLate} ${one.daysLate === 1 ? 'day' : 'days'} late`;
  }

  protected releaseAsked(): void {
    this.acts.releaseSeen(this.asking().map(({ id }) => id));
  }

  private releaseByKey(): boolean {
    if (this.chosen().length > 0) this.start('release');
    else if (this.asking().length > 0 && !this.acts.run()!.running) this.releaseAsked();
    else return false;
    return true;
  }

  private leave(): boolean {
    if (this.holding()) this.holding.set(false);
    else if (this.acts.run() && !this.acts.run()!.running) this.acts.clear();
    else if (this.chosen().length > 0) this.cleared.emit();
    else return false;
    return true;
  }
}
