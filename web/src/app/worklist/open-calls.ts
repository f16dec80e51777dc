import { inject, Injectable, signal } from '@angular/core';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { shortageRoutes } from '@nockwright/contract/shortages';
import { catchError, EMPTY, forkJoin } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';

/** How many customers are still to be told something, or have said something to be acted on: stands beside the work area's name. */
@Injectable({ providedIn: 'root' })
export class OpenCalls {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private following = false;
  readonly open = signal(0);

  follow(): void {
    if (this.following) return;
    this.following = true;
    this.live
      .kept(
        () => forkJoin([this.api.call(worklistRoutes.listCalls), this.api.call(shortageRoutes.listConsents)]).pipe(catchError(() => EMPTY)),
        (topic) => topic.startsWith('order:'),
      )
      .subscribe(([{ open }, questions]) => this.open.set(open + questions.filter((row) => row.needsWork).length));
  }
}
