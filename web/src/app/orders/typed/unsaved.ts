import { inject, Injectable, signal } from '@angular/core';
import { Kept } from '../../access';

/** A text that somebody typed into a field of an order and that is not in the order. */
export interface UnsavedText {
  /** What the field is called. */
  readonly label: string;
  readonly text: string;
  /** What stood in the field when typing began. */
  readonly before: string;
}

/**
 * What is typed on the sheet of an order and not in the order yet, by field. It survives a closed tab, and an order that
 * somebody else releases meanwhile: then it is what is not in it.
 */
@Injectable()
export class Unsaved {
  private readonly kept = inject(Kept);
  private readonly all = signal<Readonly<Record<string, UnsavedText>>>({});
  readonly texts = this.all.asReadonly();
  private order: number | null = null;
  private readonly savers = new Set<() => void>();

  open(order: number): void {
    if (this.order === order) return;
    this.order = order;
    const before = Object.entries(this.kept.read<Record<string, UnsavedText>>(this.name()) ?? {});
    // The field of a quantity is gone with the tab: nobody could see what was typed in it.
    this.all.set(Object.fromEntries(before.filter(([field]) => !field.endsWith('.quantity'))));
  }

  /** The text of a field that is not saved; null where there is none. */
  textOf(field: string): string | null {
    return this.all()[field]?.text ?? null;
  }

  /** What is typed into a field now, over what stood there `before`; null where it is saved, or was given up. */
  set(field: string, label: string, text: string | null, before = ''): void {
    if (this.order === null || (text === null && !(field in this.all()))) return;
    const { [field]: known, ...others } = this.all();
    this.all.set(text === null ? others : { ...others, [field]: { label, text, before: known?.before ?? before } });
    this.kept.write(this.name(), Object.keys(this.all()).length > 0 ? this.all() : null);
  }

  forgetAll(): void {
    this.all.set({});
    this.kept.write(this.name(), null);
  }

  /** Has a field saved before the order is released; gives what ends that. */
  onFlush(save: () => void): () => void {
    this.savers.add(save);
    return () => this.savers.delete(save);
  }

  /** Saves what stands in the fields. */
  flush(): void {
    for (const save of this.savers) save();
  }

  private name(): string {
    return `unsaved.${this.order}`;
  }
}
