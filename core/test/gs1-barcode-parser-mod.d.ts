/** The reader has no types of its own. */
declare module 'gs1-barcode-parser-mod' {
  export function parseBarcode(text: string): { readonly parsedCodeItems: readonly { readonly ai: string; readonly data: string | number | Date }[] };
}
