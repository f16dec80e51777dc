import { ChangeDetectionStrategy, Component, computed, inject, input, model, signal } from '@angular/core';
import { MatAutocomplete, MatAutocompleteTrigger, MatOption } from '@angular/material/autocomplete';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { itemRoutes } from '@nockwright/contract/items';
import { catchError, of } from 'rxjs';
import { Api } from '../api';
import { foundAsTyped, QuantityField } from '../paper';

/** An item and how many of it, as they are typed. */
export interface ItemLine {
  readonly item: string;
  readonly quantity: string;
}

export const EMPTY_LINE: ItemLine = { item: '', quantity: '' };

/** The lines in which something was typed, as they are sent. */
export function filledLines(lines: readonly ItemLine[]): ItemLine[] {
  return lines.flatMap(({ item, quantity }) =>
    item.trim() === '' && quantity.trim() === '' ? [] : [{ item: item.trim().toUpperCase(), quantity: quantity.trim() }],
  );
}

/** Items and quantities, a row each; an item is found by any fragments of it. */
@Component({
  selector: 'nock-item-lines',
  imports: [MatAutocomplete, MatAutocompleteTrigger, MatOption, MatButton, MatFormField, MatInput, QuantityField],
  template: `
    <table class="ruled" aria-label="Lines">
      <thead>
        <tr>
          <th>Item</th>
          <th class="figure">Quantity, stocking units</th>
        </tr>
      </thead>
      <tbody>
        @for (line of lines(); track $index) {
          <tr>
            <td>
              <mat-form-field
                ><input
                  matInput
                  #field
                  class="code"
                  [value]="line.item"
                  [matAutocomplete]="items"
                  (input)="type($index, { item: field.value })"
                  (focus)="search.set(field.value)"
                  (keydown.enter)="wait($index)"
                  [attr.aria-label]="'Item of line ' + ($index + first())"
                  autocomplete="off"
                  spellcheck="false"
              /></mat-form-field>
              <mat-autocomplete
                #items="matAutocomplete"
                autoActiveFirstOption
                panelWidth="420px"
                (optionSelected)="type($index, { item: $event.option.value })"
              >
                @for (item of found(); track item.code) {
                  <mat-option [value]="item.code"
                    ><b class="code">{{ item.code }}</b> {{ item.description }}</mat-option
                  >
                }
              </mat-autocomplete>
            </td>
            <td>
              <nock-quantity-field
                [label]="'Quantity of line ' + ($index + first())"
                [quantity]="line.quantity"
                (typed)="type($index, { quantity: $event })"
                (keydown.enter)="add($event)"
              />
            </td>
          </tr>
        }
      </tbody>
    </table>
    <button mat-button type="button" (click)="add()">Another line <kbd>Enter</kbd></button>
  `,
  styles: `
    table {
      table-layout: fixed;
      max-width: 620px;
    }
    th:last-child {
      width: 40%;
    }
    mat-form-field,
    nock-quantity-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemLines {
  private readonly api = inject(Api);
  readonly lines = model.required<readonly ItemLine[]>();
  /** The number of the first line. */
  readonly first = input(1);
  protected readonly search = signal('');
  private readonly wanted = computed(() => this.search().trim());
  private readonly looked = foundAsTyped(this.wanted, (search) =>
    search ? this.api.call(itemRoutes.findItems, { query: { search } }).pipe(catchError(() => of([]))) : of([]),
  );
  protected readonly found = this.looked.rows;

  protected type(at: number, typed: Partial<ItemLine>): void {
    if (typed.item !== undefined) this.search.set(typed.item);
    this.lines.update((lines) => lines.map((line, index) => (index === at ? { ...line, ...typed } : line)));
  }

  /** Enter before anything is found waits for what is found first. */
  protected wait(at: number): void {
    if (this.looked.searching()) this.looked.whenFound(([first]) => first && this.type(at, { item: first.code }));
  }

  protected add(event?: Event): void {
    event?.preventDefault();
    this.lines.update((lines) => [...lines, EMPTY_LINE]);
  }
}
