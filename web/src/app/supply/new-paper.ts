import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { Api } from '../api';
import { Keys } from '../paper';
import { filledLines, ItemLines, type ItemLine } from './item-lines';
import { NEW_PAPERS, type NewPaperKind, type NewPaperSpec } from './new-papers';
import { PlaceChoice } from './place-choice';
import { Places } from './places';

/** A new purchase, transfer or assembly: what is chosen at its head, its lines, and what makes it. */
@Component({
  selector: 'nock-new-paper',
  imports: [MatButton, ItemLines, PlaceChoice],
  template: `
    @let paper = spec();
    <form class="paper-form" (submit)="$event.preventDefault(); make()">
      <h1>{{ paper.heading }}</h1>
      @if (paper.hint; as hint) {
        <p class="quiet">{{ hint }}</p>
      }
      <div class="row">
        @for (place of paper.head; track place.label) {
          <nock-place-choice
            [label]="place.label"
            [places]="place.of === 'suppliers' ? places.suppliers() : places.warehouses()"
            [code]="codes()[$index] ?? ''"
            (codeChange)="choose($index, $event)"
          />
        }
      </div>
      <nock-item-lines [(lines)]="lines" />
      <p class="fault" role="alert">{{ fault() }}</p>
      <button mat-flat-button type="submit" [disabled]="busy()">{{ paper.act }} <kbd>Ctrl Enter</kbd></button>
    </form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewPaper {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly places = inject(Places);
  readonly paper = input.required<NewPaperKind>();
  /** An item that was looked at before. */
  readonly item = input<string>();
  protected readonly spec = computed((): NewPaperSpec => NEW_PAPERS[this.paper()]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly codes = signal<readonly string[]>([]);
  private readonly start = computed((): readonly ItemLine[] => [{ item: this.item() ?? '', quantity: '' }]);
  protected readonly lines = linkedSignal(() => this.start());

  constructor() {
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'create the document', run: () => this.make() }]);
  }

  protected choose(at: number, code: string): void {
    this.codes.update((codes) => this.spec().head.map((_, other) => (other === at ? code : (codes[other] ?? ''))));
  }

  protected make(): void {
    if (this.busy()) return;
    const [codes, lines] = [this.codes(), filledLines(this.lines())];
    const missing = this.spec().missing(codes, lines);
    if (missing !== null) return this.fault.set(missing);
    this.busy.set(true);
    this.fault.set('');
    this.spec()
      .make(this.api, codes, lines)
      .subscribe({
        next: (path) => void this.router.navigate([...path]),
        error: (error: Error) => {
          this.busy.set(false);
          this.fault.set(error.message);
        },
      });
  }
}
