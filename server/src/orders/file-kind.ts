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

/** The media type of a file by its content; null where it is none that is taken. Text without any mark-up a browser would run is plain text. */
export async function mediaOf(content: Buffer): Promise<string | null> {
  const found = await fileTypeFromBuffer(content);
  if (found) return TAKEN.has(found.mime) ? found.mime : null;
  const isText = isUtf8(content) && !content.includes(0);
  return isText && !/^\s*<(?:!doctype|html|script|svg|\?xml)/i.test(content.toString('utf8', 0, 1024)) && content.toString('latin1', 0, 2) !== '#!'
    ? 'text/plain; charset=utf-8'
    : null;
}
