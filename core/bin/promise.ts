import { readFileSync, writeSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { compileBook, promiseColumns, readOrderBook, resultPieces, type BookColumns, type PromiseMode } from '../src/promise';

const USAGE = 'usage: npm run --silent promise -- [--mode keep|resequence] FILE';
/** The answer is written in pieces of about so many characters: a large one never stands in memory as a whole. */
const PIECE = 1 << 16;

/** Runs the command; gives the exit status: 0 done, 1 called wrongly, 2 a faulty book. */
function main(words: string[]): number {
  const { mode, file } = readWords(words);
  if (!file || (mode !== 'keep' && mode !== 'resequence')) return complain(USAGE, 1);
  const read = readColumns(file);
  if ('complaint' in read) return complain(read.complaint, read.status);
  writeAnswer(read.columns, mode);
  return 0;
}

/** The columns of the book in a file. The text and the objects read from it are free again when this returns. */
function readColumns(file: string): { readonly columns: BookColumns } | { readonly complaint: string; readonly status: number } {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch (error) {
    return { complaint: `${file}: cannot be read: ${(error as Error).message}`, status: 1 };
  }
  const read = readOrderBook(text);
  if (!read.ok) return { complaint: read.faults.map(({ path, message }) => `${path}: ${message}`).join('\n'), status: 2 };
  return { columns: compileBook(read.book) };
}

function writeAnswer(columns: BookColumns, mode: PromiseMode) {
  let piece = '';
  for (const part of resultPieces(promiseColumns(columns, mode))) {
    piece += part;
    if (piece.length < PIECE) continue;
    writeOut(piece);
    piece = '';
  }
  writeOut(piece);
}

/** Writes all of it before it returns, also where the reader at the other end of a pipe is slow. */
function writeOut(text: string) {
  let rest = Buffer.from(text, 'utf8');
  while (rest.length > 0) {
    try {
      rest = rest.subarray(writeSync(process.stdout.fd, rest));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'EPIPE') process.exit(0);
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
    }
  }
}

function readWords(words: string[]): { mode?: string; file?: string } {
  try {
    const { values, positionals } = parseArgs({ args: words, allowPositionals: true, options: { mode: { type: 'string', default: 'keep' } } });
    return positionals.length === 1 ? { mode: values.mode, file: positionals[0] } : {};
  } catch {
    return {};
  }
}

function complain(message: string, status: number): number {
  process.stderr.write(`${message}\n`);
  return status;
}

process.exitCode = main(process.argv.slice(2));
