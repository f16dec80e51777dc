import { isUtf8 } from 'node:buffer';
import { fileTypeFromBuffer } from 'file-type';

/** What may be attached, by what its content says it is. Nothing that a browser or a system would run. */
const TAKEN = new Set([
  'application/pdf',
  'image/png',
  'image/jpeg',
  'image/webp',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'application/vnd.oasis.opendocument.spreadsheet',
  'application/vnd.oasis.opendocument.text',
]);

/** How files of each kind are called; what is saved under another ending might be run by it. */
const ENDINGS: Readonly<Record<string, readonly string[]>> = {
  'application/pdf': ['pdf'],
  'image/png': ['png'],
  'image/jpeg': ['jpg', 'jpeg'],
  'image/webp': ['webp'],
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': ['xlsx'],
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document': ['docx'],
  'application/vnd.oasis.opendocument.spreadsheet': ['ods'],
  'application/vnd.oasis.opendocument.text': ['odt'],
  'text/plain; charset=utf-8': ['txt', 'csv', 'tsv', 'eml', 'log', 'md'],
};

/** What is wrong with the name of a file of this kind, in words; null where it fits. */
export function nameFault(name: string, media: string): string | null {
  const endings = ENDINGS[media] ?? [];
  const ending = name.includes('.') ? name.split('.').at(-1)!.toLowerCase() : '';
  if (endings.includes(ending)) return null;
  return `${name} has the content of ${endings.map((one) => `.${one}`).join(', ')}: give it that ending`;
}

/** What a browser or a system would run, behind a mark of the letters, spaces and comments. */
const RUNS = /^(?:\ufeff|\s|<!--[^]*?-->|<\?[^]*?\?>)*<(?:!doctype|!entity|html|head|body|script|svg|iframe|math)|^(?:\ufeff|\s|<!--[^]*?-->)*<\?xml|^#!/i;
const LOOKED_AT = 65_536;

/** The media type of a file by its content; null where it is none that is taken. Text without any mark-up a browser would run is plain text. */
export async function mediaOf(content: Buffer): Promise<string | null> {
  const found = await fileTypeFromBuffer(content);
  if (found) return TAKEN.has(found.mime) ? found.mime : null;
  const isText = isUtf8(content) && !content.includes(0);
  return isText && !RUNS.test(content.toString('utf8', 0, LOOKED_AT)) ? 'text/plain; charset=utf-8' : null;
}
