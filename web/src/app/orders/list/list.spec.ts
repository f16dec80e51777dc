import { orderRoutes, type OrderRow, type OrderView } from '@nockwright/contract/orders';
import { mailRoutes } from '@nockwright/contract/mail';
import { TestBed } from '@angular/core/testing';
import { of, Subject, throwError } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { show, testSession } from '../../test-screen';
import { testLine, testOrder } from '../test-order';
import { ListViews } from './list-views';
import { ManyActs } from './many-acts';
import { COLUMNS, fitting, readColumns, USUAL_COLUMNS, writeColumns } from './order-columns';
import { OrderListStore } from './order-list-store';

const row = (id: number, more: Partial<OrderRow> = {}): OrderRow => ({
  id,
  kind: 'order',
  number: String(20000 + id),
  customer: 'Wether Hill',
  customerId: 7,
  town: 'Combe',
  poNumber: '',
  state: 'released',
  progress: 'promised',
  requestedDay: '2027-03-12',
  promisedDay: '2027-03-12',
  validUntil: null,
  entered: '2027-03-09',
  source: 'phone',
  warehouse: 'MAR',
  amount: '10.00',
  lines: 1,
  waiting: 0,
  ...more,
});
const api = { call: jest.fn() };
const topics = new Subject<readonly string[]>();

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockReset();
  TestBed.resetTestingModule();
});
afterEach(() => jest.useRealTimers());

describe('columns in the address', () => {
  it.each([
    [undefined, USUAL_COLUMNS],
    ['', USUAL_COLUMNS],
    ['net,customer', ['order', 'customer', 'net']],
    ['nonsense', USUAL_COLUMNS],
    ['order', USUAL_COLUMNS],
  ])('%s', (text, columns) => expect(readColumns(text)).toEqual(columns));

  it('are left out where they are the usual ones', () => {
    expect(writeColumns(USUAL_COLUMNS)).toBeNull();
    expect(readColumns(writeColumns(['order', 'net'])!)).toEqual(['order', 'net']);
  });
});

describe('the rows of the list', () => {
  let store: OrderListStore;
  const pages = new Map<string, { rows: OrderRow[]; next: string | null }>();
  beforeEach(() => {
    pages.clear();
    api.call.mockImplementation((route: unknown, { query }: { query: { after?: string; orders?: string } }) => {
      if (route === orderRoutes.readRisks) return of([{ order: 1, day: '2027-03-16' }]);
      return of(pages.get(query.orders ?? query.after ?? '') ?? { rows: [], next: null });
    });
    TestBed.configureTestingModule({
      providers: [
        OrderListStore,
        { provide: Session, useValue: testSession() },
        { provide: Api, useValue: api },
        { provide: Live, useValue: { topics: () => topics } },
      ],
    });
    store = TestBed.inject(OrderListStore);
  });
  const ids = () => store.rows().map((each) => each.id);

  it('come page by page, none twice', () => {
    pages.set('', { rows: [row(5), row(4)], next: 'a' });
    pages.set('a', { rows: [row(4), row(3)], next: null });
    store.show({});
    store.more();
    store.more();
    expect(ids()).toEqual([5, 4, 3]);
    expect(store.next()).toBeNull();
  });

  it('say which are at risk when that is known, behind the page', () => {
    pages.set('', { rows: [row(1), row(2, { promisedDay: null })], next: null });
    store.show({});
    expect([...store.risks()]).toEqual([[1, '2027-03-16']]);
    const asked = api.call.mock.calls.filter((call: unknown[]) => call[0] === orderRoutes.readRisks);
    expect(asked.map((call: unknown[]) => call[1])).toEqual([{ query: { orders: '1' } }]);
  });

  it('change where they stand, go where they left the list, and new ones come first', () => {
    pages.set('', { rows: [row(5), row(4), row(3)], next: 'a' });
    store.show({});
    pages.set('4,3,6', { rows: [row(6), row(4, { progress: 'picking' })], next: null });
    topics.next(['order:4', 'order:3', 'order:6', 'item:JAR']);
    expect(store.rows().map((each) => [each.id, each.progress])).toEqual([
      [6, 'promised'],
      [5, 'promised'],
      [4, 'picking'],
    ]);
  });

  it('sorted otherwise only count what came in', () => {
    pages.set('', { rows: [row(5)], next: null });
    store.show({ sort: 'amount' });
    pages.set('9', { rows: [row(9)], next: null });
    topics.next(['order:9']);
    expect(ids()).toEqual([5]);
    expect(store.come()).toBe(1);
  });

  it('keep what was there when a page cannot be fetched', () => {
    pages.set('', { rows: [row(5)], next: 'a' });
    store.show({});
    api.call.mockReturnValueOnce(throwError(() => new Error('offline')));
    store.more();
    expect([ids(), store.fault()]).toEqual([[5], 'offline']);
  });
});

describe('the same with many orders', () => {
  let acts: ManyActs;
  const orders = new Map<number, OrderView>();
  beforeEach(() => {
    orders.clear();
    api.call.mockImplementation((route: unknown, { params }: { params: { order: number } }) => {
      if (route === orderRoutes.readOrder) return of(orders.get(params.order));
      if (params.order === 2) return throwError(() => new Error('the price has changed'));
      return of({ ...orders.get(params.order), state: 'released' });
    });
    TestBed.configureTestingModule({ providers: [ManyActs, { provide: Api, useValue: api }, { provide: Session, useValue: testSession() }] });
    acts = TestBed.inject(ManyActs);
  });
  const outcomes = () => acts.run()!.outcomes.map(({ label, why }) => [label, why]);

  it('each is done or says why not; the others are not kept from it', () => {
    for (const id of [1, 2, 3]) orders.set(id, testOrder({ id, lines: [testLine()] }));
    acts.start('release', [1, 2, 3]);
    expect(outcomes()).toEqual([
      ['draft 1', ''],
      ['draft 2', 'the price has changed'],
      ['draft 3', ''],
    ]);
    expect(acts.run()!.running).toBe(false);
    const sent = api.call.mock.calls.find((call: unknown[]) => call[0] === orderRoutes.releaseOrder)![1] as { body: { seen: unknown[] } };
    expect(sent.body.seen).toEqual([{ line: 11, schedule: [{ day: '2027-03-12', quantity: '240' }], uncovered: '0' }]);
  });

  it('what is late or short is not released before somebody has seen it, and then as it was seen', () => {
    orders.set(1, testOrder({ id: 1, lines: [testLine()] }));
    orders.set(3, testOrder({ id: 3, lines: [testLine({ daysLate: 4, schedule: [{ ...testLine().schedule[0]!, day: '2027-03-16' }] })] }));
    acts.start('release', [1, 3]);
    const released = () => api.call.mock.calls.filter((call: unknown[]) => call[0] === orderRoutes.releaseOrder).length;
    expect(released()).toBe(1);
    expect(acts.run()!.outcomes[1]).toMatchObject({ label: 'draft 3', differs: [{ kind: 'late', day: '2027-03-16', daysLate: 4 }] });
    // By now it would be another day: what was shown is what is sent.
    orders.set(3, testOrder({ id: 3, version: 9, lines: [testLine({ daysLate: 9 })] }));
    acts.releaseSeen([3]);
    expect(api.call).toHaveBeenLastCalledWith(orderRoutes.releaseOrder, {
      params: { order: 3 },
      body: { version: 3, seen: [{ line: 11, schedule: [{ day: '2027-03-16', quantity: '240' }], uncovered: '0' }] },
    });
    expect(outcomes()).toEqual([
      ['draft 1', ''],
      ['draft 3', ''],
    ]);
  });

  it('of an order that is released already nothing is asked: the desk says why not', () => {
    orders.set(2, testOrder({ id: 2, state: 'released', lines: [testLine({ daysLate: 4 })] }));
    acts.start('release', [2]);
    expect(acts.run()!.outcomes[0]).toMatchObject({ why: 'the price has changed' });
    expect(acts.run()!.outcomes[0]!.differs).toBeUndefined();
  });

  it('a quote is not released, what has no paper is not mailed', () => {
    orders.set(1, testOrder({ id: 1, kind: 'quote' }));
    acts.start('release', [1]);
    expect(outcomes()).toEqual([['draft 1', 'a quote is sent from its own sheet']]);
    acts.start('mail', [1]);
    expect(outcomes()).toEqual([['draft 1', 'it has no paper yet']]);
    expect(api.call.mock.calls.some((call: unknown[]) => call[0] === mailRoutes.mailPaper)).toBe(false);
  });
});

it('views are kept under a name, taken and forgotten', () => {
  const view = { id: 4, name: 'big ones', query: 'sort=amount' };
  api.call.mockImplementation((route: unknown) => of(route === orderRoutes.removeView ? [] : [view]));
  const screen = show(ListViews, { query: 'sort=amount', shown: USUAL_COLUMNS }, [{ provide: Api, useValue: api }]);
  expect(screen.text).toContain('View: big ones');
  const part = screen.fixture.componentInstance as unknown as {
    save(name: string): void;
    forget(view: object): void;
    turn(id: string, on: boolean): void;
  };
  part.save('mine');
  expect(api.call).toHaveBeenLastCalledWith(orderRoutes.saveView, { body: { name: 'mine', query: 'sort=amount' } });
  part.forget(view);
  expect(api.call).toHaveBeenLastCalledWith(orderRoutes.removeView, { params: { view: 4 } });
  const changed = jest.fn();
  screen.fixture.componentInstance.changed.subscribe(changed);
  part.turn('promised', true);
  expect(changed).toHaveBeenCalledWith(['order', 'customer', 'their', 'lines', 'net', 'asked', 'promised', 'days', 'state']);
});

describe('columns that fit', () => {
  const named = (ids: readonly string[]) => COLUMNS.filter((column) => ids.includes(column.id));
  const shown = (width: number) => fitting(named(USUAL_COLUMNS), width).map((column) => column.id);

  test.each([
    [1240, ['order', 'customer', 'their', 'lines', 'net', 'asked', 'days', 'state']],
    [1000, ['order', 'customer', 'net', 'asked', 'days', 'state']],
    [700, ['order', 'customer', 'net', 'asked', 'state']],
    [390, ['order', 'customer', 'state']],
  ])('at %i the list keeps what says most: the customer always', (width, ids) => {
    expect(shown(width)).toEqual(ids);
  });

  test('what is left over becomes more days', () => {
    const ruler = (width: number) => fitting(named(USUAL_COLUMNS), width).find((column) => column.id === 'days')!.drawn;
    expect([ruler(1100), ruler(1880) > ruler(1240), ruler(5000)]).toEqual([300, true, 620]);
  });
});
