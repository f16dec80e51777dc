import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

export type CoverState = 'covered' | 'late' | 'uncovered' | 'done';

/** A state by its shape, beside its word: filled notch, half notch, open notch, a level line when all is done. */
@Component({
  selector: 'nock-state',
  template: `
    <svg viewBox="0 0 14 12" aria-hidden="true" [attr.class]="state()">
      @switch (state()) {
        @case ('covered') {
          <path class="full" d="M1 1.500h12L7 11z" />
        }
        @case ('late') {
          <path class="full" d="M1 1.500h6V11z" />
          <path class="line" d="M1 1.500h12L7 11z" />
        }
        @case ('uncovered') {
          <path class="line" d="M1 1.500L7 11 13 1.500" />
        }
        @default {
          <path class="line" d="M1 6h12" />
        }
      }
    </svg>
    <span [class]="state()">{{ word() }}</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: baseline;
      gap: 6px;
    }
    svg {
      width: 13px;
      height: 11px;
      flex: none;
      align-self: center;
    }
    span {
      font-weight: 600;
    }
    .full {
      fill: currentColor;
    }
    .line {
      fill: none;
      stroke: currentColor;
      stroke-width: 1.6;
    }
    .covered {
      color: var(--covered);
    }
    .uncovered {
      color: var(--open);
    }
    .done {
      color: var(--ink-quiet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StateMark {
  readonly state = input.required<CoverState>();
  readonly words = input<string>();
  protected readonly word = computed(() => this.words() ?? { covered: 'covered', late: 'late', uncovered: 'open', done: 'done' }[this.state()]);
}
