import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { DayPipe, TextArea, TextField } from '../../paper';
import type { Typed } from './arrivals';

/** One lot of what came: how many, how many of them unfit, its lot and day where they are kept, and the bin it goes into. */
@Component({
  selector: 'nock-arrival-row',
  imports: [MatButton, DayPipe, TextArea, TextField],
  template: `
    <nock-text-field [fieldId]="id('came')" [figure]="true" [text]="row().quantity" (textChange)="typed.emit(['quantity', $event])"
      >Good quantity</nock-text-field
    >
    <nock-text-field [fieldId]="id('damaged')" [figure]="true" [text]="row().damaged" (textChange)="typed.emit(['damaged', $event])">Damaged</nock-text-field>
    @if (lots()) {
      <nock-text-field [fieldId]="id('lot')" [most]="20" [text]="row().lot" (textChange)="typed.emit(['lot', $event])">Lot</nock-text-field>
    }
    @if (expiry()) {
      <nock-text-field [fieldId]="id('expires')" [text]="row().expires" (textChange)="typed.emit(['expires', $event])"
        >Expires{{ row().expires ? ': ' + (day() ? (day() | day) : 'no day') : '' }}</nock-text-field
      >
    }
    @if (serials()) {
      <nock-text-area class="serials" [fieldId]="id('serials')" [most]="20000" [rows]="3" [text]="row().serials" (textChange)="typed.emit(['serials', $event])"
        >Serial numbers, or a range A-01..A-20</nock-text-area
      >
    }
    <nock-text-field [fieldId]="id('bin')" [most]="40" [text]="row().bin" (textChange)="typed.emit(['bin', $event])">Bin</nock-text-field>
    <button mat-button type="button" (click)="dropped.emit()" [attr.aria-label]="'Remove: ' + name()">Remove</button>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
      gap: 0 10px;
      align-items: end;
      padding: 2px 0 8px;
    }
    .serials {
      grid-column: 1 / -1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrivalRow {
  readonly row = input.required<Typed>();
  /** What came: `FEE-SYR-14`. */
  readonly name = input.required<string>();
  readonly lots = input(false);
  readonly expiry = input(false);
  readonly serials = input(false);
  /** What was typed as the day it expires means. */
  readonly day = input<string | null>(null);
  readonly typed = output<readonly ['quantity' | 'damaged' | 'lot' | 'expires' | 'bin' | 'serials', string]>();
  readonly dropped = output<void>();

  protected id(field: string): string {
    return `${field}-${this.row().key}`;
  }
}
