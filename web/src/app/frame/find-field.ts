import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, inject, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocomplete, MatAutocompleteTrigger, MatOption } from '@angular/material/autocomplete';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router } from '@angular/router';
import { exchangeRoutes, type Finding } from '@nockwright/contract/exchange';
import { catchError, map, of } from 'rxjs';
import { Api } from '../api';
import { foundAsTyped, Keys } from '../paper';

/** One field that finds any order, purchase, item, customer, supplier or serial number. */
@Component({
  selector: 'nock-find',
  imports: [ReactiveFormsModule, MatFormField, MatInput, MatAutocomplete, MatAutocompleteTrigger, MatOption],
  template: `
    <mat-form-field>
      <input
        matInput
        #field
        type="search"
        (keydown.enter)="wait()"
        [formControl]="text"
        [matAutocomplete]="found"
        placeholder="Find anything   /"
        aria-label="Find any order, purchase, item, customer, supplier or serial number"
      />
      <mat-autocomplete #found="matAutocomplete" autoActiveFirstOption panelWidth="380px" (optionSelected)="go($event.option.value)" [displayWith]="nothing">
        @for (finding of findings(); track finding.kind + finding.key) {
          <mat-option [value]="finding">
            <b>{{ finding.label }}</b>&ngsp;<span class="quiet small">{{ finding.hint }}</span>
          </mat-option>
        }
      </mat-autocomplete>
    </mat-form-field>
  `,
  styles: `
    :host {
      width: 190px;
      overflow: hidden;
    }
    mat-form-field {
      width: 100%;
      min-width: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindField {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  protected readonly text = new FormControl('', { nonNullable: true });
  private readonly typed = toSignal(this.text.valueChanges.pipe(map((q) => (typeof q === 'string' ? q.trim() : ''))), { initialValue: '' });
  private readonly looked = foundAsTyped<Finding>(this.typed, (q) =>
    q ? this.api.call(exchangeRoutes.find, { query: { q } }).pipe(catchError(() => of([]))) : of([]),
  );
  protected readonly findings = this.looked.rows;

  constructor() {
    inject(Keys).use([{ key: '/', does: 'find anything', run: () => this.field().nativeElement.focus() }]);
  }

  /** Enter before anything is found waits for what is found first. */
  protected wait(): void {
    if (this.looked.searching()) this.looked.whenFound(([first]) => first && this.go(first));
  }

  protected go({ kind, id, key }: Finding): void {
    this.text.setValue('');
    // The screen's keys work only outside of fields.
    setTimeout(() => this.field().nativeElement.blur());
    const address = {
      order: ['/orders', id],
      purchase: ['/supply', id],
      item: ['/items', key],
      customer: ['/customers', id],
      supplier: ['/supply/suppliers', key],
      serial: ['/items/serials', id],
    }[kind];
    void this.router.navigate(address);
  }

  protected nothing(): string {
    return '';
  }
}
