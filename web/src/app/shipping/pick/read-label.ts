import type { PartView } from '@nockwright/contract/shipping';
import { readScan } from '@nockwright/core/scans';

/** What was scanned at a bin: the bin itself, the goods that are to be picked, or what is wrong with it. */
export type ReadAtBin = { readonly is: 'bin' } | { readonly is: 'goods' } | { readonly is: 'wrong'; readonly words: string };

/**
 * Reads a scan on the walk without asking the desk, so that a walk goes on where there is no network: bin, item and lot must be those of the
 * part. The desk checks it again.
 */
export function readAtBin(text: string, part: PartView, today: string): ReadAtBin {
  if (part.bin !== '' && text.toUpperCase() === part.bin.toUpperCase()) return { is: 'bin' };
  const read = readScan(text, today);
  if (!read.ok) return { is: 'wrong', words: `This label cannot be read: ${read.fault}.` };
  const { gtin, plain, lot, expires } = read.scan;
  const isItem = gtin === undefined ? plain?.toUpperCase() === part.item.toUpperCase() : part.gtins.includes(gtin);
  if (!isItem) return { is: 'wrong', words: `This is not ${part.item}. Go to bin ${part.bin || 'without a name'}.` };
  if (part.tracksLots && lot === undefined) return { is: 'wrong', words: `${part.item} is kept by lot. Scan the label with lot ${part.lot}.` };
  if (part.tracksLots && lot !== part.lot) return { is: 'wrong', words: `Lot ${lot} is not the one to pick. Take lot ${part.lot}.` };
  if (expires !== undefined && expires < today) return { is: 'wrong', words: `Lot ${lot} has expired. Put it into quarantine.` };
  return { is: 'goods' };
}
