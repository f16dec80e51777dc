import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { formatResult, promiseBook, readOrderBook } from '../src/promise';

const USAGE = 'usage: npm run --silent promise -- [--mode keep|resequence] FILE';

/** Runs the command; gives the exit status: 0 done, 1 called wrongly, 2 a faulty book. */
function main(words: string[]): number {
  const { mode, file } = readWords(words);
  if (!file || (mode !== 'keep' && mode !== 'resequence')) return complain(USAGE, 1);
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch (error) {
    return complain(`${file}: cannot be read: ${(error as Error).message}`, 1);
  }
  const read = readOrderBook(text);
  if (!read.ok) return complain(read.faults.map(({ path, message }) => `${path}: ${message}`).join('\n'), 2);
  process.stdout.write(formatResult(promiseBook(read.book, mode)));
  return 0;
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
