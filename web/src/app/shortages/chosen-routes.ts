import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { ChosenRoute, Undoing } from '@nockwright/contract/shortages';
import { shortDay } from '@nockwright/core/calendar';
import type { Observable } from 'rxjs';
import { Session } from '../access';
import { AmountPipe } from '../paper';
import { chosenWords } from './route-words';

/** How the goods of a purchase are dealt with that the supplier has already. */
export interface Undo {
  readonly route: number;
  readonly supplier?: 'cancel' | 'keep';
}

/** The routes chosen for a line, with what they have led to; each can be taken back as long as nothing has left the house. */
@Component({
  selector: 'nock-chosen-routes',
  imports: [AmountPipe, MatButton, RouterLink],
  template: `
    <ul>
      @for (route of routes(); track route.id) {
        <li class="chosen">
          <span
            ><b>{{ route.quantity | amount }}</b> {{ words(route) }}
            @if (route.document; as document) {
              <span class="small quiet">
                @switch (document.kind) {
                  @case ('line') {
                    as line {{ document.number }}
                  }
                  @default {
                    <a [routerLink]="linkOf(document)">{{ document.number }}</a>,
                    {{ document.state }}
                  }
                }
              </span>
            }
          </span>
          @if (mayChange() && undoing()?.route !== route.id) {
            <button mat-button type="button" (click)="ask(route)">Undo</button>
          }
          @if (undoing(); as looked) {
            @if (looked.route === route.id) {
              <div class="undo" role="group" aria-label="Undo route">
                @for (line of looked.view.barred; track line) {
                  <p class="open">{{ line }}</p>
                } @empty {
                  @for (line of looked.view.does; track line) {
                    <p>{{ line }}</p>
                  }
                }
                @if (looked.view.barred.length === 0) {
                  @if (looked.view.after; as after) {
                    <p><b>The line is then</b> {{ afterWords(after) }}</p>
                  }
                  @if (looked.view.asksSupplier) {
                    <button mat-flat-button type="button" (click)="done(route, 'cancel')">Cancel it with the supplier</button>
                    <button mat-button type="button" (click)="done(route, 'keep')">Keep the goods for others</button>
                  } @else {
                    <button mat-flat-button type="button" (click)="done(route)">Undo route</button>
                  }
                }
                <button mat-button type="button" (click)="undoing.set(null)">Back</button>
              </div>
            }
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 0 10px;
      align-items: center;
      padding: 2px 0;
    }
    .undo {
      grid-column: 1 / -1;
      padding: 4px 0 8px 10px;
      border-left: 2px solid var(--act);
    }
    p {
      margin: 2px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChosenRoutes {
  private readonly session = inject(Session);
  readonly routes = input.required<readonly ChosenRoute[]>();
  readonly mayChange = input(false);
  /** Of a draft nothing is made yet. */
  readonly released = input(true);
  /** Looks up what taking a route back would do. */
  readonly look = input.required<(route: number) => Observable<Undoing>>();
  readonly undo = output<Undo>();
  readonly fault = output<string>();

  protected readonly undoing = signal<{ readonly route: number; readonly view: Undoing } | null>(null);

  protected words(route: ChosenRoute): string {
    return chosenWords(route, this.session.today());
  }

  protected linkOf({ kind, id }: NonNullable<ChosenRoute['document']>): unknown[] {
    return kind === 'purchase' ? ['/supply', id] : ['/supply', kind === 'transfer' ? 'transfers' : 'assemblies', id];
  }

  /** A plan to wait is taken back at once: nothing has come of it. All else is seen before it is done. */
  protected ask(route: ChosenRoute): void {
    if (route.document === null && (route.kind === 'backorder' || !this.released())) return this.undo.emit({ route: route.id });
    this.look()(route.id).subscribe({
      next: (view) => this.undoing.set({ route: route.id, view }),
      error: (error: Error) => this.fault.emit(error.message),
    });
  }

  /** What the line is promised then: each part by its day, and what has none. */
  protected afterWords({ schedule, uncovered }: NonNullable<Undoing['after']>): string {
    const parts = schedule.map(({ day, quantity }) => `${quantity} promised ${shortDay(day, this.session.today())}`);
    if (Number(uncovered) > 0) parts.push(`${uncovered} backordered without a day`);
    return `${parts.join(', ') || 'promised as before'}. No other promise moves later.`;
  }

  protected done(route: ChosenRoute, supplier?: 'cancel' | 'keep'): void {
    this.undoing.set(null);
    this.undo.emit({ route: route.id, ...(supplier ? { supplier } : {}) });
  }
}
