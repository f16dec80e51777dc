import { ApplicationRef, DestroyRef, inject, Injectable, signal } from '@angular/core';

/** A key of a screen and what it does. `Ctrl+Enter` works everywhere, single letters only outside of fields. */
export interface Key {
  /** `Ctrl+Enter`, `R`, `Escape`, `ArrowDown`. */
  readonly key: string;
  readonly does: string;
  /** Gives false where the key means nothing now, so that the browser keeps it. */
  readonly run: () => boolean | void;
}

/** The keys of what is on screen: listens for them and can list them. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly app = inject(ApplicationRef);
  private readonly sets = signal<readonly (readonly Key[])[]>([]);
  readonly listed = signal(false);

  constructor() {
    const here = new AbortController();
    inject(DestroyRef).onDestroy(() => here.abort());
    document.addEventListener('keydown', (event) => this.handle(event), { signal: here.signal });
    // Ctrl with a key is the screen's before it is a field's: a closed list would open on Ctrl+Enter.
    document.addEventListener('keydown', (event) => event.ctrlKey && this.handle(event), { capture: true, signal: here.signal });
  }

  /** Adds keys until the component that adds them is gone. Call while it is being made. */
  use(keys: readonly Key[]): void {
    this.sets.update((sets) => [...sets, keys]);
    inject(DestroyRef).onDestroy(() => this.sets.update((sets) => sets.filter((set) => set !== keys)));
  }

  all(): readonly Key[] {
    return this.sets().flat();
  }

  private handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.altKey || event.metaKey) return;
    const name = `${event.ctrlKey ? 'Ctrl+' : ''}${event.key.length === 1 ? event.key.toUpperCase() : event.key}`;
    if (!event.ctrlKey && name !== 'Escape' && isTyping(event.target)) return;
    // A component that was made in this very frame has no inputs yet.
    if (this.all().some((key) => key.key === name)) this.app.tick();
    // What was added last is on top.
    for (const key of [...this.all()].reverse()) {
      if (key.key !== name || key.run() === false) continue;
      event.preventDefault();
      if (event.ctrlKey) event.stopPropagation();
      // The next key may come before the next frame: it must find what this one opened or closed.
      this.app.tick();
      return;
    }
    // Escape leaves a field, where it means nothing else: then single letters are keys again.
    if (name === 'Escape' && isTyping(event.target)) (event.target as HTMLElement).blur();
  }
}

function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT', 'MAT-SELECT'].includes(target.tagName));
}
