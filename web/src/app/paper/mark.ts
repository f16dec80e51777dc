import { ChangeDetectionStrategy, Component } from '@angular/core';

/** The notch on a ruler: a date is a notch cut in a line. */
@Component({
  selector: 'nock-mark',
  template: `<svg viewBox="0 0 32 16" aria-hidden="true">
    <path d="M0 3h9l7 11 7-11h9" />
    <path class="tick" d="M3 3v4M28.500 3v4" />
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
    }
    svg {
      width: 30px;
      height: 15px;
      fill: none;
      stroke: var(--act);
      stroke-width: 2.6;
    }
    .tick {
      stroke-width: 1.6;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Mark {}
