import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal, untracked, type OnInit } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import type { Observable } from 'rxjs';
import type { AnyRoute, FieldFault } from '@nockwright/contract/shape';
import { bodyFaults, ProblemError } from '../../api';
import { GlossForm } from '../gloss-form';
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
  imports: [ReactiveFormsModule, MatCheckbox, MatFormField, MatInput, MatSelect, MatOption, GlossForm],
  templateUrl: './record-form.html',
  styleUrl: './record-form.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RecordForm<Body extends object, Reply> implements OnInit {
  readonly heading = input.required<string>();
  readonly act = input.required<string>();
  /** Begins the ids of its fields. */
  readonly name = input.required<string>();
  readonly fields = input.required<readonly RecordField<keyof Body & string>[]>();
  /** Whose body it fills: what is typed is checked by it before anything is sent. */
  readonly route = input.required<AnyRoute>();
  /** What stands there as it is opened. */
  readonly value = input.required<Partial<Record<keyof Body & string, unknown>>>();
  /** Of what is changed. The one it is opened on is sent: who changes it meanwhile is not overwritten. */
  readonly version = input(0);
  readonly send = input.required<(body: Body, version: number) => Observable<Reply>>();
  readonly saved = output<Reply>();
  readonly closed = output<void>();

  protected readonly fault = signal('');
  protected readonly faults = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly busy = signal(false);
  /** What was typed stays, whatever comes after the form was opened: choices that are fetched make its fields anew. */
  private readonly made = new Map<string, FormControl<string | boolean>>();
  private readonly controls = computed(() => new Map(this.fields().map((field) => [field.name as string, this.controlOf(field)])));
  /** Flags that are set: fields that belong to others are not shown. */
  private readonly flags = signal<ReadonlySet<string>>(new Set());
  protected readonly shown = computed(() => this.fields().filter(({ under }) => under === undefined || this.flags().has(under)));

  private opened = 0;

  constructor() {
    effect(() => {
      this.controls();
      untracked(() => this.readFlags());
    });
  }

  ngOnInit(): void {
    this.opened = this.version();
  }

  private controlOf(field: RecordField): FormControl<string | boolean> {
    const value = untracked(this.value) as Record<string, unknown>;
    const control = this.made.get(field.name) ?? new FormControl(written(field, value[field.name]), { nonNullable: true });
    this.made.set(field.name, control);
    return control;
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
    for (const field of this.fields()) {
      const typed = this.control(field.name).value;
      const reading = read(field, typed);
      if ('fault' in reading) wrong.push({ field, message: reading.fault, typed });
      else body[field.name] = reading.value;
    }
    const known = new Set(wrong.map(({ field }) => field.name));
    wrong.push(...this.named(bodyFaults(this.route(), body)).filter(({ field }) => !known.has(field.name)));
    this.tell(wrong);
    if (wrong.length > 0) return;
    this.busy.set(true);
    this.send()(body as Body, this.opened).subscribe({
      next: (reply) => {
        this.busy.set(false);
        this.saved.emit(reply);
      },
      error: (error: Error) => {
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
      const field = this.fields().find((one) => one.name === name) as RecordField | undefined;
      if (field && !found.has(field.name)) found.set(field.name, { field, message, typed: this.control(field.name).value });
    }
    return [...found.values()];
  }

  private tell(wrong: readonly Wrong[]) {
    this.faults.set(new Map(wrong.map((one) => [one.field.name, faultsInWords([{ ...one, field: { ...one.field, called: '' } }]).slice(2)])));
    this.fault.set(faultsInWords(wrong));
  }
}
