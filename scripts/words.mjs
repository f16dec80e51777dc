// Prints every text on screens, papers, mails and messages, with where it stands: to be read from end to end against docs/words.md.
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readTexts } from './lib/texts.mjs';

const texts = await readTexts(dirname(dirname(fileURLToPath(import.meta.url))));
for (const [text, files] of [...texts].sort(([a], [b]) => a.localeCompare(b))) console.log(`${text}\t${files.join(', ')}`);
