import { shortageRoutes, type ShortageRow, type RoutePlan, type Routed } from '@nockwright/contract/shortages';
import { of, Subject, throwError } from 'rxjs';
import { Live } from '../live';
import { show, testApi } from '../test-screen';
import { AskForm } from './ask-form';
import { groupsOf } from './board-groups';
import { questionFor, wishesOf } from './route-words';
import { ShortageBoard } from './shortage-board';
import { testPlan, testRoute, testShortage } from './test-route';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const TODAY = '2027-03-09';

describe('groups', () => {
  const rows = [
    testShortage({ value: '10.00' }),
    testShortage({ line: 12, item: 'LID', customer: 'Garrick', value: '40.00', requested: '2027-03-10', suppliers: [] }),
    testShortage({ line: 11, kind: 'late', value: '5.00' }),
  ];

  it('stand by what is at stake, days in sequence; a line that stands twice is one', () => {
    expect(groupsOf(rows, 'item', TODAY).map(({ name, value, lines }) => [name, value, lines])).toEqual([
      ['LID, Jar of glass', '40', [12]],
      ['JAR, Jar of glass', '15', [11]],
    ]);
    expect(groupsOf(rows, 'day', TODAY).map(({ name }) => name)).toEqual(['Wed 10 Mar', 'Fri 12 Mar']);
    expect(groupsOf(rows, 'supplier', TODAY).map(({ name }) => name)).toEqual(['nobody sells it', 'Tarnbeck']);
    expect(groupsOf(rows, 'none', TODAY)).toHaveLength(1);
  });
});

describe('the board', () => {
  let plans: Subject<RoutePlan>;
  let acts: Subject<Routed>;
  let topics: Subject<string[]>;

  const both = [testShortage(), testShortage({ order: 8, line: 12, number: '20008', customer: 'Garrick', item: 'LID' })];

  function open(role?: string, rows: readonly ShortageRow[] = both) {
    const { api, lastBody } = testApi();
    plans = new Subject();
    acts = new Subject();
    topics = new Subject();
    // As the server does: the first of all that the filter finds, and which of the lines asked about are short.
    api.call.mockImplementation((route: unknown, { query = {} }: { query?: { q?: string; only?: string; chosen?: string } } = {}) => {
      if (route === shortageRoutes.listShortages) {
        const ids = (text = '') => text.split(',').filter(Boolean).map(Number);
        const words = (query.q ?? '').split(' ').filter(Boolean);
        const found = rows.filter(
          (row) =>
            (query.only === undefined || ids(query.only).includes(row.line)) &&
            words.every((word) => `${row.item} ${row.customer} ${row.suppliers.join(' ')}`.toLowerCase().includes(word)),
        );
        const chosen = ids(query.chosen).filter((line) => rows.some((row) => row.line === line));
        return of({ rows: found, count: found.length, value: '20.00', lines: [...new Set(found.map((row) => row.line))], chosen });
      }
      return route === shortageRoutes.planRoutes ? plans : acts;
    });
    const live = { kept: (load: () => unknown) => load(), topics: () => topics };
    const screen = show(
      ShortageBoard,
      { q: '' },
      [
        { provide: Live, useValue: live },
        { provide: (jest.requireActual('../api') as { Api: unknown }).Api, useValue: api },
      ],
      role,
    );
    return { screen, api, lastBody };
  }

  it('plans what is chosen, routes it in one act, and tells how far it is and what came of it', () => {
    const { screen, api, lastBody } = open();
    screen.press('a');
    expect(screen.text).toContain('2 lines chosen');
    // Nothing is done before the plan is known.
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(api.call).not.toHaveBeenCalledWith(shortageRoutes.routeMany, expect.anything());
    plans.next(testPlan({}, { line: 12, number: '20008', route: testRoute({ obliges: [{ kind: 'consent', words: 'the customer must agree' }] }) }));
    screen.settle();
    expect(screen.text).toContain('Purchase from Tarnbeck to Marrowby, joins P7001');
    expect(screen.text).toContain('below the 250');
    const planned = [...screen.element.querySelectorAll('tr.planned')].map((row) => row.textContent!.replace(/\s+/g, ' ').trim());
    expect(planned).toEqual([expect.stringMatching(/^Special order from Tarnbeck.*5 days late$/), expect.stringContaining('? consent first: left out')]);
    // Whose customer must be asked is left out.
    screen.press('Enter', document.body, { ctrlKey: true });
    const body = lastBody() as { run: string; choices: unknown };
    expect(body.choices).toEqual([{ line: 11, version: 4, parts: [{ kind: 'special_order', quantity: '30', supplier: 'SUP' }] }]);
    topics.next([`routing:${body.run}:1:2`, 'routing:another:2:2']);
    screen.settle();
    expect(screen.element.querySelector('mat-progress-bar')!.getAttribute('aria-valuenow')).toBe('50');
    acts.next({
      lines: 1,
      documents: [{ kind: 'purchase', id: 3, number: 'P7001' }],
      freed: [{ did: 'closed', quantity: '8', purchase: 'P7612' }],
      left: [{ line: 12, why: 'somebody was first' }],
    });
    acts.complete();
    screen.settle();
    expect(screen.text).toContain('1 line routed');
    expect(screen.text).toContain('8 of purchase P7612 closed');
    expect(screen.text).toContain('20008/1 LID: somebody was first');
  });

  it('keeps what is chosen and says why where the act is refused', () => {
    const { screen } = open();
    screen.press('a');
    plans.next(testPlan({}));
    screen.settle();
    screen.press('Enter', document.body, { ctrlKey: true });
    acts.error(new Error('Others have changed it.'));
    screen.settle();
    expect(screen.text).toContain('Others have changed it.');
    expect(screen.text).toContain('2 lines chosen');
  });

  it('says of a drop shipment that slipped that it is one, and what was told', () => {
    const { screen } = open('coordinator', [
      testShortage({ kind: 'late', dropShip: true, promisedDay: '2027-03-16', possibleDay: '2027-03-30', daysLate: 14 }),
    ]);
    expect(screen.text).toContain('14 days late');
    expect(screen.text).toContain('JAR drop ship');
    expect(screen.text).toContain('told Tue 16 Mar');
  });

  it('is one day late, not one days', () => {
    const { screen } = open('coordinator', [testShortage({ kind: 'late', promisedDay: '2027-03-16', possibleDay: '2027-03-17', daysLate: 1 })]);
    expect(screen.text).toContain('1 day late');
  });

  it('says what a way takes back from a supplier before it is done', () => {
    const { screen } = open();
    screen.press('a');
    plans.next(testPlan({ takesBack: ['8 of P7612 taken back from Stelling'] }));
    screen.settle();
    expect(screen.text).toContain('8 of P7612 taken back from Stelling');
  });

  it('chooses by Space on a row, and lets go by Escape', () => {
    const { screen } = open();
    const [row] = screen.element.querySelectorAll('tbody tr');
    screen.press(' ', row);
    expect(screen.text).toContain('1 line chosen');
    screen.press('Escape');
    expect(screen.text).toContain('Choose lines with');
  });

  it('lets the warehouse look and not route', () => {
    const { screen } = open('warehouse');
    screen.press('a');
    expect([...screen.element.querySelectorAll('button')].some((button) => button.textContent.includes('Route'))).toBe(false);
  });
});

describe('what is asked', () => {
  const line = { item: 'JAR', description: 'Jar of glass', stockUnit: 'EA' };

  it('says the ways of a split as one question', () => {
    const split = testRoute({
      parts: [
        testRoute({}, { kind: 'transfer', quantity: '20', shipDay: '2027-03-10' }).parts[0]!,
        testRoute({}, { kind: 'substitute', item: 'TUB', quantity: '5', shipDay: '2027-03-12' }).parts[0]!,
        testRoute({}, { kind: 'cut', quantity: '5', shipDay: null }).parts[0]!,
      ],
    });
    const said = questionFor(split, line, TODAY);
    expect(said).toContain('May we send 20 tomorrow, and send TUB instead of 5, at the same price, on Friday the 12th, and take 5 off your order?');
  });

  it('asks by mail, by phone where nobody is named, and refuses what is no address', () => {
    const screen = show(AskForm, { route: testRoute({ obliges: [{ kind: 'consent', words: 'the customer must agree' }] }), line, email: 'nora@a.example' }, []);
    const asked: unknown[] = [];
    screen.fixture.componentInstance.asked.subscribe((one) => asked.push(one));
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(asked.at(-1)).toMatchObject({ agreed: false, wish: { recipients: ['nora@a.example'], answerBy: '2027-03-11', onNo: 'reroute' } });
    screen.type('Mail to (empty: by phone)', 'nora');
    expect(screen.text).toContain('Expected addresses');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(asked).toHaveLength(1);
    screen.type('Mail to (empty: by phone)', '');
    screen.click('Ask by phone');
    expect(asked.at(-1)).toMatchObject({ wish: { recipients: [] } });
    screen.click('Customer has agreed');
    expect(asked.at(-1)).toMatchObject({ agreed: true });
  });

  it('names the address of a drop shipment and of nothing else', () => {
    expect(wishesOf(testRoute({}, { kind: 'drop_ship' }), 4)).toEqual([{ kind: 'drop_ship', quantity: '30', supplier: 'SUP', shipTo: 4 }]);
    expect(wishesOf(testRoute(), 4)[0]).not.toHaveProperty('shipTo');
  });
});

it('says so where the shortages cannot be read', () => {
  const { api, providers } = testApi();
  api.call.mockReturnValue(throwError(() => new Error('no connection')));
  expect(show(ShortageBoard, { q: '' }, providers).text).toContain('no connection');
});
