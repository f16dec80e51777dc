import { ChangeDetectionStrategy, Component } from '@angular/core';

/**
 * A screen: the sheet with its ruled lines, the gloss at its right that explains what has the focus, and the bar of
 * acts below. Content goes to the slots `[sheet]`, `[gloss]` and `[acts]`.
 */
@Component({
  selector: 'nock-sheet',
  template: `
    <section class="sheet">
      <div class="page"><ng-content select="[sheet]" /></div>
      <footer><ng-content select="[acts]" /></footer>
    </section>
    <aside aria-label="Gloss: why"><ng-content select="[gloss]" /></aside>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) clamp(260px, 23vw, 340px);
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
export class Sheet {}
