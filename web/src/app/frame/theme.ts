import { Injectable, signal } from '@angular/core';

const NAMES = ['as the system', 'light', 'dark'] as const;
const KEY = 'nockwright-colours';

/** Light, dark, or as the system has it; remembered in this browser. */
@Injectable({ providedIn: 'root' })
export class Theme {
  readonly name = signal<(typeof NAMES)[number]>(NAMES.find((name) => name === localStorage.getItem(KEY)) ?? NAMES[0]);

  constructor() {
    this.apply();
  }

  next(): void {
    this.name.update((name) => NAMES[(NAMES.indexOf(name) + 1) % NAMES.length]!);
    localStorage.setItem(KEY, this.name());
    this.apply();
  }

  private apply() {
    const name = this.name();
    if (name === 'as the system') delete document.documentElement.dataset['theme'];
    else document.documentElement.dataset['theme'] = name;
  }
}
