export { compareDecimal, divide, least, lineAmount, marginPercent, minorUnit, minus, plus, roundMoney, sum, times, type Decimal } from './money';
export { amountInWords, priceInWords } from './words';
