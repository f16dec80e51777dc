import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { pricingRoutes, type ContractLineWish, type ContractView } from '@nockwright/contract/pricing';
import type { BodyOf, Happened } from '@nockwright/contract/shape';
import { catchError, EMPTY, finalize, forkJoin, of, Subject, switchMap, type Observable } from 'rxjs';
import { Api, type ProblemError } from '../api';
import { Live } from '../live';

/** One contract, kept as it stands on the server. */
@Injectable()
export class ContractStore {
  private readonly api = inject(Api);
  private readonly opened = new Subject<number>();
  private readonly again = new Subject<void>();
  readonly contract = signal<ContractView | null>(null);
  readonly history = signal<readonly Happened[]>([]);
  readonly fault = signal('');
  readonly busy = signal(false);

  constructor() {
    const live = inject(Live);
    this.opened
      .pipe(
        switchMap((id) =>
          live.kept(
            () =>
              forkJoin([
                this.api.call(pricingRoutes.readContract, { params: { contract: id } }),
                this.api.call(pricingRoutes.contractHistory, { params: { contract: id } }).pipe(catchError(() => of([]))),
              ]).pipe(
                catchError((error: Error) => {
                  this.fault.set(error.message);
                  return EMPTY;
                }),
              ),
            (topic) => topic === `contract:${id}`,
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([contract, history]) => {
        this.contract.set(contract);
        this.history.set(history);
      });
  }

  open(id: number): void {
    this.contract.set(null);
    this.opened.next(id);
  }

  change(change: Omit<BodyOf<typeof pricingRoutes.changeContract>, 'version'>, done?: () => void): void {
    this.run(({ id, version }) => this.api.call(pricingRoutes.changeContract, { params: { contract: id }, body: { version, ...change } }), done);
  }

  write(lines: readonly ContractLineWish[], all: boolean, done: () => void): void {
    this.run(({ id, version }) => this.api.call(pricingRoutes.storeContractLines, { params: { contract: id }, body: { version, lines, all } }), done);
  }

  private run(command: (contract: ContractView) => Observable<ContractView>, done?: () => void) {
    const contract = this.contract();
    if (!contract || this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command(contract)
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (changed) => {
          this.contract.set(changed);
          done?.();
        },
        error: (error: ProblemError) => {
          this.fault.set(rowsOf(error.message));
          if (error.status === 409) this.again.next();
        },
      });
  }
}

/** A fault as the server tells it, with rows counted from 1 as they stand in what was pasted. */
export function rowsOf(message: string): string {
  return message.replace(/body\.(?:lines|prices)\[(\d+)\]\.?/g, (_, at: string) => `row ${Number(at) + 1}, `);
}
