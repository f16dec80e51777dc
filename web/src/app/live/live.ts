import { Injectable, signal } from '@angular/core';
import { buffer, filter, merge, startWith, Subject, switchMap, debounceTime, map, type Observable } from 'rxjs';

const QUIET_MS = 60;

/** What others change, as it happens: each change names the topics (`order:12`, `item:JAR-340`) it touches. */
@Injectable({ providedIn: 'root' })
export class Live {
  private readonly changed = new Subject<readonly string[]>();
  private source: EventSource | null = null;
  private wasAway = false;
  /** Whether the server can be heard; what is shown may be old where it cannot. */
  readonly connected = signal(true);

  open(): void {
    if (this.source) return;
    const source = new EventSource('/api/live');
    this.source = source;
    source.addEventListener('open', () => {
      // What happened meanwhile was not heard: everything may have changed.
      if (this.wasAway) this.changed.next(['*']);
      this.wasAway = false;
      this.connected.set(true);
    });
    source.addEventListener('changed', (event) => this.changed.next(JSON.parse(event.data as string) as string[]));
    source.addEventListener('error', () => {
      this.wasAway = true;
      this.connected.set(false);
    });
  }

  /** What is shown may be old: all of it is loaded anew. */
  refresh(): void {
    this.changed.next(['*']);
  }

  close(): void {
    this.source?.close();
    this.source = null;
  }

  /** Emits when something changes that `concerns` says matters; several changes at once are one. */
  changes(concerns: (topic: string) => boolean): Observable<void> {
    return this.changed.pipe(
      filter((topics) => topics.some((topic) => topic === '*' || concerns(topic))),
      debounceTime(QUIET_MS),
      map(() => undefined),
    );
  }

  /** What has changed, several changes at once as one list. */
  topics(): Observable<readonly string[]> {
    return this.changed.pipe(
      buffer(this.changed.pipe(debounceTime(QUIET_MS))),
      map((lists) => [...new Set(lists.flat())]),
    );
  }

  /** Loads now, and again whenever something that matters changes or `again` emits. */
  kept<R>(load: () => Observable<R>, concerns: (topic: string) => boolean, again: Observable<unknown> = new Subject()): Observable<R> {
    return merge(this.changes(concerns), again).pipe(startWith(undefined), switchMap(load));
  }
}
