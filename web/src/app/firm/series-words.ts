const SERIES: Readonly<Record<string, string>> = {
  order: 'orders',
  quote: 'quotes',
  purchase: 'purchase orders',
  contract: 'contracts',
  customer: 'customers',
  transfer: 'transfers',
  assembly: 'assemblies',
  invoice: 'invoices',
  credit_note: 'credit notes',
};

/** What a series numbers: `orders`, `orders from portal`. */
export function seriesName(name: string): string {
  const [kind, source] = name.split('/') as [string, string?];
  const documents = SERIES[kind] ?? kind;
  return source ? `${documents} from ${source}` : documents;
}

/** The same at the head of a sentence. */
export function documentsOf(name: string): string {
  const words = seriesName(name);
  return words.charAt(0).toUpperCase() + words.slice(1);
}
