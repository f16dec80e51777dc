import { causeWords, eventWords, findingWords, type Finding, type KeptCause } from '@nockwright/contract/history';
import type { Happened } from '@nockwright/contract/shape';
import { TODAY } from './test-desk';

/** What an event of a history says on the day of the tests. */
export function said(row: Happened): string {
  return eventWords(row, TODAY);
}

/** Why it happened: the reason that was given, or what brought it about. */
export function whyOf({ why, cause }: { readonly why: string; readonly cause: KeptCause | null }): string {
  return cause === null ? why : causeWords(cause, TODAY);
}

/** What a supplier's message comes to, sentence by sentence. */
export function saysOf({ findings }: { readonly findings: readonly Finding[] }): string[] {
  return findings.map((row) => findingWords(row, TODAY));
}
