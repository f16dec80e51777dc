import { ChangeDetectionStrategy, Component, computed, effect, input, linkedSignal, output, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import type { Observable } from 'rxjs';
import type { FieldFault } from '@nockwright/contract/shape';
import { bodyFaults, ProblemError } from '../../api';
import { GlossForm } from '../gloss-form';
import type { RecordSpec } from './record';
import { faultsInWords, read, written, type RecordField } from './record-field';

interface Wrong {
  readonly field: RecordField;
  readonly message: string;
  readonly typed: string | boolean;
}

/**
 * A form in the gloss whose fields come from a body of the contract: what is typed is read, checked by the contract as it is
 * sent, and what is wrong is said at the field and in one message. Whoever uses it says how it is sent.
 */
@Component({
  selector: 'nock-record-form',
  imports: [ReactiveFormsModule, MatButton, MatCheckbox, MatFormField, MatInput, MatSelect, MatOption, GlossForm],
  templateUrl: './record-form.html',
  styleUrl: './record-form.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RecordForm<Reply> {
  readonly record = input.required<RecordSpec<Reply>>();
  readonly saved = output<Reply>();
  readonly closed = output<void>();

  private readonly about = computed(() => `${this.record().name} ${this.record().subject ?? ''}`);
  protected readonly fault = linkedSignal({ source: this.about, computation: () => '' });
  protected readonly faults = linkedSignal<string, ReadonlyMap<string, string>>({ source: this.about, computation: () => new Map() });
  protected readonly busy = linkedSignal({ source: this.about, computation: () => false });
  /** What it was opened on. What is typed stays, whatever comes after that: choices that are fetched make its fields anew. */
  private readonly opened = computed(() => {
    this.about();
    const { value, version = 0 } = untracked(this.record);
    return { value, version, made: new Map<string, FormControl<string | boolean>>() };
  });
  private readonly controls = computed(() => {
    const opened = this.opened();
    return new Map(this.record().fields.map((field) => [field.name, controlOf(field, opened)]));
  });
  /** Flags that are set: fields that belong to others are not shown. */
  private readonly flags = signal<ReadonlySet<string>>(new Set());
  protected readonly shown = computed(() => this.record().fields.filter(({ under }) => under === undefined || this.flags().has(under)));

  constructor() {
    effect(() => {
      this.controls();
      untracked(() => this.readFlags());
    });
  }

  protected control(name: string): FormControl<string | boolean> {
    return this.controls().get(name)!;
  }

  protected readFlags(): void {
    this.flags.set(new Set([...this.controls()].flatMap(([name, control]) => (control.value === true ? [name] : []))));
  }

  protected save(): void {
    if (this.busy()) return;
    const body: Record<string, unknown> = {};
    const wrong: Wrong[] = [];
    for (const field of this.record().fields) {
      const typed = this.control(field.name).value;
      const reading = read(field, typed);
      if ('fault' in reading) wrong.push({ field, message: reading.fault, typed });
      else body[field.name] = reading.value;
    }
    const known = new Set(wrong.map(({ field }) => field.name));
    wrong.push(...this.named(bodyFaults(this.record().route, body)).filter(({ field }) => !known.has(field.name)));
    this.tell(wrong);
    if (wrong.length > 0) return;
    this.run(this.record().send(body, this.opened().version));
  }

  protected remove(): void {
    if (!this.busy()) this.run(this.record().remove!.send());
  }

  private run(sent: Observable<Reply>): void {
    const about = this.about();
    this.busy.set(true);
    sent.subscribe({
      next: (reply) => {
        this.busy.set(false);
        this.saved.emit(reply);
      },
      error: (error: Error) => {
        // Another form stands there by now: what was refused is not of it.
        if (about !== this.about()) return;
        this.busy.set(false);
        const faults = error instanceof ProblemError ? error.errors : [];
        const named = this.named(faults);
        this.tell(named);
        // What is wrong beside the fields is said as the server says it.
        if (named.length === 0 || named.length < faults.length) this.fault.set(error.message);
      },
    });
  }

  /** Faults of the form’s own fields, each once. */
  private named(faults: readonly FieldFault[]): Wrong[] {
    const found = new Map<string, Wrong>();
    for (const { field: path, message } of faults) {
      const [name] = path.replace(/^body\./, '').split(/[.[]/);
      const field = this.record().fields.find((one) => one.name === name);
      if (field && !found.has(field.name)) found.set(field.name, { field, message, typed: this.control(field.name).value });
    }
    return [...found.values()];
  }

  private tell(wrong: readonly Wrong[]) {
    this.faults.set(new Map(wrong.map((one) => [one.field.name, faultsInWords([{ ...one, field: { ...one.field, called: '' } }]).slice(2)])));
    this.fault.set(faultsInWords(wrong));
  }
}

function controlOf(
  field: RecordField,
  { value, made }: { readonly value: Readonly<Record<string, unknown>>; readonly made: Map<string, FormControl<string | boolean>> },
): FormControl<string | boolean> {
  const control = made.get(field.name) ?? new FormControl(written(field, value[field.name]), { nonNullable: true });
  made.set(field.name, control);
  return control;
}
