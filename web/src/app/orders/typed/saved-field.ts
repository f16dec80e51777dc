import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, output, untracked, viewChild, type ElementRef } from '@angular/core';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { OrderStore } from '../order-store';
import { Unsaved } from './unsaved';

/**
 * A text of an order that is saved when the field is left. What is typed stays, whatever others save or release meanwhile:
 * the field shows what is on the server only while nothing is typed in it.
 */
@Component({
  selector: 'nock-saved-field',
  imports: [MatFormField, MatInput],
  template: `
    <mat-form-field>
      <input
        matInput
        #input
        autocomplete="off"
        [id]="fieldId()"
        [class.code]="code()"
        [attr.maxlength]="most()"
        [value]="text()"
        (input)="type(input.value)"
        (change)="save()"
        (keydown)="handle($event)"
      />
    </mat-form-field>
  `,
  styles: `
    :host {
      display: block;
    }
    mat-form-field {
      width: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SavedField {
  private readonly unsaved = inject(Unsaved);
  private readonly store = inject(OrderStore);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('input');

  readonly fieldId = input.required<string>();
  /** Under which name its text is kept, and what it is called. */
  readonly name = input.required<string>();
  readonly label = input.required<string>();
  /** What is on the server. */
  readonly value = input.required<string>();
  readonly most = input(500);
  readonly code = input(false);
  /** A text to save, and the one that stood there when it was begun. */
  readonly saved = output<{ readonly text: string; readonly before: string }>();

  /** What was sent last. */
  private sent: string | null = null;
  private readonly typed = computed(() => this.unsaved.textOf(this.name()));
  protected readonly text = computed(() => this.typed() ?? this.value());

  constructor() {
    // What is typed and is now on the server, by this or another way, is saved.
    effect(() => {
      const [value, typed] = [this.value(), this.typed()];
      untracked(() => typed !== null && typed.trim() === value && this.forget());
    });
    inject(DestroyRef).onDestroy(this.unsaved.onFlush(() => this.save()));
  }

  focus(): void {
    this.field().nativeElement.focus();
  }

  protected type(text: string): void {
    this.unsaved.set(this.name(), this.label(), text, this.value());
  }

  protected save(): void {
    const typed = this.typed();
    if (typed === null) return;
    if (typed.trim() === this.value()) return this.forget();
    // It was said already that somebody else has another: the person decides.
    if (this.store.collisions().some((one) => one.key === this.name() && one.mine === typed.trim())) return;
    // Enter and leaving the field are one wish: what is on its way already is not sent again, and changes nothing under others.
    if (this.sent === typed.trim() && this.store.busy()) return;
    this.sent = typed.trim();
    this.saved.emit({ text: typed.trim(), before: this.unsaved.texts()[this.name()]!.before });
  }

  protected handle(event: KeyboardEvent): void {
    if (event.key === 'Enter' && !event.ctrlKey) this.save();
    else if (event.key === 'Escape' && this.typed() !== null) {
      this.forget();
      event.preventDefault();
      event.stopPropagation();
    }
  }

  private forget() {
    this.unsaved.set(this.name(), this.label(), null);
    this.field().nativeElement.value = this.value();
  }
}
