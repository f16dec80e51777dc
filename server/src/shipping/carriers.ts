import type { CarrierView } from '@nockwright/contract/shipping';
import { CarrierClient, CarrierFault, type StandInBehaviour } from '../carriers';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Later } from '../http/mount';
import { notFound, Refusal } from '../http/refusal';

const MS = 1000;

/** Carriers, and how their stand-ins behave; one that does not answer is not there. */
export async function listCarriers(db: Db): Promise<Later<CarrierView[]>> {
  const rows = await db.selectFrom('carrier').select(['code', 'name', 'url']).orderBy('code').execute();
  return new Later(() => behaviours(rows));
}

function behaviours(rows: readonly { readonly code: string; readonly name: string; readonly url: string }[]): Promise<CarrierView[]> {
  return Promise.all(
    rows.map(async ({ code, name, url }) => {
      const behaviour = url === '' ? null : await orNothing(new CarrierClient(url).behaviour());
      return viewOf(code, name, behaviour);
    }),
  );
}

function viewOf(code: string, name: string, behaviour: StandInBehaviour | null): CarrierView {
  return {
    code,
    name,
    there: behaviour !== null,
    slow: Math.round((behaviour?.slowMs ?? 0) / MS),
    failures: behaviour?.failures ?? 0,
    refuses: behaviour?.refuses ?? '',
  };
}

async function orNothing<T>(asked: Promise<T>): Promise<T | null> {
  try {
    return await asked;
  } catch (error) {
    if (error instanceof CarrierFault) return null;
    throw error;
  }
}

export async function setCarrier(
  context: CommandContext,
  code: string,
  { slow, failures, refuses }: { readonly slow: number; readonly failures: number; readonly refuses: string },
): Promise<CarrierView> {
  const { name, client } = await clientOf(context, code);
  const behaviour = await asked(client.behave({ slowMs: slow * MS, failures, refuses }));
  await recordEvent(context, { kind: 'carrier.set', facts: { carrier: name }, after: { ...behaviour }, subjects: [{ kind: 'firm', key: 'firm' }] });
  return viewOf(code, name, behaviour);
}

/** Has the stand-in take every parcel one stage on. */
export async function moveParcels(context: CommandContext, code: string): Promise<{ readonly moved: number }> {
  const { client } = await clientOf(context, code);
  return asked(client.moveOn());
}

async function clientOf({ trx }: CommandContext, code: string) {
  const row = await trx.selectFrom('carrier').select(['name', 'url']).where('code', '=', code).executeTakeFirst();
  if (!row) throw notFound(`carrier ${code}`);
  if (row.url === '') throw new Refusal('conflict', `${row.name} has no stand-in here.`);
  return { name: row.name, client: new CarrierClient(row.url) };
}

async function asked<T>(answer: Promise<T>): Promise<T> {
  const found = await orNothing(answer);
  if (found === null) throw new Refusal('conflict', 'The stand-in of this carrier does not answer.');
  return found;
}
