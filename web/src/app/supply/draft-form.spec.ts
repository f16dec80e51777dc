import { signal } from '@angular/core';
import { itemRoutes } from '@nockwright/contract/items';
import { By } from '@angular/platform-browser';
import { of, Subject } from 'rxjs';
import { supplyRoutes, type PurchaseView } from '@nockwright/contract/supply';
import { show, testApi } from '../test-screen';
import { DraftForm } from './draft-form';
import { filledLines } from './item-lines';
import { NewPaper } from './new-paper';
import { PlaceChoice } from './place-choice';
import { PurchaseStore } from './purchase-store';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const line = (id: number, item: string, more: object = {}) => ({
  id,
  item,
  description: item,
  bound: false,
  lifts: false,
  quantity: '60',
  cost: '9.1',
  ...more,
});
const purchase = {
  kind: 'stock',
  note: '',
  lines: [line(1, 'FEE-POL-05', { bound: true, quantity: '40' }), line(2, 'TRT-THY-02'), line(3, 'FEE-POL-05', { lifts: true, quantity: '10' })],
} as unknown as PurchaseView;

function open() {
  const store = { fault: signal(''), busy: signal(false), changeDraft: jest.fn() };
  const { providers, answers } = testApi();
  answers([itemRoutes.findItems, []]);
  return { store, screen: show(DraftForm, { purchase }, [...providers, { provide: PurchaseStore, useValue: store }]) };
}

it('a draft keeps what is bought for an order, and sends the rest as it was typed', () => {
  const { store, screen } = open();
  expect(() => screen.field('Quantity of FEE-POL-05')).toThrow();
  screen.type('Quantity of TRT-THY-02', '48');
  screen.type('Cost of FEE-POL-05', '5.9');
  screen.type('Item of line 3', ' fee-syr-14 ');
  screen.type('Quantity of line 3', '12');
  screen.type('Note to the supplier', ' Tail lift ');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(store.changeDraft.mock.calls[0][0]).toEqual({
    note: 'Tail lift',
    lines: [
      { id: 1, item: 'FEE-POL-05', quantity: '40', cost: '5.9' },
      { id: 2, item: 'TRT-THY-02', quantity: '48' },
      { item: 'FEE-SYR-14', quantity: '12' },
    ],
  });
});

it('a line is struck; what is no quantity is told before anything is sent', () => {
  const { store, screen } = open();
  screen.type('Quantity of TRT-THY-02', 'many');
  screen.click('Save draft');
  expect(store.fault()).toBe('TRT-THY-02: expected a quantity and a cost.');
  screen.click('Strike TRT-THY-02');
  screen.click('Save draft');
  expect(store.changeDraft.mock.calls[0][0].lines).toEqual([{ id: 1, item: 'FEE-POL-05', quantity: '40' }]);
});

it('lines in which nothing was typed are left out', () => {
  expect(
    filledLines([
      { item: '', quantity: ' ' },
      { item: 'jar', quantity: '' },
    ]),
  ).toEqual([{ item: 'JAR', quantity: '' }]);
});

it('a purchase asks for its supplier, its warehouse and a line, in this sequence', () => {
  const { providers, answers, api } = testApi();
  answers([supplyRoutes.listSuppliers, [{ code: 'SUP', name: 'Tarnbeck' }]], [supplyRoutes.listWarehouses, [{ code: 'MAR', name: 'Marrowby' }]]);
  const screen = show(NewPaper, { paper: 'purchase' }, providers);
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(screen.text).toContain('Choose the supplier.');
  expect(api.call.mock.calls.map(([route]) => route)).not.toContain(supplyRoutes.createPurchase);
});

it('a transfer asks from where to where', () => {
  const { providers, answers } = testApi();
  answers([supplyRoutes.listSuppliers, []], [supplyRoutes.listWarehouses, []]);
  const screen = show(NewPaper, { paper: 'transfer' }, providers);
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(screen.text).toContain('Choose from where to where.');
});

it('an assembly asked for twice on a slow line is made once; a refusal is said and it may be asked for again', () => {
  const { api, providers } = testApi();
  const reply = new Subject<object>();
  api.call.mockImplementation((route: unknown) => (route === supplyRoutes.createAssembly ? reply : of([])));
  const screen = show(NewPaper, { paper: 'assembly', item: 'KIT' }, providers);
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(screen.text).toContain('Choose the warehouse.');
  (screen.fixture.debugElement.query(By.directive(PlaceChoice)).componentInstance as PlaceChoice).code.set('MAR');
  screen.settle();
  screen.press('Enter', document.body, { ctrlKey: true });
  screen.press('Enter', document.body, { ctrlKey: true });
  const made = api.call.mock.calls.filter(([route]) => route === supplyRoutes.createAssembly).map((call: unknown[]) => call[1]);
  expect(made).toEqual([{ body: { item: 'KIT', quantity: '', warehouse: 'MAR' } }]);
  reply.error(new Error('body.quantity: expected a quantity'));
  screen.settle();
  expect(screen.text).toContain('expected a quantity');
  expect(screen.button('Commit components').disabled).toBe(false);
});
