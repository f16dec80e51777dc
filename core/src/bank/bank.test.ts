import type { OpenInvoice } from '../billing';
import { readBankCsv } from './bank-csv';
import { readCamt053 } from './camt053';
import type { BankEntry } from './bank-entry';
import { indexPayers, proposePayers, type BankInvoice } from './propose-payer';

/** A statement as banks send it. Element names and nesting: ISO 20022 camt.053.001.02, written down from memory. */
const entry = (parts: string, side = 'CRDT', amount = '120.50', status = 'BOOK') =>
  `<Ntry><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${side}</CdtDbtInd><Sts>${status}</Sts><BookgDt><Dt>2027-03-08</Dt></BookgDt>${parts}</Ntry>`;
const camt = (entries: string, more = '') =>
  `<?xml version="1.0" encoding="UTF-8"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><GrpHdr><MsgId>M1</MsgId></GrpHdr>
  <Stmt><Id>S1</Id><Acct><Id><IBAN>GB33BUKB20201555555555</IBAN></Id></Acct>${entries}</Stmt>${more}</BkToCstmrStmt></Document>`;
const details = (reference: string, text: string, name = 'Wetherhill Farms') =>
  `<NtryDtls><TxDtls><RltdPties><Dbtr><Nm>${name}</Nm></Dbtr><DbtrAcct><Id><IBAN>GB82WEST12345698765432</IBAN></Id></DbtrAcct></RltdPties>
  <RmtInf><Ustrd>${text}</Ustrd><Strd><CdtrRefInf><Ref>${reference}</Ref></CdtrRefInf></Strd></RmtInf></TxDtls></NtryDtls>`;

describe('a bank statement as camt.053', () => {
  test('gives who paid what, when, from where and for what', () => {
    const read = readCamt053(camt(entry(`<AcctSvcrRef>B77</AcctSvcrRef>${details('RF18539007547034', 'Invoice I12')}`)));
    expect(read).toEqual({
      ok: true,
      document: {
        account: 'GB33BUKB20201555555555',
        currency: 'EUR',
        entries: [
          {
            key: 'B77',
            day: '2027-03-08',
            amount: '120.50',
            direction: 'in',
            party: 'Wetherhill Farms',
            partyAccount: 'GB82WEST12345698765432',
            reference: 'RF18539007547034',
            text: 'Invoice I12',
          },
        ],
      },
    });
  });

  test('leaves out what is only announced; parts of a batch are payments of their own; equal ones are told apart', () => {
    const part = (amount: string) => `<TxDtls><AmtDtls><TxAmt><Amt Ccy="EUR">${amount}</Amt></TxAmt></AmtDtls></TxDtls>`;
    const read = readCamt053(
      camt(
        [
          entry('', 'CRDT', '5.00', 'PDNG'),
          entry(`<AcctSvcrRef>B1</AcctSvcrRef><NtryDtls>${part('20.00')}${part('10.00')}</NtryDtls>`, 'CRDT', '30.00'),
          entry('', 'DBIT', '7.00'),
          entry('', 'DBIT', '7.00'),
        ].join(''),
      ),
    );
    const entries = read.ok ? read.document.entries : [];
    expect(entries.map((row) => [row.amount, row.direction])).toEqual([
      ['20.00', 'in'],
      ['10.00', 'in'],
      ['7.00', 'out'],
      ['7.00', 'out'],
    ]);
    expect(new Set(entries.map((row) => row.key)).size).toBe(4);
  });

  test.each([
    ['<Document/>', 'expected a bank statement'],
    ['<Document', 'line 1'],
    ['<!DOCTYPE x><Document/>', 'document type'],
    [camt(entry('', 'CRDT', '-3')), 'entry 1: Amt: expected an amount, got -3'],
    [camt(entry('', 'SIDE')), 'entry 1: CdtDbtInd: expected CRDT or DBIT, got SIDE'],
    [camt(entry('').replace('2027-03-08', '2027-02-30')), 'entry 1: BookgDt: expected a day, got 2027-02-30'],
    [camt(entry(''), '<Stmt><Acct><Id><IBAN>X</IBAN></Id></Acct></Stmt>'), 'several accounts'],
    [camt(`${entry('')}${entry('').replace('EUR', 'USD')}`), 'amounts in EUR and USD'],
  ])('is refused where it is wrong: %.40s', (xml, fault) => {
    const read = readCamt053(xml);
    expect(read.ok ? [] : read.faults.join('; ')).toContain(fault);
  });
});

describe('movements as comma-separated values', () => {
  test.each([
    ['2027-03-09', '120.5', '120.5'],
    ['09.03.2027', '1.234,50', '1234.50'],
    ['9/3/2027', '1,234.50', '1234.50'],
    ['2027-03-09', '1 234', '1234'],
  ])('are read as they are written: %s, %s', (day, amount, plain) => {
    const read = readBankCsv(`Date;Amount;Payer;Details\n${day};${amount};A Ltd;I1`, 'EUR');
    expect(read.ok && read.document.entries[0]).toMatchObject({ day: '2027-03-09', amount: plain, direction: 'in', party: 'A Ltd', text: 'I1' });
  });

  test('that are alike and have no id of the bank are as many as there are, the same in each file', () => {
    const read = () => readBankCsv('day,amount,text\n2027-03-09,4,fee\n2027-03-09,4,fee', 'EUR');
    const keys = () => {
      const file = read();
      return file.ok ? file.document.entries.map((entry) => entry.key) : [];
    };
    expect(new Set(keys()).size).toBe(2);
    expect(keys()).toEqual(keys());
  });

  test('below 0 went out; what is wrong is said by line and column', () => {
    const read = readBankCsv('day,amount\n2027-03-09,-4.00', 'EUR');
    expect(read.ok && read.document.entries[0]).toMatchObject({ amount: '4.00', direction: 'out' });
    const wrong = readBankCsv('day,amount\nsoon,1\n2027-03-09,0', 'EUR');
    expect(wrong.ok ? [] : wrong.faults).toEqual([
      'line 2: day: expected a day as 2027-03-09, got soon',
      'line 3: amount: expected an amount other than 0, got 0',
    ]);
    const bare = readBankCsv('2027-03-09,1', 'EUR');
    expect(bare.ok ? [] : bare.faults).toEqual(['line 1: expected a heading with at least day and amount']);
  });
});

describe('whose a payment is', () => {
  const invoice = (id: number, customer: number, open: string, reference = ''): BankInvoice => ({
    id,
    number: `I${id}`,
    customer,
    reference,
    total: open,
    open,
    dueDay: `2027-03-${String(id).padStart(2, '0')}`,
    discountUntil: null,
    discountPercent: '0',
  });
  // ISO 11649's own example of a reference.
  const invoices = [invoice(1, 1, '120.50', 'RF18539007547034'), invoice(2, 1, '80'), invoice(3, 2, '80'), invoice(4, 3, '55')];
  const customers = [
    { id: 1, name: 'Wetherhill Farms Ltd' },
    { id: 2, name: 'Ashgrove & Co' },
    { id: 3, name: 'Northing Smallholders' },
  ];
  const index = indexPayers(invoices, customers, [['GB82WEST12345698765432', 3]]);
  const none = (_: OpenInvoice) => '0';
  const propose = (parts: Partial<BankEntry>, discountFor = none) =>
    proposePayers(
      { key: 'k', day: '2027-03-08', amount: '80', direction: 'in', party: '', partyAccount: '', reference: '', text: '', ...parts },
      index,
      discountFor,
    );

  test('is sure by a creditor reference to the cent, in its field or in the text', () => {
    for (const where of [{ reference: 'RF18 5390 0754 7034' }, { text: 'thanks RF18539007547034' }])
      expect(propose({ amount: '120.50', ...where })[0]).toMatchObject({
        customer: 1,
        sure: true,
        settled: [{ invoice: 1, amount: '120.5' }].map((row) => expect.objectContaining({ invoice: row.invoice })),
      });
    expect(propose({ amount: '100', reference: 'RF18539007547034' })[0]).toMatchObject({ customer: 1, sure: false, onAccount: '0' });
    // A wrong check digit is no reference.
    expect(propose({ amount: '120.50', reference: 'RF19539007547034' })[0]).toMatchObject({ why: [{ kind: 'amount', invoice: 'I1' }], sure: false });
  });

  test('is sure by invoice numbers that come to it; not where it is too much, or another customer is named, too', () => {
    expect(propose({ amount: '200.50', text: 'invoices I1 and i2' })[0]).toMatchObject({ customer: 1, sure: true, onAccount: '0' });
    expect(propose({ amount: '210.50', text: 'I1 I2' })[0]).toMatchObject({ customer: 1, sure: false, onAccount: '10' });
    expect(propose({ amount: '80', text: 'I2 I3' }).map((one) => one.sure)).toEqual([false, false]);
  });

  test('is sure by an account that paid before, for one invoice to the cent', () => {
    expect(propose({ amount: '55', partyAccount: 'GB82WEST12345698765432' })[0]).toMatchObject({ customer: 3, sure: true });
    expect(propose({ amount: '54', partyAccount: 'GB82WEST12345698765432' })[0]).toMatchObject({ customer: 3, sure: false });
  });

  test('is a proposal by name or amount, never sure; the likeliest stands first', () => {
    const both = propose({ party: 'ASHGROVE AND CO.' });
    expect(both.map((one) => [one.customer, one.sure])).toEqual([
      [2, false],
      [1, false],
    ]);
    expect(both[0]!.why.map((reason) => reason.kind)).toEqual(['name', 'amount']);
    expect(propose({ party: 'Northing Farm', amount: '3' })[0]).toMatchObject({ customer: 3, why: [{ kind: 'name_like' }] });
    expect(propose({ amount: '200.50', party: 'Wetherhill Farms' })[0]!.why).toContainEqual({ kind: 'all_open' });
    expect(propose({ amount: '1', party: 'Nobody' })).toEqual([]);
  });

  test('takes the discount that may be taken', () => {
    const [first] = propose({ amount: '118.09', text: 'I1' }, (row) => (row.id === 1 ? '2.41' : '0'));
    expect(first).toMatchObject({ sure: true, settled: [{ invoice: 1, amount: '118.09', discount: '2.41' }] });
  });
});
