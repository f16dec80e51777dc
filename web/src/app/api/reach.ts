import { HttpClient } from '@angular/common/http';
import { inject, Injectable, signal } from '@angular/core';
import { catchError, EMPTY, exhaustMap, Subject, takeUntil, timer } from 'rxjs';

const ASK_MS = 1_500;

/** Whether the desk can be reached: server and database. While it cannot, it is asked now and then until it can. */
@Injectable({ providedIn: 'root' })
export class Reach {
  private readonly http = inject(HttpClient);
  private readonly is = signal(true);
  readonly reached = this.is.asReadonly();
  private readonly returned = new Subject<void>();
  /** It can be reached again: what is shown may be old. */
  readonly back = this.returned.asObservable();

  /** A request came to nothing. */
  lost(): void {
    if (!this.is()) return;
    this.is.set(false);
    timer(ASK_MS, ASK_MS)
      .pipe(
        exhaustMap(() => this.http.get('/api/ready').pipe(catchError(() => EMPTY))),
        takeUntil(this.returned),
      )
      .subscribe(() => this.answered());
  }

  /** A request was answered by the desk. */
  answered(): void {
    if (this.is()) return;
    this.is.set(true);
    this.returned.next();
  }
}
