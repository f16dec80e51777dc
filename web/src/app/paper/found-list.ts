import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, contentChild, Directive, input, output, TemplateRef } from '@angular/core';

/** The field whose text finds what a `FoundList` shows, as those who cannot see it are told. */
@Directive({
  selector: 'input[nockFinds]',
  host: {
    role: 'combobox',
    'aria-autocomplete': 'list',
    autocomplete: 'off',
    spellcheck: 'false',
    '[attr.aria-controls]': 'list()',
    '[attr.aria-expanded]': 'count() > 0',
    '[attr.aria-activedescendant]': "count() > 0 ? list() + '-' + at() : null",
  },
})
export class FindsDirective {
  /** The id of the list. */
  readonly list = input.required<string>({ alias: 'nockFinds' });
  readonly count = input.required<number>();
  readonly at = input.required<number>();
}

/** What was found as somebody types, one of it marked; the keys are the field's. Its template draws a row, what it wraps stands where nothing was found. */
@Component({
  selector: 'nock-found-list',
  imports: [NgTemplateOutlet],
  template: `
    <ul role="listbox" [id]="listId()" [attr.aria-label]="label()">
      @for (row of rows(); track $index) {
        <li
          role="option"
          [id]="listId() + '-' + $index"
          [attr.aria-selected]="$index === at()"
          [class.at]="$index === at()"
          [style.grid-template-columns]="columns()"
          (mouseenter)="over.emit($index)"
          (mousedown)="$event.preventDefault(); picked.emit($index)"
        >
          <ng-container *ngTemplateOutlet="cells(); context: { $implicit: row }" />
        </li>
      } @empty {
        <li class="quiet" role="presentation"><ng-content /></li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li[role='option'] {
      display: grid;
      gap: 12px;
      padding: 5px 10px;
      border-bottom: 1px solid var(--hairline);
      cursor: pointer;
    }
    li.at {
      background: var(--paper-marked);
      box-shadow: inset 3px 0 0 var(--act);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FoundList {
  readonly listId = input.required<string>();
  readonly label = input.required<string>();
  readonly rows = input.required<readonly unknown[]>();
  readonly at = input.required<number>();
  /** The columns of a row, as CSS has them. */
  readonly columns = input.required<string>();
  readonly over = output<number>();
  readonly picked = output<number>();
  protected readonly cells = contentChild.required(TemplateRef);
}
