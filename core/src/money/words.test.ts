import { amountInWords, priceInWords } from './words';

test.each([
  ['12480.00', '12,480.00', '12,480.00'],
  ['0.5', '0.5', '0.50'],
  ['1000', '1,000', '1,000.00'],
  ['0.4725', '0.4725', '0.4725'],
  ['-1234567.5', '-1,234,567.5', '-1,234,567.50'],
])('%s is said as %s, and as a price as %s', (value, amount, price) => {
  expect(amountInWords(value)).toBe(amount);
  expect(priceInWords(value)).toBe(price);
});
