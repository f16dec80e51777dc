export {
  compareDecimal,
  divide,
  least,
  lineAmount,
  marginPercent,
  minorUnit,
  minus,
  plus,
  roundMoney,
  sum,
  times,
  type Amount,
  type Decimal,
  type Quantity,
  type UnitPrice,
} from './money';
export { isCurrency } from './currency';
export { amountInWords, priceInWords } from './words';
