import { show } from '../test-screen';
import { DayField } from './day-field';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function open() {
  const screen = show(DayField, { day: '2027-03-12', fieldId: 'day' }, []);
  const changed = jest.fn();
  screen.fixture.componentInstance.changed.subscribe(changed);
  const field = screen.element.querySelector('input')!;
  const type = (text: string) => {
    field.value = text;
    field.dispatchEvent(new Event('input'));
    screen.settle();
  };
  return { screen, field, changed, type };
}

it('stands as it is said, and says what is meant before it counts', () => {
  const { screen, field, changed, type } = open();
  expect(field.value).toBe('Fri 12 Mar');
  type('+3');
  expect(screen.text).toBe('Fri 12 Mar');
  type('19 mar');
  expect(screen.text).toBe('Fri 19 Mar');
  expect(changed).not.toHaveBeenCalled();
  screen.press('Enter', field);
  expect(changed.mock.calls).toEqual([['2027-03-19']]);
});

it('what is no day is said and does not count; Escape brings back what stood', () => {
  const { screen, field, changed, type } = open();
  type('31 feb');
  expect(screen.text).toContain('no day: type fri, 12 mar, +3');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  const enter = new KeyboardEvent('keydown', { key: 'Enter', cancelable: true });
  field.dispatchEvent(enter);
  expect(enter.defaultPrevented).toBe(true);
  field.dispatchEvent(new Event('blur'));
  screen.settle();
  expect(field.value).toBe('31 feb');
  screen.press('Escape', field);
  expect(field.value).toBe('Fri 12 Mar');
  expect(changed).not.toHaveBeenCalled();
});

it('leaving it takes what was typed, once, and only where it is another day', () => {
  const { screen, field, changed, type } = open();
  type('fri 12 mar');
  field.dispatchEvent(new Event('blur'));
  expect(changed).not.toHaveBeenCalled();
  type('mon');
  field.dispatchEvent(new Event('blur'));
  screen.settle();
  field.dispatchEvent(new Event('blur'));
  expect(changed.mock.calls).toEqual([['2027-03-15']]);
});

it('a day that is set meanwhile does not overwrite what is being typed', () => {
  const { screen, field, type } = open();
  type('19 m');
  screen.set('day', '2027-03-30');
  expect(field.value).toBe('19 m');
  screen.press('Escape', field);
  expect(field.value).toBe('Tue 30 Mar');
});

it('tells what is being typed until it is taken or given up, and goes on with what was kept', () => {
  const { screen, field, type } = open();
  const edited = jest.fn();
  screen.fixture.componentInstance.edited.subscribe(edited);
  type('19 m');
  type('19 mar');
  screen.press('Enter', field);
  expect(edited.mock.calls).toEqual([['19 m'], ['19 mar'], [null]]);
  const again = show(DayField, { day: '2027-03-12', fieldId: 'day', kept: '19 mar' }, []);
  expect(again.element.querySelector('input')!.value).toBe('19 mar');
  expect(again.text).toContain('Fri 19 Mar');
});
