import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { supplyRoutes, type PurchaseView, type Scanned } from '@nockwright/contract/supply';
import { Subject, throwError } from 'rxjs';
import { testMover } from '../../ripple/test-mover';
import { show, testApi } from '../../test-screen';
import { Arrivals } from './arrivals';
import { ReceivingList } from './receiving-list';
import { ReceivingSheet } from './receiving-sheet';

beforeEach(() => {
  jest.useFakeTimers();
  // A page that is not drawn has nowhere to be scrolled to.
  window.scrollTo = jest.fn();
});
afterEach(() => jest.useRealTimers());

type Line = PurchaseView['lines'][number];
const syrup = {
  id: 46,
  lineNo: 1,
  item: 'FEE-SYR-14',
  description: 'Invert syrup',
  unit: 'EA',
  open: '40',
  damaged: '0',
  expectedDay: '2027-03-15',
  theirCode: 'ME1007',
  tracksLots: true,
  tracksExpiry: true,
  home: 'C-02',
  owed: [{ order: 7, number: '20007', lineNo: 1, customer: 'Wether Hill', quantity: '12', day: '2027-03-16', bound: false }],
} as unknown as Line;
const tools = { ...syrup, id: 47, lineNo: 2, item: 'TOL-HIV-J', open: '60', tracksLots: false, tracksExpiry: false, home: null, owed: [] } as Line;
const notice = { id: 3, number: 'P7627-D1', day: '2027-03-09', tracking: 'TRK1', lines: [{ line: 46, quantity: '38', lot: 'L-9', expires: '2028-08-30' }] };
const purchase = {
  id: 27,
  number: 'P7627',
  supplier: { code: 'MELLISH', name: 'Mellish Feeds', email: '' },
  state: 'acknowledged',
  version: 4,
  warehouse: 'MAR',
  lines: [syrup, tools],
  notices: [notice],
} as unknown as PurchaseView;
const scan = (more: Partial<Scanned>): Scanned => ({ item: null, description: '', lot: '', expires: null, count: null, serial: '', awaited: [], ...more });

describe('what came, as it is typed', () => {
  const arrivals = () => new Arrivals(signal([syrup, tools]), () => '2027-03-09');

  it('of pieces with serial numbers each label counts once, and none is booked without its number', () => {
    const frames = { ...tools, id: 48, item: 'EX-9', tracksSerials: true, open: '3' } as Line;
    const typed = new Arrivals(signal([frames]), () => '2027-03-09');
    typed.scan(frames, scan({ item: 'EX-9', serial: 'S1' }));
    typed.scan(frames, scan({ item: 'EX-9', serial: 'S2' }));
    typed.scan(frames, scan({ item: 'EX-9', serial: 'S2' }));
    expect(typed.read()).toEqual({ arrivals: [{ line: 48, quantity: '2', serials: 'S1\nS2' }] });
    const bare = new Arrivals(signal([frames]), () => '2027-03-09');
    bare.add(frames);
    expect(bare.read()).toEqual({ fault: 'EX-9 has serial numbers: scan or type them.' });
  });

  it('another lot is taken to be what is still missing; the same label again counts up', () => {
    const came = arrivals();
    came.scan(syrup, scan({ lot: 'A', count: '12' }));
    came.scan(syrup, scan({ lot: 'A' }));
    expect(came.of(46)).toMatchObject([{ lot: 'A', quantity: '13', bin: 'C-02' }]);
    came.add(syrup);
    expect(came.of(46)[1]).toMatchObject({ quantity: '27', lot: '' });
    expect(came.sums()).toEqual([{ line: 46, quantity: '40' }]);
  });

  it.each<[string, Partial<Record<'quantity' | 'damaged' | 'lot' | 'expires', string>>, string]>([
    ['no quantity', { quantity: 'ten', lot: 'A' }, 'ten is no quantity'],
    ['no lot where lots are kept', { quantity: '5' }, 'kept by lot'],
    ['no day', { quantity: '5', lot: 'A', expires: '31 feb' }, '31 feb is no day'],
    ['nothing', { quantity: '' }, 'Scan or type what came'],
  ])('%s is told, and nothing is booked', (_, typed, fault) => {
    const came = arrivals();
    const { key } = came.add(syrup, { quantity: '' });
    for (const [field, text] of Object.entries(typed)) came.set(key, field as 'quantity', text);
    expect(came.read()).toEqual({ fault: expect.stringContaining(fault) });
  });

  it('what is right is read as it is sent: days as days, bins in capitals', () => {
    const came = arrivals();
    const { key } = came.add(syrup, { quantity: '5', damaged: '1', lot: 'A' });
    came.set(key, 'expires', '30 9 2028');
    came.set(key, 'bin', 'b-07');
    came.add(tools, { quantity: '60' });
    expect(came.read()).toEqual({
      arrivals: [
        { line: 46, quantity: '5', damaged: '1', lot: 'A', expires: '2028-09-30', bin: 'B-07' },
        { line: 47, quantity: '60' },
      ],
    });
  });
});

function open(inputs: object = {}, role: 'warehouse' | 'coordinator' = 'warehouse') {
  const test = testApi();
  const receipt = {
    purchase: { ...purchase, lines: [], notices: [], state: 'closed' },
    goesTo: [{ order: 7, number: '20007', lineNo: 1, customer: 'Wether Hill', item: 'FEE-SYR-14', quantity: '12', day: '2027-03-16' }],
  };
  test.answers(
    [supplyRoutes.readPurchase, purchase],
    [supplyRoutes.purchaseHistory, []],
    [supplyRoutes.receive, receipt],
    [supplyRoutes.previewReceipt, { availableDay: null, ripple: { later: [testMover()], earlier: [], offers: [] } }],
    [supplyRoutes.readScan, scan({ item: 'FEE-SYR-14', lot: 'B-2', expires: '2028-01-31', count: '20' })],
  );
  return { ...test, screen: show(ReceivingSheet, { id: '27', ...inputs }, test.providers, role) };
}

it('names whom the goods are owed to while they are taken in, and again when they are booked', () => {
  const { screen, api } = open();
  expect(screen.text).toContain('12 of these are needed for orders of Wether Hill: keep them at the dock');
  expect(screen.text).toContain('Announced on Tue 9 Mar as P7627-D1, tracking TRK1: 38 FEE-SYR-14');
  screen.click('Received as announced');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(api.call).toHaveBeenCalledWith(supplyRoutes.receive, {
    params: { purchase: 27 },
    body: { version: 4, notice: 3, lines: [{ line: 46, quantity: '38', lot: 'L-9', expires: '2028-08-30', bin: 'C-02' }] },
  });
  expect(screen.text).toContain('keep at the dock12 FEE-SYR-14 for order 20007/1, Wether Hill');
});

describe('what came short', () => {
  const seen = [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }];

  function short() {
    const test = open({}, 'coordinator');
    test.screen.press('a');
    const came = test.screen.element.querySelectorAll<HTMLInputElement>('input[id^=came-]')[1]!;
    came.value = '50';
    came.dispatchEvent(new Event('input'));
    test.screen.settle();
    const lot = test.screen.field('Lot');
    lot.value = 'L-1';
    lot.dispatchEvent(new Event('input'));
    test.screen.settle();
    return test;
  }
  const booked = (api: { call: jest.Mock }) => api.call.mock.calls.filter(([route]) => route === supplyRoutes.receive).map(([, input]) => input.body);

  it('says whom it hurts, and moves them as was seen when it is booked', () => {
    const { screen, api } = short();
    expect(screen.text).toContain('TOL-HIV-J: 50 of 60, 10 short');
    expect(screen.text).toContain('Pipistrelle Farm Shop');
    screen.press('Enter', document.body, { ctrlKey: true });
    expect(booked(api)).toEqual([expect.objectContaining({ closeRest: false, decision: { seen, accept: [] } })]);
  });

  it('is booked without moving anybody, and leads to the board with just those it hurts', () => {
    const { screen, api } = short();
    const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    screen.settle();
    screen.press('b', document.body, { ctrlKey: true });
    expect(booked(api)).toEqual([expect.objectContaining({ closeRest: true })]);
    expect(booked(api)[0]).not.toHaveProperty('decision');
    expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '31' } });
  });

  it('leads nowhere while nobody is hurt: the key does nothing', () => {
    const { screen, api, answers } = short();
    answers([supplyRoutes.previewReceipt, { availableDay: null, ripple: { later: [], earlier: [], offers: [] } }]);
    screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    screen.settle();
    screen.press('b', document.body, { ctrlKey: true });
    expect(booked(api)).toEqual([]);
    expect(screen.text).not.toContain('route the shortages');
  });

  describe('and is booked before it is known whom that hurts', () => {
    const ripple = (...later: object[]) => ({ availableDay: null, ripple: { later, earlier: [], offers: [] } });

    /** Another quantity is typed, and the key pressed while the answer is under way. */
    function early(key: string) {
      const test = short();
      const answer = new Subject<unknown>();
      const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
      test.answers([supplyRoutes.readPurchase, purchase], [supplyRoutes.purchaseHistory, []], [supplyRoutes.receive, { purchase, goesTo: [] }]);
      const others = test.api.call.getMockImplementation()!;
      test.api.call.mockImplementation((route: unknown) => (route === supplyRoutes.previewReceipt ? answer : others(route)));
      type(test.screen, '40');
      test.screen.press(key, document.body, { ctrlKey: true });
      const comes = (reply: object) => {
        answer.next(reply);
        test.screen.settle();
      };
      return { ...test, go, comes, answer };
    }
    function type(screen: ReturnType<typeof short>['screen'], quantity: string) {
      const came = screen.element.querySelectorAll<HTMLInputElement>('input[id^=came-]')[1]!;
      came.value = quantity;
      came.dispatchEvent(new Event('input'));
      screen.settle();
    }

    it('waits, says so, and is done where it hurts nobody', () => {
      const { screen, api, comes } = early('Enter');
      expect(booked(api)).toEqual([]);
      expect(screen.text).toContain('Computing which promises move');
      comes(ripple());
      expect(booked(api)).toEqual([expect.objectContaining({ decision: { seen: [], accept: [] } })]);
      expect(screen.text).not.toContain('Computing');
    });

    it('is looked at first where it hurts others than stood there', () => {
      const { screen, api, comes } = early('Enter');
      comes(ripple(testMover({ line: 77, customer: 'Abbot’s Orchard' })));
      expect(booked(api)).toEqual([]);
      expect(screen.text).toContain('look at it, then press again');
      screen.press('Enter', document.body, { ctrlKey: true });
      expect(booked(api)).toEqual([expect.objectContaining({ decision: { seen: [{ line: 77, after: seen[0]!.after }], accept: [] } })]);
    });

    it('leads to the board with those it hurts now, not with those that stood there before', () => {
      const { screen, api, comes, go } = early('b');
      comes(ripple(testMover({ line: 77 })));
      expect(booked(api)).toEqual([]);
      screen.press('b', document.body, { ctrlKey: true });
      expect(booked(api)).toHaveLength(1);
      expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '77' } });
    });

    it('is not done after all where something else is typed meanwhile', () => {
      const { screen, api, comes } = early('Enter');
      type(screen, '30');
      comes(ripple());
      expect(booked(api)).toEqual([]);
      expect(screen.text).not.toContain('Computing');
    });

    it('is not booked where that cannot be reckoned, and says why', () => {
      const { screen, api, answer } = early('Enter');
      answer.error(new Error('Nockwright does not answer.'));
      screen.settle();
      expect(screen.text).toContain('Nockwright does not answer.');
      expect(booked(api)).toEqual([]);
    });

    it('may be booked at once where only a lot is typed: that moves nobody', () => {
      const { screen, api } = short();
      const lot = screen.field('Lot');
      lot.value = 'L-2';
      lot.dispatchEvent(new Event('input'));
      screen.fixture.detectChanges();
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true, bubbles: true }));
      expect(booked(api)).toHaveLength(1);
    });
  });
});

it('a scanned label fills lot, day and count; one of another purchase says where it belongs', () => {
  const { screen, answers } = open();
  const field = screen.field('Scan a label, or type an item or a number');
  field.value = '(01)...';
  screen.press('Enter', field);
  expect(screen.field('Lot').value).toBe('B-2');
  expect(screen.field('Good quantity').value).toBe('20');
  answers([
    supplyRoutes.readScan,
    scan({ item: 'WAX-BLK-1', awaited: [{ kind: 'purchase', id: 2, number: 'P7602', from: 'Appleyard Wax', line: 9, open: '20', expectedDay: '2027-03-15' }] }),
  ]);
  field.value = 'wax';
  screen.press('Enter', field);
  expect(screen.text).toContain('WAX-BLK-1 is not expected on P7627: it is on P7602 from Appleyard Wax.');
});

it('Escape leaves a field before it leaves the screen: nothing that was typed is lost', () => {
  const { screen } = open();
  document.body.append(screen.element);
  screen.press('a');
  const came = screen.field('Good quantity');
  came.focus();
  screen.press('Escape', came);
  expect(document.activeElement).not.toBe(came);
  expect(screen.field('Good quantity').value).toBe('40');
  screen.element.remove();
});

it('the list says what is due, and what a scan could mean where it means more than one', () => {
  const { providers, answers, api } = testApi();
  const awaited = { kind: 'purchase' as const, id: 27, number: 'P7627', from: 'Mellish Feeds', line: 46, open: '40', expectedDay: '2027-03-15' };
  answers(
    [
      supplyRoutes.listExpected,
      [
        {
          kind: 'purchase',
          id: 10,
          number: 'P7610',
          from: 'Tarnbeck Glass',
          warehouse: 'QUI',
          expectedDay: '2027-03-05',
          overdue: true,
          lines: 2,
          items: 'JAR-227-HX',
        },
      ],
    ],
    [supplyRoutes.readScan, scan({ item: 'FEE-SYR-14', description: 'Invert syrup', awaited: [awaited, { ...awaited, id: 28, number: 'P7628' }] })],
  );
  const screen = show(ReceivingList, {}, providers, 'warehouse');
  expect(screen.text).toContain('Tarnbeck Glass');
  expect(screen.element.querySelectorAll('.late')).toHaveLength(1);
  const field = screen.field('Scan a label, or type an item or a number');
  field.value = 'syrup';
  screen.press('Enter', field);
  expect(screen.text).toContain('Invert syrup is expected from');
  expect(screen.text).toContain('P7628');
  api.call.mockReturnValue(throwError(() => new Error('no item “x”')));
  field.value = 'x';
  screen.press('Enter', field);
  expect(screen.text).toContain('no item “x”');
});
