import { show } from '../test-screen';
import { CustomerName } from './customer-name';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const open = (role: string) => show(CustomerName, { id: 7, name: 'Wether Hill' }, [], role).element;

test('a name leads to the customer’s page, for those who may open it; it opens nothing else', () => {
  const element = open('coordinator');
  const link = element.querySelector('a')!;
  expect([link.getAttribute('href'), link.textContent]).toEqual(['/customers/7', 'Wether Hill']);
  const rowClicked = jest.fn();
  element.parentElement!.addEventListener('click', rowClicked);
  link.addEventListener('click', (event) => event.preventDefault());
  // As one opens it beside: the router leaves that to the browser.
  link.dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true, ctrlKey: true }));
  expect(rowClicked).not.toHaveBeenCalled();
});

test('for the warehouse it is a name', () => {
  const element = open('warehouse');
  expect([element.querySelector('a'), element.textContent!.trim()]).toEqual([null, 'Wether Hill']);
});
