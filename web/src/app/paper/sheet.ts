import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { Compared } from './compared';

/**
 * A screen: the sheet with its ruled lines, the gloss at its right that explains what has the focus, and the bar of
 * acts below. What a form in the gloss wants compared stands below the lines. Content goes to the slots `[sheet]`, `[gloss]`
 * and `[acts]`; what stands in `[beside]` is seen only where there is room for it.
 */
@Component({
  selector: 'nock-sheet',
  imports: [NgTemplateOutlet],
  template: `
    <section class="sheet">
      <div class="page"><ng-content select="[sheet]" /></div>
      @if (compared.shown().length > 0) {
        <div class="compared">
          @for (rows of compared.shown(); track rows) {
            <ng-container [ngTemplateOutlet]="rows" />
          }
        </div>
      }
      <footer><ng-content select="[acts]" /></footer>
    </section>
    <aside class="gloss" aria-label="Why, and what to say"><ng-content select="[gloss]" /></aside>
    <div class="beside"><ng-content select="[beside]" /></div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) clamp(260px, 23vw, 400px) auto;
      height: 100%;
      min-height: 0;
    }
    .sheet {
      display: flex;
      flex-direction: column;
      min-height: 0;
      min-width: 0;
    }
    .page {
      flex: 1;
      overflow: auto;
      padding: 16px 16px 16px 20px;
    }
    .compared {
      flex: 0 1 auto;
      max-height: 50%;
      overflow: auto;
      padding: 8px 16px 8px 20px;
      border-top: 1px solid var(--rule);
      background: var(--paper-raised);
    }
    .compared:empty {
      display: none;
    }
    footer {
      display: flex;
      align-items: center;
      gap: 12px;
      padding: 9px 20px;
      border-top: 1px solid var(--rule);
      min-height: 54px;
      flex-wrap: wrap;
    }
    aside {
      background: var(--paper-raised);
      border-left: 1px solid var(--rule);
      padding: 16px 18px;
      overflow: auto;
    }
    /* Where there is room, what happened stands beside why. */
    .beside {
      display: none;
    }
    @media (min-width: 1700px) {
      .beside:not(:empty) {
        display: block;
        width: 280px;
        overflow: auto;
        padding: 16px 18px;
        border-left: 1px solid var(--rule);
        background: var(--paper-raised);
      }
    }
    @media (max-width: 820px) {
      :host {
        display: block;
        height: auto;
      }
      .page {
        overflow: visible;
        padding: 12px;
      }
      aside {
        border-left: 0;
        border-top: 1px solid var(--rule);
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sheet {
  protected readonly compared = inject(Compared);

  constructor() {
    inject(DestroyRef).onDestroy(this.compared.join());
  }
}
