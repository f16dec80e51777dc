import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect } from '@angular/material/select';

/** A word and what it is called on the screen. */
export type Choice<W extends string = string> = readonly [W, string];

/** The word of the address where it is one of the choices, or else the first of them. */
export function wordOf<W extends string>(choices: readonly Choice<W>[], word: string | undefined): W {
  return (choices.find(([name]) => name === word) ?? choices[0]!)[0];
}

/** Which rows a list shows: one of a few words. The first is what stands without a word in the address: it is told as null. */
@Component({
  selector: 'nock-list-choice',
  imports: [MatFormField, MatSelect, MatOption],
  template: `
    <mat-form-field>
      <mat-select [aria-label]="what()" [value]="chosen()" (selectionChange)="choose.emit($event.value === choices()[0]![0] ? null : $event.value)">
        @for (choice of choices(); track choice[0]) {
          <mat-option [value]="choice[0]">{{ choice[1] }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host {
      display: block;
      width: 150px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ListChoice {
  /** What is chosen: `Which contracts`. */
  readonly what = input.required<string>();
  readonly choices = input.required<readonly Choice[]>();
  readonly chosen = input.required<string>();
  readonly choose = output<string | null>();
}
