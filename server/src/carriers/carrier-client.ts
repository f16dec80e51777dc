import type Joi from 'joi';
import { ANSWERS, type LabelRequest, type MadeLabel, type Rate, type RateRequest, type StandInBehaviour, type TrackingNews } from './protocol';

/** A carrier answers within this, or counts as away. */
const DEADLINE_MS = 8_000;
const MOST_BYTES = 10_000_000;

/** Why a carrier did not do what was asked. `final`: asking again does not help. */
export class CarrierFault extends Error {
  constructor(
    message: string,
    readonly final: boolean,
  ) {
    super(message);
    this.name = 'CarrierFault';
  }
}

/** Speaks with the service of a carrier. Every call has a deadline; what it answers is checked before it is believed. Throws CarrierFault. */
export class CarrierClient {
  constructor(private readonly url: string) {}

  async rates(request: RateRequest): Promise<readonly Rate[]> {
    return (await this.ask('/rates', ANSWERS.rates, request)).rates;
  }

  label(request: LabelRequest): Promise<MadeLabel> {
    return this.ask('/labels', ANSWERS.label, request);
  }

  /** Voids the label of a request, made or not: it is never made after that. */
  async void(key: string): Promise<void> {
    await this.ask(`/labels/${encodeURIComponent(key)}/void`, ANSWERS.voided, {});
  }

  /** What has happened to parcels since the news that was heard last. */
  news(after: string): Promise<{ readonly news: readonly TrackingNews[]; readonly last: string }> {
    return this.ask(`/news?after=${encodeURIComponent(after)}`, ANSWERS.news);
  }

  /** How a stand-in behaves, and how it is to. */
  behaviour(): Promise<StandInBehaviour> {
    return this.ask('/behaviour', ANSWERS.behaviour);
  }

  behave(behaviour: StandInBehaviour): Promise<StandInBehaviour> {
    return this.ask('/behaviour', ANSWERS.behaviour, behaviour);
  }

  /** Has a stand-in take every parcel one stage on. */
  moveOn(): Promise<{ readonly moved: number }> {
    return this.ask('/move-on', ANSWERS.moved, {});
  }

  private async ask<T>(path: string, shape: Joi.ObjectSchema<T>, body?: object): Promise<T> {
    const reply = await this.send(path, body);
    const text = await reply.text().catch(() => '');
    if (text.length > MOST_BYTES) throw new CarrierFault('the carrier answers more than can be read', false);
    const answer = parse(text);
    if (!reply.ok)
      throw new CarrierFault(faultOf(answer, reply.status), reply.status >= 400 && reply.status < 500 && reply.status !== 408 && reply.status !== 429);
    const { error, value } = shape.validate(answer, { convert: false, allowUnknown: true });
    if (error) throw new CarrierFault('the carrier answers what cannot be read', false);
    return value;
  }

  private async send(path: string, body: object | undefined): Promise<Response> {
    try {
      return await fetch(`${this.url}${path}`, {
        method: body ? 'POST' : 'GET',
        ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
        signal: AbortSignal.timeout(DEADLINE_MS),
        redirect: 'error',
      });
    } catch (error) {
      throw new CarrierFault((error as Error).name === 'TimeoutError' ? 'the carrier does not answer in time' : 'the carrier cannot be reached', false);
    }
  }
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}

function faultOf(answer: unknown, status: number): string {
  const fault = (answer as { fault?: unknown } | null)?.fault;
  return typeof fault === 'string' && fault !== '' ? fault.slice(0, 300) : `the carrier answers with status ${status}`;
}
