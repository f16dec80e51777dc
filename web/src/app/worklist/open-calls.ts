import { inject, Injectable, signal } from '@angular/core';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { catchError, EMPTY } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';

/** How many customers are still to be told something: stands beside the work area's name. */
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
        () => this.api.call(worklistRoutes.listCalls).pipe(catchError(() => EMPTY)),
        (topic) => topic.startsWith('order:'),
      )
      .subscribe(({ open }) => this.open.set(open));
  }
}
