import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { supplyRoutes, type Habit, type StandInView } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { ListChoice, TextField, isWhole } from '../../paper';
import { HABIT_CHOICES } from './message-words';

/** How the stand-in for suppliers answers: how fast, and what each does with an order. For whoever tries the desk out. */
@Component({
  selector: 'nock-stand-in-form',
  imports: [MatButton, ListChoice, TextField],
  template: `
    <h3>Stand-in for suppliers</h3>
    @if (standIn(); as view) {
      <p class="quiet small">
        It answers through the exchange folder, as a partner’s own machine would. Each thing it does follows the last after so many seconds.
      </p>
      <nock-text-field fieldId="stand-in-seconds" [figure]="true" [(text)]="seconds">Seconds</nock-text-field>
      @for (supplier of view.suppliers; track supplier.code) {
        @if (supplier.exchanges) {
          <div class="row">
            <span>{{ supplier.name }}</span>
            <nock-list-choice
              [what]="'What ' + supplier.name + ' does'"
              [choices]="habits"
              [chosen]="supplier.habit"
              (choose)="choose(supplier.code, $event)"
            />
          </div>
        }
      } @empty {
        <p class="quiet small">No supplier takes files.</p>
      }
      <button mat-stroked-button type="button" (click)="store()">Save</button>
    }
    <p class="fault" role="status">{{ said() }}</p>
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 150px;
      gap: 8px;
      align-items: center;
      margin-top: 6px;
    }
    button {
      margin-top: 10px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StandInForm {
  private readonly api = inject(Api);
  protected readonly habits = HABIT_CHOICES;
  protected readonly standIn = signal<StandInView | null>(null);
  protected readonly seconds = signal('');
  protected readonly said = signal('');

  constructor() {
    this.api.call(supplyRoutes.readStandIn).subscribe({ next: (view) => this.show(view), error: (error: Error) => this.said.set(error.message) });
  }

  protected choose(code: string, habit: string | null): void {
    this.standIn.update(
      (view) => view && { ...view, suppliers: view.suppliers.map((row) => (row.code === code ? { ...row, habit: (habit ?? 'as_asked') as Habit } : row)) },
    );
  }

  protected store(): void {
    const view = this.standIn();
    if (!view) return;
    if (!isWhole(this.seconds(), 99_999)) return this.said.set('Seconds: expected a whole number.');
    const suppliers = view.suppliers.map(({ code, exchanges, habit }) => ({ code, exchanges, habit }));
    this.api.call(supplyRoutes.setStandIn, { body: { seconds: Number(this.seconds()), suppliers } }).subscribe({
      next: (stored) => {
        this.show(stored);
        this.said.set('It answers so from now on.');
      },
      error: (error: Error) => this.said.set(error.message),
    });
  }

  private show(view: StandInView): void {
    this.standIn.set(view);
    this.seconds.set(String(view.seconds));
  }
}
