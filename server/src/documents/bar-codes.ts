import { elementText } from '@nockwright/core/scans';
import bwip from 'bwip-js/node';

/** A GS1-128 symbol as a picture of lines, so that it prints sharp at any size. Widths in millimetres. */
export function gs1Symbol(elements: readonly (readonly [id: string, value: string])[], height: number, text = false): string {
  return bwip.toSVG({ bcid: 'gs1-128', text: elementText(elements), height, includetext: text, textxalign: 'center', paddingwidth: 0 });
}

/** A Code 128 symbol of a code of ours: a bin, an item, a shipment. */
export function codeSymbol(code: string, height = 8): string {
  return bwip.toSVG({ bcid: 'code128', text: code, height, includetext: false });
}
