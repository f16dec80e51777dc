import { ChangeDetectionStrategy, Component, inject, viewChild, type ElementRef } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { AmountPipe, Keys, ListChoice, UnitPipe } from '../../paper';
import { POLICY_CHOICES, type PolicyName } from '../../shortages';
import { OrderStore } from '../order-store';
import { LineOptions } from './line-options';

/** The heads of the options under a line: for how many they are, and how they are ranked. */
@Component({
  selector: 'tr[nock-options-head]',
  imports: [MatFormField, MatInput, AmountPipe, ListChoice, UnitPipe],
  template: `
    @let offers = options.last();
    <th></th>
    <th colspan="2" class="for">
      <div class="row">
        <span>Options for the {{ options.asked() ?? offers.short | amount }} {{ offers.unit | unit: options.asked() ?? offers.short }}</span>
        <label for="part">for only</label>
        <mat-form-field
          ><input
            matInput
            #part
            id="part"
            class="figure"
            inputmode="decimal"
            [value]="options.wanted()"
            (input)="options.wanted.set(part.value.trim())"
            (keydown.enter)="part.blur()"
            placeholder="part"
            autocomplete="off"
        /></mat-form-field>
        <kbd>R</kbd>
      </div>
    </th>
    <th class="figure">Cost each</th>
    <th class="figure">Margin {{ store.order()?.currency }}</th>
    <th class="figure margin">Margin</th>
    <th class="ranked">
      <nock-list-choice what="What is ranked first" [choices]="policies" [chosen]="offers.policy" (choose)="rank($event)" />
      <kbd>O</kbd>
    </th>
    <th class="ships">
      <div class="day"><span>Ships</span></div>
      <div class="small facts"><span>Confid.</span><span>Shipm.</span><span>Consent</span></div>
    </th>
  `,
  styleUrl: './options.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OptionsHead {
  protected readonly options = inject(LineOptions);
  protected readonly store = inject(OrderStore);
  protected readonly policies = POLICY_CHOICES;
  private readonly part = viewChild<ElementRef<HTMLInputElement>>('part');

  constructor() {
    inject(Keys).use([{ key: 'R', does: 'options for only a part: how many', run: () => this.focusPart() }]);
  }

  protected rank(policy: string | null): void {
    this.options.ranked.set((policy ?? 'on_time') as PolicyName);
  }

  private focusPart(): boolean {
    this.part()?.nativeElement.focus();
    return this.part() !== undefined;
  }
}
