/**
 * Categories of tax, by UN/CEFACT code list 5305 as EN 16931 uses it: standard rate, zero rated, exempt, export outside of the tax area. Written
 * down from memory.
 */
export type TaxCategory = 'S' | 'Z' | 'E' | 'G';

/** What tax a line carries. `percent`: at most two decimals; `reason`: why there is none, where there is none by exemption. */
export interface LineTax {
  readonly category: TaxCategory;
  readonly percent: string;
  readonly reason: string;
}

export interface TaxFacts {
  /** The rate that the class of the item has in the firm's country, per cent. */
  readonly percent: string;
  /** Why the customer pays no tax; empty: they do. */
  readonly exemption: string;
  readonly shipToCountry: string;
  readonly firmCountry: string;
}

/**
 * The tax of what is sold: none to a customer who is exempt, none on what leaves the country, else the rate of the item's class. Where a sale leaves
 * the country is decided by the address it goes to. Common practice, no source.
 */
export function taxFor({ percent, exemption, shipToCountry, firmCountry }: TaxFacts): LineTax {
  if (exemption !== '') return { category: 'E', percent: '0', reason: exemption };
  if (shipToCountry !== firmCountry) return { category: 'G', percent: '0', reason: `Export to ${shipToCountry}` };
  return Number(percent) === 0 ? { category: 'Z', percent: '0', reason: '' } : { category: 'S', percent, reason: '' };
}
