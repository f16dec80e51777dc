import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { consignmentRoutes, type ConsignmentView, type ProposalView } from '@nockwright/contract/shipping';
import { catchError, EMPTY, finalize, ReplaySubject, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';

/** The consignment on the bench. */
@Injectable()
export class ConsignmentStore {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly opened = new ReplaySubject<number>(1);
  private readonly again = new Subject<void>();
  readonly view = signal<ConsignmentView | null>(null);
  readonly proposal = signal<ProposalView | null>(null);
  readonly fault = signal('');
  readonly busy = signal(false);

  constructor() {
    this.opened
      .pipe(
        switchMap((id) =>
          this.live.kept(
            () =>
              this.api
                .call(consignmentRoutes.readConsignment, { params: { consignment: id } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `consignment:${id}`,
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((view) => this.show(view));
  }

  open(id: number): void {
    this.view.set(null);
    this.fault.set('');
    this.opened.next(id);
  }

  /** What was answered is shown; what others do comes by itself. */
  show(view: ConsignmentView): void {
    const known = this.view();
    // An answer that was overtaken by a newer one is old.
    if (known && known.id === view.id && known.version > view.version) return;
    this.view.set(view);
    this.propose(view);
  }

  /** Does an act; one at a time. `done` is told of its answer. */
  run<T>(act: (view: ConsignmentView) => Observable<T>, done: (answer: T) => void): void {
    const view = this.view();
    if (!view || this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    act(view)
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: done,
        error: (error: Error) => {
          this.fault.set(error.message);
          this.again.next();
        },
      });
  }

  /** Does an act that answers with the consignment. */
  change(act: (view: ConsignmentView) => Observable<ConsignmentView>, done: (view: ConsignmentView) => void = () => undefined): void {
    this.run(act, (view) => {
      this.show(view);
      done(view);
    });
  }

  private propose(view: ConsignmentView): void {
    if (view.state !== 'picking') return this.proposal.set(null);
    this.api
      .call(consignmentRoutes.readProposal, { params: { consignment: view.id } })
      .pipe(catchError(() => EMPTY))
      .subscribe((proposal) => this.proposal.set(proposal));
  }
}
