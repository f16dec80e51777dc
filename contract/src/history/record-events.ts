import { type Amount, type Quantity, type UnitPrice, amountInWords, roundMoney } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { headChangesInWords, priceChangesInWords, termChangesInWords } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import { day, decimal, flag, integer, list, note, nullable, object, oneOf, text } from '../shape';
import { event } from './kind';
import { count, place, placeWords } from './parts';

const who = { customer: text() };
const item = { item: text() };

/** Customers: who they are, what they may owe. */
export const customerEvents = {
  'customer.created': event(
    object({ prospect: flag(), number: text(), name: text() }),
    ({ prospect, number, name }) => `created ${prospect ? 'prospect' : 'customer'} ${number}, ${name}`,
  ),
  'customer.won': event(object({ number: text(), name: text() }), ({ number, name }) => `made prospect ${number}, ${name}, a customer`),
  'customer.life': event(object({ ...who, days: nullable(integer()) }), ({ customer, days }) =>
    days === null ? `${customer} asks for no life of their own on delivery` : `${customer} asks for ${count(days, 'day')} of life on delivery`,
  ),
  'customer.changed': event(object({ ...who, fields: list(text()) }), ({ customer, fields }) => `changed ${fields.join(', ')} of ${customer}`),
  'contact.kept': event(object({ name: text(60), role: note(60), known: flag() }), ({ name, role, known }) =>
    known ? `changed the contact ${name}` : `added the contact ${name}${role ? `, ${role}` : ''}`,
  ),
  'contact.removed': event(object({ name: text(60) }), ({ name }) => `removed the contact ${name}`),
  'item_number.set': event(object({ ...item, code: nullable(text(40)) }), ({ item: ours, code }) =>
    code === null ? `removed their item number of ${ours}` : `set their item number of ${ours} to ${code}`,
  ),
  'credit.limit_set': event(
    object({ ...who, limit: nullable(decimal<Amount>()), was: nullable(decimal()), currency: text() }),
    ({ customer, limit, was, currency }) => {
      const words = (amount: string | null) => (amount === null ? 'none' : amountInWords(roundMoney(amount, currency)));
      return `set the credit limit of ${customer} to ${words(limit)}, was ${words(was)}`;
    },
  ),
  'address.added': event(object({ street: text(), town: text() }), ({ street, town }) => `added the address ${street}, ${town}`),
  'note.left': event(object({}), () => 'left a note'),
  'note.closed': event(object({}), () => 'closed a note'),
};

const MAILED = { subject: text(1000) };

/** Papers and mails. */
export const mailEvents = {
  'paper.mailed': event(
    object({ paper: text(400), recipients: list(text()) }),
    ({ paper, recipients }) => `mailed ${lower(paper)} to ${recipients.join(', ')}`,
  ),
  'mail.sent': event(
    object({ ...MAILED, taken: list(text()), refused: list(text()) }),
    ({ subject, taken, refused }) => `“${subject}” went out to ${taken.join(', ')}${refused.length > 0 ? `, not to ${refused.join(', ')}` : ''}`,
  ),
  'mail.not_taken': event(
    object({ ...MAILED, again: flag() }),
    ({ subject, again }) => `the mail server did not take “${subject}”${again ? '' : '; it is not tried again'}`,
  ),
  'mail.retried': event(
    object({ ...MAILED, to: list(text()) }),
    ({ subject, to }) => `tried “${subject}” again${to.length > 0 ? `, to ${to.join(', ')}` : ''}`,
  ),
  'post_office.set': event(object({ open: flag() }), ({ open }) => `${open ? 'opened' : 'closed'} the stand-in post office`),
};

const standing = object({ name: text(), role: text(), disabled: flag() });

/** The firm, and who works with the desk. */
export const firmEvents = {
  'firm.changed': event(
    object({
      fields: list(oneOf('name', 'code', 'street', 'postcode', 'town', 'country', 'phone', 'email', 'tax_number', 'gs1_prefix', 'footer', 'currency')),
    }),
    ({ fields }) => `edited the firm: ${fields.map((field) => FIRM_WORDS[field]).join(', ')}`,
  ),
  'series.set': event(
    object({ series: text(), prefix: note(40), next: integer(), was: object({ prefix: note(40), next: integer() }) }),
    ({ series, prefix, next, was }) => `the series ${series} goes on with ${prefix}${next}, was ${was.prefix}${was.next}`,
  ),
  'password.changed': event(object({}), () => 'changed their password'),
  'session.ended': event(object({}), () => 'ended a session of their own'),
  'second_factor.on': event(object({}), () => 'turned the second factor on'),
  'second_factor.off': event(object({}), () => 'turned the second factor off'),
  'user.created': event(object({ name: text(), login: text(), role: text() }), ({ name, login, role }) => `created user ${name} (${login}), ${role}`),
  'user.changed': event(object({ login: text(), before: standing, after: standing }), ({ login, before, after }) => {
    const changes = [
      after.name === before.name ? '' : `renamed ${before.name} to ${after.name}`,
      after.role === before.role ? '' : `changed the role of ${after.name} from ${before.role} to ${after.role}`,
      after.disabled === before.disabled ? '' : `${after.disabled ? 'disabled' : 'enabled'} ${after.name}`,
    ];
    return `${changes.filter(Boolean).join('; ')} (${login})`;
  }),
  'password.reset': event(object({ name: text() }), ({ name }) => `reset the password of ${name}`),
  'second_factor.removed': event(object({ name: text() }), ({ name }) => `removed the second factor of ${name}`),
  'sessions.ended': event(
    object({ name: text(), sessions: integer() }),
    ({ name, sessions }) => `ended ${sessions === 1 ? 'a session' : `${sessions} sessions`} of ${name}`,
  ),
};

const FIRM_WORDS = {
  name: 'name',
  code: 'code in files',
  street: 'street',
  postcode: 'postcode',
  town: 'town',
  country: 'country',
  phone: 'phone',
  email: 'mail address',
  tax_number: 'tax number',
  gs1_prefix: 'GS1 company prefix',
  footer: 'foot of papers',
  currency: 'currency',
};

/** Items and what stands of them. */
export const itemEvents = {
  'bins.walked': event(
    object({ warehouse: text(), first: text(60), last: text(60) }),
    ({ warehouse, first, last }) => `changed the walk through ${warehouse}: from ${first} to ${last}`,
  ),
  'carton_type.set': event(object({ type: text(60) }), ({ type }) => `changed the carton type ${type}`),
  'item.taxed': event(object({ ...item, taxClass: text(60) }), ({ item: code, taxClass }) => `set the tax class of ${code} to ${taxClass}`),
  'item.handling': event(object(item), ({ item: code }) => `changed how ${code} is handled`),
  'serials.placed': event(
    object({ ...item, count: integer(), warehouse: text(), bin: note(60) }),
    ({ item: code, count, warehouse, bin }) =>
      `named ${count} ${count === 1 ? 'serial number' : 'serial numbers'} of ${code}${bin === '' ? '' : ` in ${bin}`} at ${warehouse}`,
  ),
  'item.also': event(object({ ...item, also: note(300) }), ({ item: code, also }) =>
    also === '' ? `removed what ${code} is also called` : `${code} is also called ${also}`,
  ),
  'goods.moved': event(
    object({ ...item, warehouse: text(), quantity: decimal<Quantity>(), from: object(place), to: oneOf('quarantine', 'available', 'bin'), bin: note(60) }),
    ({ item: code, warehouse, quantity, from, to, bin }) => {
      const became =
        to === 'bin' ? `moved to ${bin === '' ? 'no bin' : `bin ${bin}`}` : to === 'quarantine' ? 'put into quarantine' : 'released from quarantine';
      return `${quantity} ${code} at ${warehouse}${placeWords(from)} ${became}`;
    },
  ),
  'stock.counted': event(
    object({ ...item, warehouse: text(), place: object(place), counted: decimal<Quantity>(), books: decimal() }),
    ({ item: code, warehouse, place: at, counted, books }) => `counted ${code} at ${warehouse}${placeWords(at)}: ${counted}, the books said ${books}`,
  ),
  'lot.corrected': event(
    object({ ...item, lot: text(), name: text(), expires: nullable(day()), was: nullable(day()) }),
    ({ item: code, lot, name, expires, was }, today) => {
      const last = (value: string | null) => (value === null ? 'no last day' : shortDay(value, today));
      const changes = [...(name === lot ? [] : [`it is ${name}`]), ...(expires === was ? [] : [`expires ${last(expires)}, was ${last(was)}`])];
      return `corrected lot ${lot} of ${code}: ${changes.join(', ')}`;
    },
  ),
  'item.bin_set': event(object({ ...item, warehouse: text(), bin: nullable(text()) }), ({ item: code, warehouse, bin }) =>
    bin === null ? `${code} has no bin of its own at ${warehouse} any more` : `${code} lives in bin ${bin} at ${warehouse}`,
  ),
  'item.step_set': event(
    object({ ...item, unit: text(), step: decimal() }),
    ({ item: code, unit, step }) => `${code} is sold by the ${unitName(unit)} ${Number(step) === 1 ? 'whole' : `in steps of ${step}`}`,
  ),
  'item.life_set': event(object({ ...item, days: integer() }), ({ item: code, days }) => `${code} must have ${count(days, 'day')} of life left on delivery`),
  'item.discontinued': event(
    object({ ...item, soldByNobody: flag(), successor: nullable(text()) }),
    ({ item: code, soldByNobody, successor }) =>
      `${code} is discontinued${soldByNobody ? ' and cannot be bought' : ''}${successor ? `; ${successor} follows it` : ''}`,
  ),
  'item.resumed': event(object(item), ({ item: code }) => `${code} is made again`),
};

const listPrice = object({ item: text(), unit: text(), from: decimal(), price: decimal<UnitPrice>() });
const terms = object({
  item: nullable(text()),
  group: nullable(text()),
  unit: nullable(text()),
  kind: oneOf('fixed', 'off_list', 'cost_plus'),
  price: nullable(decimal<UnitPrice>()),
  percent: nullable(decimal()),
  minimum: nullable(decimal<Quantity>()),
  most: nullable(decimal<Quantity>()),
});
const head = object({ name: text(), firstDay: day(), lastDay: day(), note: note(), buyers: list(text()) });

/** Price lists and contracts. */
export const pricingEvents = {
  'prices.changed': event(
    object({ list: text(), changes: list(object({ before: nullable(listPrice), after: nullable(listPrice) }), 0, 100_000) }),
    ({ list: name, changes }) => `changed ${changes.length === 1 ? 'a price' : `${changes.length} prices`} of list ${name}${of(priceChangesInWords(changes))}`,
  ),
  'contract.created': event(object({ number: text() }), ({ number }) => `created contract ${number}`),
  'contract.changed': event(
    object({ number: text(), before: head, after: head }),
    ({ number, before, after }, today) => `changed contract ${number}${of(headChangesInWords(before, after, today))}`,
  ),
  'contract.lines_changed': event(
    object({ number: text(), changes: list(object({ before: nullable(terms), after: nullable(terms) }), 0, 100_000) }),
    ({ number, changes }) => `changed ${changes.length === 1 ? 'a line' : `${changes.length} lines`} of contract ${number}${of(termChangesInWords(changes))}`,
  ),
};

function of(words: string): string {
  return words === '' ? '' : `: ${words}`;
}

function lower(words: string): string {
  return words.slice(0, 1).toLowerCase() + words.slice(1);
}
