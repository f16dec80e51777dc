const KNOWN = new Set(Intl.supportedValuesOf('currency'));

/** Whether three letters are a currency of ISO 4217, by the data that JavaScript itself comes with. */
export function isCurrency(code: string): boolean {
  return KNOWN.has(code);
}
