import { letterFor, type LetterFacts } from './index';

const facts: LetterFacts = {
  kind: 'acknowledgement',
  number: '20312',
  poNumber: 'WH-8850',
  contact: 'Nora Tindall',
  spoken: 'Everything leaves in time, the last of it Fri 12 Mar.',
  validUntil: null,
  by: 'Ida Perrin',
  firm: 'Fell & Moor Supply',
};

test('an acknowledgement names both numbers and says the days', () => {
  const { subject, text } = letterFor(facts, '2027-03-09');
  expect(subject).toBe('Your order 20312, your number WH-8850');
  expect(text.split('\n')[0]).toBe('Good day Nora Tindall,');
  expect(text).toContain('the last of it Fri 12 Mar.');
  expect(text.endsWith('Ida Perrin\nFell & Moor Supply')).toBe(true);
});

test('a quote says until when it is valid', () => {
  expect(letterFor({ ...facts, kind: 'quote', number: 'Q1001', poNumber: '', validUntil: '2027-03-23' }, '2027-03-09')).toMatchObject({
    subject: 'Quote Q1001',
    text: expect.stringContaining('valid until Tue 23 Mar.'),
  });
});

test('a pro forma of a draft has no number to name, and nobody may be known there', () => {
  const letter = letterFor({ ...facts, kind: 'pro_forma', number: null, poNumber: '', contact: '' }, '2027-03-09');
  expect(letter.subject).toBe('Pro forma');
  expect(letter.text.startsWith('Good day,\n')).toBe(true);
});
