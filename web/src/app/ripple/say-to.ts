import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Mover } from '@nockwright/contract/promise';

/** Whom to ring about a promise that moves, and what to say. */
@Component({
  selector: 'nock-say-to',
  template: `
    @let row = mover();
    @if (row.told || row.from === null) {
      <p class="small">
        Say to <b>{{ row.own ? 'the customer of this order' : row.customer }}</b>{{ row.own ? '' : ', ' + row.phone }}:
      </p>
      <q>{{ row.say }}</q>
    } @else {
      <p class="small quiet">{{ row.own ? 'The customer of this order' : row.customer }} was told no day yet: nothing to say.</p>
    }
  `,
  styles: `
    p {
      margin: 8px 0;
    }
    q {
      display: block;
      margin-top: 3px;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SayTo {
  readonly mover = input.required<Mover>();
}
