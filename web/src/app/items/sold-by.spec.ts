import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import { show, testApi } from '../test-screen';
import { SoldBy } from './sold-by';

const unit = (code: string, name: string, step: string) => ({ code, name, numerator: '1', denominator: '1', step });
const item = { code: 'WAX', units: [unit('KGM', 'kg', '0.5000'), unit('XBX', 'box', '1.0000')] } as unknown as ItemPage;
const { api, providers, answers, lastBody } = testApi();

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockReset();
});
afterEach(() => jest.useRealTimers());

it('says in what steps each unit is sold, and lets a manager set it', () => {
  const screen = show(SoldBy, { item }, providers, 'manager');
  expect(screen.text).toContain('kg in steps of 0.5');
  expect(screen.text).toContain('box whole');
  answers([itemRoutes.setStep, item]);
  screen.type('Sell a unit in steps of', 'kg 0.25');
  screen.click('Set');
  expect(lastBody()).toEqual({ unit: 'KGM', step: '0.25' });
  api.call.mockReset();
  screen.type('Sell a unit in steps of', 'tray 1');
  screen.click('Set');
  expect(api.call).not.toHaveBeenCalled();
  expect(screen.text).toContain('name a unit it is sold by');
});

it('lets nobody else', () => {
  expect(show(SoldBy, { item }, providers).text).not.toContain('Sell a unit in steps');
});
