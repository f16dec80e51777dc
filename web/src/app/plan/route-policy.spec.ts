import { shortageRoutes, type RoutePolicyView } from '@nockwright/contract/shortages';
import { Subject, throwError } from 'rxjs';
import { Live } from '../live';
import { show, testApi } from '../test-screen';
import { RoutePolicy } from './route-policy';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const weights = { latePercent: '2', shipmentCost: '8', surplusPercent: '20', cutPercent: '30' };
const policy: RoutePolicyView = { name: 'on_time', weights: { on_time: weights, cheapest: { ...weights, latePercent: '0.5' }, fewest_shipments: weights } };

function open(role = 'manager') {
  const test = testApi();
  const kept = new Subject<RoutePolicyView>();
  const providers = [...test.providers, { provide: Live, useValue: { kept: () => kept } }];
  const screen = show(RoutePolicy, {}, providers, role);
  kept.next(policy);
  screen.settle();
  return { ...test, screen, kept };
}

it('the manager sets what weighs how much, and it is sent as a whole', () => {
  const { screen, api, answers } = open();
  answers([shortageRoutes.setPolicy, policy]);
  expect(screen.text).not.toContain('Save');
  screen.type('a further shipment, EUR', '12.50');
  screen.click('Save');
  expect(api.call).toHaveBeenCalledWith(shortageRoutes.setPolicy, {
    body: { ...policy, weights: { ...policy.weights, on_time: { ...weights, shipmentCost: '12.50' } } },
  });
  expect(screen.text).not.toContain('Save');
});

it.each(['', 'much', '-1', '1.234', '1234567'])('“%s” is no weight: it is told by its name, and nothing is sent', (figure) => {
  const { screen, api } = open();
  screen.type('cut, % of the value', figure);
  screen.click('Save');
  expect(screen.text).toContain('cut, % of the value: expected a number with at most two decimals.');
  expect(api.call).not.toHaveBeenCalled();
});

it('what is being typed is not swept away by what another sets meanwhile', () => {
  const { screen, kept } = open();
  screen.type('a day late, % of the value', '4');
  kept.next({ ...policy, name: 'cheapest' });
  screen.settle();
  expect(screen.field('a day late, % of the value').value).toBe('4');
});

it('says why it could not be set, and keeps what was typed', () => {
  const { screen, api } = open();
  api.call.mockReturnValue(throwError(() => new Error('Only a manager may do this.')));
  screen.type('a day late, % of the value', '4');
  screen.click('Save');
  expect(screen.text).toContain('Only a manager may do this.');
  expect(screen.text).toContain('Save');
});

it('others see it and cannot set it', () => {
  const { screen } = open('coordinator');
  expect(screen.element.querySelectorAll('input, button')).toHaveLength(0);
  expect(screen.text).toContain('8a further shipment, EUR');
});
