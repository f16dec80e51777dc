import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import { show, testApi } from '../test-screen';
import { EndedForm } from './ended-form';
import { OtherItems } from './other-items';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const item = { code: 'FRK-UNC-1', discontinued: false, successor: null } as unknown as ItemPage;

it('an item that is discontinued has a successor, as it was typed', () => {
  const { providers, answers, lastBody } = testApi();
  answers([itemRoutes.setDiscontinued, item]);
  const screen = show(EndedForm, { item }, providers);
  screen.type('Replaced by (empty: nothing)', 'frk-unc-2');
  screen.type('Why (for the history)', 'mould broke');
  screen.click('Discontinue');
  expect(lastBody()).toEqual({ discontinued: true, successor: 'FRK-UNC-2', soldByNobody: false, reason: 'mould broke' });
});

it('one that was may be made again', () => {
  const { providers, answers, lastBody } = testApi();
  answers([itemRoutes.setDiscontinued, item]);
  const screen = show(EndedForm, { item: { ...item, discontinued: true, successor: 'X' } }, providers);
  screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  screen.settle();
  screen.click('Resume');
  expect(lastBody()).toEqual({ discontinued: false });
});

it('other items are named with how many of them, and nothing stands where there are none', () => {
  const other = { item: 'JAR-340-RD', description: 'Round jar', unit: 'EA', ratio: '1', available: '2400' };
  expect(show(OtherItems, { heading: 'May go instead of it', words: 'for one', items: [other] }, []).text).toContain('1 for one, 2,400 each to promise');
  expect(show(OtherItems, { heading: 'May go instead of it', words: 'for one', items: [] }, []).text).toBe('');
});
