import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { provideRouter } from '@angular/router';
import { of, throwError } from 'rxjs';
import { TestScreen } from '../test-screen';
import { ProblemError } from '../api';
import { LogIn } from './log-in';
import { Session } from './session';

const session = { logIn: jest.fn() };
beforeEach(() => {
  jest.useFakeTimers();
  session.logIn.mockReset().mockReturnValue(of({ mustChangePassword: false }));
});
afterEach(() => jest.useRealTimers());

function open(to?: string) {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: session }] });
  const go = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
  const fixture = TestBed.createComponent(LogIn);
  if (to !== undefined) fixture.componentRef.setInput('to', to);
  const screen = new TestScreen(fixture);
  const submit = () => {
    screen.element.querySelector('form')!.dispatchEvent(new Event('submit'));
    screen.settle();
  };
  return { screen, go, submit };
}

it.each([
  ['/shortages?lines=4', '/shortages?lines=4'],
  [undefined, '/orders'],
  ['https://elsewhere.example/', '/orders'],
  ['//elsewhere.example/', '/orders'],
  ['javascript:alert(1)', '/orders'],
])('leads from %s to %s and nowhere else', (to, leads) => {
  const { screen, go, submit } = open(to);
  screen.type('Name', ' ida ');
  screen.type('Password', ' with spaces ');
  submit();
  expect(session.logIn).toHaveBeenCalledWith('ida', ' with spaces ', '');
  expect(go).toHaveBeenCalledWith(leads);
});

it('asks for both before it asks the server', () => {
  const { screen, submit } = open();
  screen.type('Name', 'ida');
  submit();
  expect(screen.text).toContain('Type your name and your password.');
  expect(session.logIn).not.toHaveBeenCalled();
});

it('says why it was refused, and lets it be tried again', () => {
  session.logIn.mockReturnValue(throwError(() => new Error('Name or password is wrong.')));
  const { screen, go, submit } = open();
  screen.type('Name', 'ida');
  screen.type('Password', 'guess');
  submit();
  expect(screen.text).toContain('Name or password is wrong.');
  expect(screen.button('Log in').disabled).toBe(false);
  expect(go).not.toHaveBeenCalled();
});

it('asks for a time code where the password was right and one is needed, and sends all three', () => {
  const { screen, go, submit } = open();
  session.logIn.mockReturnValueOnce(
    throwError(() => new ProblemError({ type: '/problems/code-needed', title: 'x', status: 401, detail: 'Give the six digits.', errors: [] })),
  );
  screen.type('Name', 'ida');
  screen.type('Password', 'long enough here');
  submit();
  expect(screen.text).toContain('Give the six digits.');
  screen.type('Six-digit code', '123 456');
  submit();
  expect(session.logIn).toHaveBeenLastCalledWith('ida', 'long enough here', '123 456');
  expect(go).toHaveBeenCalledWith('/orders');
});

it('leads whose password somebody else knows to choose one', () => {
  const { screen, go, submit } = open('/shortages');
  session.logIn.mockReturnValueOnce(of({ mustChangePassword: true }));
  screen.type('Name', 'nell');
  screen.type('Password', 'given by mona 1');
  submit();
  expect(go).toHaveBeenCalledWith('/you');
});
