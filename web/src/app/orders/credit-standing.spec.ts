import { TestBed } from '@angular/core/testing';
import type { CreditView } from '@nockwright/contract/customers';
import { Session } from '../access';
import { CreditStanding } from './credit-standing';

const CREDIT: CreditView = {
  limit: '1200.00',
  unpaid: '366.40',
  shippedNotBilled: '0.00',
  openOrders: '769.00',
  exposure: '1135.40',
  left: '64.60',
  overdue: '0.00',
  overdueSince: null,
};

function said(more: Partial<CreditView> = {}): string {
  TestBed.configureTestingModule({ providers: [{ provide: Session, useValue: { today: () => '2027-03-09' } }] });
  const fixture = TestBed.createComponent(CreditStanding);
  fixture.componentRef.setInput('credit', { ...CREDIT, ...more });
  fixture.detectChanges();
  return (fixture.nativeElement as HTMLElement).textContent!.replace(/\s+/g, ' ').trim();
}

it('says how much of the credit is used, and by what', () => {
  expect(said()).toBe('Credit: 1,135.40 of 1,200.00 used. 366.40 unpaid, 0.00 shipped and not billed, 769.00 on open orders');
});

it('says that they are over it', () => expect(said({ left: '-0.01' })).toContain('over the limit.'));

it('says where there is no limit', () => expect(said({ limit: null, left: null })).toContain('Owes 1,135.40; no credit limit.'));

it.each([
  ['2027-03-08', '1 day'],
  ['2027-02-27', '10 days'],
])('asks for what is overdue since %s', (overdueSince, days) => {
  expect(said({ overdue: '366.40', overdueSince })).toContain(`366.40 overdue since`);
  TestBed.resetTestingModule();
  expect(said({ overdue: '366.40', overdueSince })).toContain(`, ${days}: ask for it before you take more.`);
});
