import { shortDay, type IsoDay } from '../calendar';
import { amountInWords, type Amount, type Decimal, type Quantity, type UnitPrice } from '../money';

/** What is to be known of a way, as facts: the words are made in one place, below. */
export type Remark =
  | { readonly kind: 'free_there'; readonly warehouse: string; readonly free: Quantity; readonly enough: boolean }
  | { readonly kind: 'due'; readonly day: IsoDay; readonly bound: boolean }
  | { readonly kind: 'only_whole' }
  | { readonly kind: 'components'; readonly most: Quantity; readonly enough: boolean }
  | { readonly kind: 'made_of'; readonly components: string }
  | { readonly kind: 'done_by'; readonly day: IsoDay }
  | { readonly kind: 'item'; readonly description: string }
  | { readonly kind: 'only_promised'; readonly most: Quantity }
  | { readonly kind: 'stands_for'; readonly sent: Quantity; readonly quantity: Quantity; readonly over: Quantity | null }
  | { readonly kind: 'own_price'; readonly price: UnitPrice; readonly source: string }
  | { readonly kind: 'owed_before'; readonly supplier: string }
  | { readonly kind: 'joins'; readonly draft: string }
  | { readonly kind: 'freight'; readonly amount: Amount }
  | { readonly kind: 'more_for_less'; readonly whole: Amount; readonly without: Amount; readonly more: Quantity }
  | { readonly kind: 'not_our_stock' }
  | { readonly kind: 'lots'; readonly supplier: string; readonly minimum: Quantity; readonly multiple: Quantity }
  | { readonly kind: 'next_purchase'; readonly quantity: Quantity; readonly day: IsoDay; readonly supplier: string }
  | { readonly kind: 'buys_more'; readonly buys: Quantity; readonly surplus: Quantity }
  | { readonly kind: 'no_day'; readonly quantity: Quantity }
  | { readonly kind: 'covered' }
  | { readonly kind: 'less_to_bill'; readonly amount: Amount };

/** What choosing a way obliges to, as facts. */
export type Obligation =
  | { readonly kind: 'consent'; readonly to: 'other_item' | 'less' | 'later' }
  | { readonly kind: 'below_minimum'; readonly supplier: string; readonly minimum: Amount; readonly comes: Amount }
  | { readonly kind: 'not_returnable'; readonly supplier: string }
  | { readonly kind: 'surplus'; readonly buys: Quantity; readonly surplus: Quantity; readonly wanted: boolean };

/** What a remark says, seen from `today`. */
export function remarkWords(remark: Remark, today: IsoDay): string {
  const on = (day: IsoDay) => shortDay(day, today);
  switch (remark.kind) {
    case 'free_there':
      return remark.enough ? `of ${remark.free} there that nobody is promised` : `${remark.warehouse} has only ${remark.free} that nobody is promised`;
    case 'due':
      return `due in ${on(remark.day)}${remark.bound ? ', bound to this line' : ''}`;
    case 'only_whole':
      return 'only whole ones can be assembled';
    case 'components':
      return remark.enough ? `components for ${remark.most} are free` : `components for only ${remark.most} are free`;
    case 'made_of':
      return `of ${remark.components}`;
    case 'done_by':
      return `done by ${on(remark.day)}`;
    case 'item':
      return remark.description;
    case 'only_promised':
      return `only ${remark.most} could be promised`;
    case 'stands_for':
      return `${remark.sent} go for ${remark.quantity}${remark.over === null ? '' : `, ${remark.over} more than stand for them`}`;
    case 'own_price':
      return `at ${remark.price} each, ${remark.source}: less than was agreed for what they replace`;
    case 'owed_before':
      return `no sooner than what ${remark.supplier} owe of it already`;
    case 'joins':
      return `joins the draft ${remark.draft}`;
    case 'freight':
      return `freight ${amountInWords(remark.amount)}`;
    case 'more_for_less':
      return `the whole purchase comes to ${amountInWords(remark.whole)} so, ${amountInWords(remark.without)} without the ${remark.more}`;
    case 'not_our_stock':
      return 'never touches our stock';
    case 'lots':
      return `${remark.supplier} sells at least ${remark.minimum} in multiples of ${remark.multiple}: not for this quantity`;
    case 'next_purchase':
      return `${remark.quantity} are backordered to the next purchase: no day is promised until it is bought; ${on(remark.day)} holds if ${remark.supplier} is ordered from today`;
    case 'buys_more':
      return `that buys ${remark.buys}: ${remark.surplus} more than needed`;
    case 'no_day':
      return `${remark.quantity} have no supply and no supplier: no day can be given`;
    case 'covered':
      return 'known supply covers it';
    case 'less_to_bill':
      return `${amountInWords(remark.amount)} less to bill`;
  }
}

const CONSENT = {
  other_item: 'the customer must agree to another item',
  less: 'the customer must agree to do without',
  later: 'the customer must agree to the later day',
} as const;

/** What an obligation says. */
export function obligationWords(obligation: Obligation): string {
  switch (obligation.kind) {
    case 'consent':
      return CONSENT[obligation.to];
    case 'below_minimum':
      return `${obligation.supplier} wants orders of ${amountInWords(obligation.minimum)} or more, this one comes to ${amountInWords(obligation.comes)}`;
    case 'not_returnable':
      return `${obligation.supplier} does not take it back`;
    case 'surplus':
      return obligation.wanted
        ? `buys ${obligation.surplus} more than needed, for stock`
        : `buys ${obligation.buys}: ${obligation.surplus} more than needed go to stock`;
  }
}

/** What is to be known of a route: of one way its remarks, of several what each gives with its own. */
export function routeRemarks(parts: readonly { readonly quantity: Decimal; readonly remarks: readonly Remark[] }[], today: IsoDay): string[] {
  const words = (remarks: readonly Remark[]) => remarks.map((remark) => remarkWords(remark, today));
  return parts.length === 1 ? words(parts[0]!.remarks) : parts.map((part) => `${part.quantity}: ${words(part.remarks).join(', ')}`);
}
