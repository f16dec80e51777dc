/**
 * The remainder by 97 of digits and letters, A to Z taken for 10 to 35. Source: ISO 7064, MOD 97-10.
 */
export function mod97(text: string): number {
  let rest = 0;
  for (const sign of text) {
    const value = sign >= 'A' ? sign.charCodeAt(0) - 55 : Number(sign);
    rest = (rest * (value > 9 ? 100 : 10) + value) % 97;
  }
  return rest;
}

/** A creditor reference that people and banks can check: `RF18539007547034` for `539007547034`. Source: ISO 11649. */
export function creditorReference(text: string): string {
  const body = text.toUpperCase().replace(/[^0-9A-Z]/g, '');
  return `RF${String(98 - mod97(`${body}RF00`)).padStart(2, '0')}${body}`;
}

/** Whether a text is a creditor reference with right check digits. Spaces do not count. */
export function isCreditorReference(text: string): boolean {
  const plain = text.replace(/\s/g, '').toUpperCase();
  return /^RF\d{2}[0-9A-Z]{1,21}$/.test(plain) && mod97(plain.slice(4) + plain.slice(0, 4)) === 1;
}

/** Whether a text is an account number with right check digits. Spaces do not count. Source: ISO 13616. */
export function isIban(text: string): boolean {
  const plain = text.replace(/\s/g, '').toUpperCase();
  return /^[A-Z]{2}\d{2}[0-9A-Z]{11,30}$/.test(plain) && mod97(plain.slice(4) + plain.slice(0, 4)) === 1;
}
