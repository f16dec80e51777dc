import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { Hono } from 'hono';
import type { LabelRequest, RateRequest, StandInBehaviour, TrackingNews } from '../carriers';
import { carrierLabelPdf } from './carrier-label';
import { rateOf, TARIFFS, type Tariff } from './carrier-rates';

interface Kept {
  readonly key: string;
  readonly id: string;
  readonly tracking: string;
  readonly cost: string;
  readonly request: LabelRequest;
  readonly madeAt: number;
  voided: boolean;
  /** How many of the stages it has gone through. */
  stage: number;
}

interface State {
  labels: Kept[];
  voidedKeys: string[];
  news: (TrackingNews & { readonly n: number })[];
  next: number;
}

const STAGES = [
  ['picked_up', 'Picked up at the sender'],
  ['in_transit', 'Sorted'],
  ['out_for_delivery', 'Out for delivery'],
  ['delivered', 'Delivered, signed for at the door'],
] as const;

export interface CarrierSettings {
  readonly code: string;
  readonly name: string;
  /** Where it remembers what it has done; null: nowhere. */
  readonly file: string | null;
  readonly clock: () => Date;
  /** Seconds from one stage to the next; 0: only when it is told. */
  readonly seconds: number;
}

/**
 * A carrier that is not there: it asks a rate, makes and voids labels and tells what becomes of parcels, as real ones do. The same request
 * is answered the same, and a label that is picked up is not voided any more.
 */
export class CarrierStandIn {
  readonly app = new Hono();
  behaviour: StandInBehaviour = { slowMs: 0, failures: 0, refuses: '' };
  /** How often it was asked for something that carriers do. */
  requests = 0;
  private readonly state: State;

  constructor(private readonly settings: CarrierSettings) {
    this.state =
      settings.file && existsSync(settings.file)
        ? (JSON.parse(readFileSync(settings.file, 'utf8')) as State)
        : { labels: [], voidedKeys: [], news: [], next: 1 };
    this.app.get('/ready', (c) => c.json({ ready: true }));
    this.app.post('/behaviour', async (c) => {
      this.behaviour = { ...this.behaviour, ...(await c.req.json<Partial<StandInBehaviour>>()) };
      return c.json(this.behaviour);
    });
    this.app.get('/behaviour', (c) => c.json(this.behaviour));
    this.app.post('/pick-up', (c) => c.json({ moved: this.moveOn(0) }));
    this.app.post('/move-on', (c) => c.json({ moved: this.moveOn() }));
    this.app.post('/labels/:tracking/exception', (c) => this.exception(c.req.param('tracking')));
    this.app.get('/track/:tracking', (c) => {
      const row = this.state.labels.find((label) => label.tracking === c.req.param('tracking') && !label.voided);
      if (!row) return c.text(`${settings.name} knows no parcel ${c.req.param('tracking')}.`, 404);
      const news = this.state.news
        .filter((one) => one.label === row.id)
        .map((one) => `${one.at.slice(0, 16).replace('T', ' ')}  ${one.words}${one.place ? `, ${one.place}` : ''}`);
      return c.text([`${settings.name}, parcel ${row.tracking}`, ...(news.length > 0 ? news : ['Announced by the sender.'])].join('\n'));
    });
    this.app.use('*', async (c, next) => {
      this.requests++;
      if (this.behaviour.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, this.behaviour.slowMs));
      if (this.behaviour.failures > 0) {
        this.behaviour = { ...this.behaviour, failures: this.behaviour.failures - 1 };
        return c.json({ fault: `${settings.name} is being repaired` }, 503);
      }
      return next();
    });
    this.app.post('/rates', async (c) => {
      const { services, day, to, parcels } = await c.req.json<RateRequest>();
      const rates = services.flatMap((service) => {
        const tariff = this.tariffOf(service);
        const rate = tariff && rateOf(service, tariff, day, to, parcels);
        return rate && !('fault' in rate) ? [rate] : [];
      });
      return c.json({ rates });
    });
    this.app.post('/labels', async (c) => {
      const answer = await this.label(await c.req.json<LabelRequest>());
      return 'fault' in answer ? c.json(answer, 422) : c.json(answer);
    });
    this.app.post('/labels/:key/void', (c) => {
      const fault = this.void(c.req.param('key'));
      return fault === null ? c.json({ voided: true }) : c.json({ fault }, 409);
    });
    this.app.get('/news', (c) => {
      this.moveOnByTime();
      const after = Number(c.req.query('after') ?? 0) || 0;
      const news = this.state.news.filter((row) => row.n > after).slice(0, 200);
      return c.json({ news: news.map(({ n: _, ...row }) => row), last: String(news.at(-1)?.n ?? after) });
    });
  }

  private tariffOf(service: string): Tariff | undefined {
    return TARIFFS[this.settings.code]?.[service];
  }

  private async label(request: LabelRequest) {
    const known = this.state.labels.find((row) => row.key === request.key);
    if (known) return this.answerOf(known);
    if (this.state.voidedKeys.includes(request.key)) return { fault: 'this request was voided' };
    if (this.behaviour.refuses) return { fault: this.behaviour.refuses };
    const tariff = this.tariffOf(request.service);
    if (!tariff) return { fault: `${this.settings.name} has no service ${request.service}` };
    const rate = rateOf(request.service, tariff, request.day, request.to, request.parcels);
    if ('fault' in rate) return rate;
    const n = this.state.next++;
    const tracking = `${this.settings.code.slice(0, 2)}${String(n * 7919 + 100_000_000).padStart(9, '0')}`;
    const kept: Kept = {
      key: request.key,
      id: `${this.settings.code}-${n}`,
      tracking,
      // Whoever has an account is billed themselves.
      cost: request.account ? '0' : rate.cost,
      request,
      madeAt: this.settings.clock().getTime(),
      voided: false,
      stage: 0,
    };
    this.state.labels.push(kept);
    this.keep();
    return this.answerOf(kept);
  }

  private async answerOf({ id, tracking, cost, request }: Kept) {
    return { id, tracking, cost, pdf: (await carrierLabelPdf(this.settings.name, tracking, request)).toString('base64') };
  }

  private void(key: string): string | null {
    const known = this.state.labels.find((row) => row.key === key);
    if (known && known.stage > 0) return 'it is picked up already';
    if (known) known.voided = true;
    else this.state.voidedKeys.push(key);
    this.keep();
    return null;
  }

  /** Moves parcels to their next stage; with `only` those that have gone through so many. */
  private moveOn(only?: number): number {
    const moved = this.state.labels.filter((row) => !row.voided && row.stage < STAGES.length && (only === undefined || row.stage === only));
    for (const row of moved) {
      const [kind, words] = STAGES[row.stage]!;
      row.stage++;
      this.tell(row, kind, words);
    }
    if (moved.length > 0) this.keep();
    return moved.length;
  }

  private moveOnByTime(): void {
    const { seconds, clock } = this.settings;
    if (seconds === 0) return;
    const now = clock().getTime();
    for (const row of this.state.labels)
      if (!row.voided && row.stage < STAGES.length && now - row.madeAt >= (row.stage + 1) * seconds * 1000) {
        const [kind, words] = STAGES[row.stage]!;
        row.stage++;
        this.tell(row, kind, words);
      }
    this.keep();
  }

  private exception(tracking: string) {
    const row = this.state.labels.find((label) => label.tracking === tracking);
    if (!row) return Response.json({ fault: `there is no label ${tracking}` }, { status: 404 });
    this.tell(row, 'exception', 'Nobody was there to take it');
    this.keep();
    return Response.json({ moved: 1 });
  }

  private tell(row: Kept, kind: TrackingNews['kind'], words: string): void {
    const n = this.state.next++;
    const { town } = { town: row.request.to.address.split(', ').at(-2) ?? '' };
    this.state.news.push({
      n,
      id: `${this.settings.code}-N${n}`,
      label: row.id,
      at: this.settings.clock().toISOString(),
      kind,
      place: kind === 'picked_up' ? '' : town,
      words,
    });
  }

  private keep(): void {
    if (!this.settings.file) return;
    writeFileSync(`${this.settings.file}.new`, JSON.stringify(this.state));
    renameSync(`${this.settings.file}.new`, this.settings.file);
  }
}
