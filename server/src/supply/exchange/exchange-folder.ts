import type { SupplierCode } from '@nockwright/core/ids';
import { lstat, mkdir, readdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { CommandContext, Services } from '../../http/context';
import { Refusal } from '../../http/refusal';
import { keepRefused, NOBODY, readMessageTask, takeAnswer, type AnswerFile } from './take-answer';

const LARGEST = 1_000_000;
/** A file that cannot be read may still be being written: it is refused once it has been left alone for so long. */
const SETTLED_MS = 5_000;
/** Somebody else changed the same order, or the database gave one of two up: tried again, but not for ever. */
const MOST_TRIES = 20;

/** The folders of a supplier: orders to fetch, answers to put, and what became of them. */
export const FOLDERS = ['out', 'in', 'done', 'refused'] as const;

/** Where a supplier's files lie: a code may hold signs that a folder's name may not. */
export function supplierFolder(root: string, supplier: SupplierCode): string {
  return join(root, encodeURIComponent(supplier));
}

/** Writes a file so that nobody ever sees a part of it. */
export async function writeWhole(folder: string, name: string, content: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const temporary = join(folder, `.${name}.writing`);
  await writeFile(temporary, content);
  await rename(temporary, join(folder, name));
}

/** Does something for each; what fails of one does not stop the others, and is told when all had their turn. */
export async function each<T>(all: readonly T[], act: (one: T) => Promise<void>): Promise<void> {
  const failed: unknown[] = [];
  for (const one of all) await act(one).catch((error: unknown) => failed.push(error));
  if (failed.length > 0) throw failed[0];
}

/** The exchange with suppliers through files: writes what waits to be sent, and acts on what they put. */
export class ExchangeFolder {
  private readonly tries = new Map<string, number>();

  constructor(
    private readonly services: Pick<Services, 'db' | 'clock' | 'log' | 'jobs' | 'publicUrl' | 'work'>,
    readonly root: string,
  ) {}

  /** One round. What fails for a reason outside of the files is logged and left for the next. */
  async round(): Promise<void> {
    await this.writeOut();
    const suppliers = await this.services.db.selectFrom('supplier').select('code').where('exchanges', '=', true).orderBy('code').execute();
    await each(
      suppliers.map(({ code }) => code),
      (code) => this.takeIn(code),
    );
  }

  private async writeOut(): Promise<void> {
    const { db } = this.services;
    for (;;) {
      const wrote = await db.transaction().execute(async (trx) => {
        const message = await trx
          .selectFrom('exchange_message')
          .select(['id', 'supplier', 'file', 'content'])
          .where('state', '=', 'waiting')
          .orderBy('id')
          .limit(1)
          .forNoKeyUpdate()
          .skipLocked()
          .executeTakeFirst();
        if (!message) return false;
        await writeWhole(join(supplierFolder(this.root, message.supplier), 'out'), message.file, message.content);
        await trx.updateTable('exchange_message').set({ state: 'written' }).where('id', '=', message.id).execute();
        return true;
      });
      if (!wrote) return;
    }
  }

  private async takeIn(supplier: SupplierCode): Promise<void> {
    const folder = supplierFolder(this.root, supplier);
    for (const name of FOLDERS) await mkdir(join(folder, name), { recursive: true });
    const names = (await readdir(join(folder, 'in'))).filter((name) => /\.xml$/i.test(name) && !name.startsWith('.')).sort();
    for (const name of names) await this.takeFile(supplier, folder, name);
  }

  private async takeFile(supplier: SupplierCode, folder: string, name: string): Promise<void> {
    const path = join(folder, 'in', name);
    const stat = await lstat(path).catch(() => null);
    // A link could lead anywhere: only files are read.
    if (!stat?.isFile()) return;
    if (stat.size > LARGEST) return this.refuse({ supplier, name, content: '' }, folder, [`the file has ${stat.size} bytes, more than ${LARGEST}`]);
    const content = await readFile(path, 'utf8');
    const file = { supplier, name, content, read: await this.services.work.run(readMessageTask, content, NOBODY.id) };
    try {
      await this.inTransaction((context) => takeAnswer(context, file));
    } catch (error) {
      if (!(error instanceof Refusal)) return this.again(path, error, () => this.refuse(file, folder, ['it could not be acted on; the server’s log says why']));
      if (error.kind === 'conflict' || error.kind === 'changed') return this.again(path, error, () => this.refuse(file, folder, [error.message]));
      if (Date.now() - stat.mtimeMs < SETTLED_MS && error.errors.some(({ field }) => field === 'file')) return;
      return this.refuse(
        file,
        folder,
        error.errors.length > 0 && error.errors[0]!.field === 'file' ? error.errors.map(({ message }) => message) : [error.message],
      );
    }
    this.tries.delete(path);
    await this.move(path, join(folder, 'done'), name);
  }

  private async again(path: string, error: unknown, giveUp: () => Promise<void>): Promise<void> {
    const tries = (this.tries.get(path) ?? 0) + 1;
    this.services.log.warn({ error, path, tries }, 'a file of the exchange could not be acted on');
    if (tries < MOST_TRIES) this.tries.set(path, tries);
    else {
      this.tries.delete(path);
      await giveUp();
    }
  }

  /** Kept before it is moved: a server that is killed in between finds the file again, and refuses it once more. */
  private async refuse(file: AnswerFile, folder: string, faults: readonly string[]): Promise<void> {
    await this.inTransaction((context) => keepRefused(context, file, faults));
    await this.move(join(folder, 'in', file.name), join(folder, 'refused'), file.name);
    await writeWhole(join(folder, 'refused'), `${file.name}.txt`, `${faults.join('\n')}\n`);
  }

  private async move(from: string, folder: string, name: string): Promise<void> {
    const taken = await lstat(join(folder, name)).then(
      () => true,
      () => false,
    );
    // Another server may have moved it already.
    await rename(from, join(folder, taken ? `${Date.now()}-${name}` : name)).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'ENOENT') throw error;
    });
  }

  private async inTransaction(run: (context: CommandContext) => Promise<void>): Promise<void> {
    const { db, clock, jobs, publicUrl } = this.services;
    const later: (() => void)[] = [];
    await db.transaction().execute((trx) => run({ trx, user: NOBODY, now: clock(), jobs, publicUrl, afterCommit: (act) => later.push(act) }));
    for (const act of later) act();
  }
}

/** Calls `round` again and again, each time when the last has ended; gives what stops it. A round that fails is logged. */
export function keepGoing(round: () => Promise<void>, log: Services['log'], everyMs = 1_000, what = 'exchange with suppliers'): () => Promise<void> {
  let stopped = false;
  let timer: NodeJS.Timeout | undefined;
  let running = Promise.resolve();
  const next = () => {
    timer = setTimeout(() => {
      running = round()
        .catch((error: unknown) => log.error({ error }, what))
        .then(() => {
          if (!stopped) next();
        });
    }, everyMs);
  };
  next();
  return async () => {
    stopped = true;
    clearTimeout(timer);
    await running;
  };
}
