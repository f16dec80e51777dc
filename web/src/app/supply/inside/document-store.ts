import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Happened } from '@nockwright/contract/shape';
import { catchError, EMPTY, forkJoin, ReplaySubject, Subject, switchMap, type Observable } from 'rxjs';
import type { ProblemError } from '../../api';
import { Live } from '../../live';

/** A document of the house on its sheet: read anew when it changes, changed by one command at a time. One for each sheet. */
@Injectable()
export class DocumentStore<D> {
  private readonly live = inject(Live);
  private readonly opened = new ReplaySubject<{
    readonly topic: string;
    readonly read: () => Observable<D>;
    readonly told: () => Observable<readonly Happened[]>;
  }>(1);
  private readonly again = new Subject<void>();
  readonly document = signal<D | null>(null);
  readonly history = signal<readonly Happened[]>([]);
  readonly fault = signal('');
  readonly busy = signal(false);

  constructor() {
    this.opened
      .pipe(
        switchMap(({ topic, read, told }) =>
          this.live.kept(
            () => forkJoin([read(), told()]).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (changed) => changed === topic,
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([document, history]) => {
        this.document.set(document);
        this.history.set(history);
      });
  }

  /** `told`: what happened to it. */
  open(topic: string, read: () => Observable<D>, told: () => Observable<readonly Happened[]>): void {
    this.document.set(null);
    this.fault.set('');
    this.opened.next({ topic, read, told });
  }

  run(command: (document: D) => Observable<D>, done?: () => void): void {
    const document = this.document();
    if (!document || this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command(document).subscribe({
      next: (changed) => {
        this.busy.set(false);
        this.document.set(changed);
        done?.();
      },
      error: (error: ProblemError) => {
        this.busy.set(false);
        this.fault.set(error.message);
        if (error.status === 409) this.again.next();
      },
    });
  }
}
