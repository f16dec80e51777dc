import type { Obligation } from './remark';

/** The customer has to be asked before it may be done. */
export function asksCustomer({ obliges }: { readonly obliges: readonly Pick<Obligation, 'kind'>[] }): boolean {
  return obliges.some((row) => row.kind === 'consent');
}
