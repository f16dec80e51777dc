import { inject, Injectable } from '@angular/core';
import { Session } from './session';

const PREFIX = 'nock.typed';

/**
 * What is typed and not saved yet, kept in this browser under the user's name: it survives a closed tab. Where the browser
 * keeps nothing (a private window, a full disk) typing goes on without it.
 */
@Injectable({ providedIn: 'root' })
export class Kept {
  private readonly session = inject(Session);

  /** What was kept under a name; null where nothing was, or nothing that can be read. */
  read<T>(name: string): T | null {
    try {
      const text = localStorage.getItem(this.key(name));
      return text === null ? null : (JSON.parse(text) as T);
    } catch {
      return null;
    }
  }

  /** Keeps a value; null forgets it. */
  write(name: string, value: unknown): void {
    try {
      if (value === null) localStorage.removeItem(this.key(name));
      else localStorage.setItem(this.key(name), JSON.stringify(value));
    } catch {
      // The browser keeps nothing: what is typed still stands on the page.
    }
  }

  private key(name: string): string {
    return `${PREFIX}.${this.session.user()?.login ?? ''}.${name}`;
  }
}
