/** `text` as it stands in a LIKE pattern: its wildcards taken literally. */
export function escapeLike(text: string): string {
  return text.replace(/[\\%_]/g, (character) => `\\${character}`);
}

/** The lower-cased words of a search, each to be found somewhere. */
export function searchWords(search: string | undefined): string[] {
  return (search ?? '').toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
}
