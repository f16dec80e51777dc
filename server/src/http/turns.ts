import { Refusal } from './refusal';

interface Waiting {
  readonly user: number;
  readonly start: () => void;
}

/**
 * Who may do something long at the same time: so many of one user, so many in all. The others wait in the sequence they came,
 * and hold neither a connection nor anything else meanwhile; beyond so many waiting of one user it is refused.
 */
export class Turns {
  private readonly running = new Map<number, number>();
  private all = 0;
  private waiting: Waiting[] = [];

  constructor(
    private readonly ofOne: number,
    private readonly ofAll: number,
    private readonly mostWaiting = 10,
  ) {}

  async take<R>(user: number, work: () => Promise<R>): Promise<R> {
    if (!this.mayStart(user)) {
      if (this.waiting.filter((one) => one.user === user).length >= this.mostWaiting)
        throw new Refusal('busy', 'You have many of these under way: wait for some of them.');
      await new Promise<void>((start) => this.waiting.push({ user, start }));
    } else this.count(user, 1);
    try {
      return await work();
    } finally {
      this.count(user, -1);
      this.startNext();
    }
  }

  private mayStart(user: number): boolean {
    return this.all < this.ofAll && (this.running.get(user) ?? 0) < this.ofOne;
  }

  private count(user: number, by: 1 | -1): void {
    this.all += by;
    const mine = (this.running.get(user) ?? 0) + by;
    if (mine === 0) this.running.delete(user);
    else this.running.set(user, mine);
  }

  /** The first of those waiting who may; its turn is counted before anybody else can take it. */
  private startNext(): void {
    const next = this.waiting.find((one) => this.mayStart(one.user));
    if (!next) return;
    this.waiting = this.waiting.filter((one) => one !== next);
    this.count(next.user, 1);
    next.start();
    this.startNext();
  }
}
