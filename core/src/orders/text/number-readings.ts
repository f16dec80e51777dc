/**
 * What a number as it is written may mean, as decimal text: one reading for `1200`, `1,200`, `1.5` and `1,5`; two for
 * `1.200`, which is 1.2 where a point is for decimals and 1,200 where it is for thousands; none where it is no number
 * above 0 with at most nine digits before and four behind the point.
 */
export function numberReadings(word: string): readonly string[] {
  if (/^\d{1,3}(?:,\d{3})+(?:\.\d{1,4})?$/.test(word)) return some(word.replaceAll(',', ''));
  if (/^\d{1,3}(?:\.\d{3})+,\d{1,4}$/.test(word)) return some(word.replaceAll('.', '').replace(',', '.'));
  if (/^\d{1,3}(?:\.\d{3}){2,}$/.test(word)) return some(word.replaceAll('.', ''));
  if (/^[1-9]\d{0,2}\.\d{3}$/.test(word)) return [...some(word), ...some(word.replace('.', ''))];
  if (/^\d{1,9}(?:[.,]\d{1,4})?$/.test(word)) return some(word.replace(',', '.'));
  return [];
}

/** Without zeros that say nothing; nothing for 0. */
function some(text: string): readonly string[] {
  const [whole = '', part = ''] = text.split('.');
  const decimals = part.replace(/0+$/, '');
  const plain = `${whole.replace(/^0+(?=\d)/, '')}${decimals === '' ? '' : `.${decimals}`}`;
  return plain === '0' ? [] : [plain];
}
