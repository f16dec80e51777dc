import { signal } from '@angular/core';
import { pickRoutes, type PartView, type WalkView } from '@nockwright/contract/shipping';
import { of } from 'rxjs';
import { Reach } from '../../api';
import { Places } from '../../supply';
import { show, testApi } from '../../test-screen';
import { PickWalk } from './pick-walk';

const part = (id: number, item: string, bin: string, picked = '0'): PartView => ({
  id,
  shipment: 5,
  line: id,
  lineNo: id,
  item,
  description: item,
  unit: 'EA',
  theirItem: '',
  bin,
  walk: id,
  lot: '',
  expires: null,
  tracksLots: false,
  tracksSerials: false,
  numbered: 0,
  gtins: [],
  quantity: '4',
  picked,
  packed: '0',
  ordered: '',
});
const stop = (own: PartView) => ({ part: own, shipmentNumber: '20400-1', customer: 'Wether Hill', tote: '', consignment: 9 });
const walk = (...parts: PartView[]): WalkView => ({ warehouse: 'MAR', parts: parts.map(stop) });

beforeEach(() => {
  jest.useFakeTimers();
  localStorage.clear();
});
afterEach(() => jest.useRealTimers());

function open(first: WalkView) {
  const { api, providers, changed } = testApi();
  let now = first;
  api.call.mockImplementation((route: unknown) => {
    if (route === pickRoutes.readWalk) return of(now);
    if (route === pickRoutes.readSources) return of([{ place: 77, bin: 'R-02', lot: 'L2', expires: '2027-09-01', free: '9' }]);
    if (route === pickRoutes.pick) return of({ parts: now.parts.map((row) => row.part) });
    return of({ words: 'Pick 1 LID from R-02 instead.', consignment: {} });
  });
  const places = { provide: Places, useValue: { warehouses: signal([{ code: 'MAR', name: 'Marrowby' }]) } };
  const reach = { provide: Reach, useValue: { back: of() } };
  const screen = show(PickWalk, { warehouse: 'MAR' }, [...providers, places, reach], 'warehouse');
  return { screen, api, becomes: (next: WalkView) => ((now = next), changed.next(), screen.settle()) };
}

it('leads from bin to bin; other goods are refused, the right ones picked by one scan', () => {
  const { screen, api, becomes } = open(walk(part(1, 'JAR', 'A-01'), part(2, 'LID', 'A-02')));
  expect(screen.text).toContain('A-01');
  const field = screen.field('Scan the bin or the goods');
  const scan = (text: string) => {
    field.value = text;
    screen.press('Enter', field);
  };
  scan('lid');
  expect(screen.text).toContain('This is not JAR. Go to bin A-01.');
  scan('a-01');
  expect(screen.text).toContain('Right bin. Scan the goods');
  scan('jar');
  expect(api.call).toHaveBeenCalledWith(pickRoutes.pick, expect.objectContaining({ params: { part: 1 }, body: { quantity: '4', scan: 'jar' } }));
  becomes(walk(part(1, 'JAR', 'A-01', '4'), part(2, 'LID', 'A-02')));
  expect(screen.element.querySelector('.bin')!.textContent).toBe('A-02');
});

it('what is short is reported in two taps, and what others do meanwhile does not close it', () => {
  const { screen, api, becomes } = open(walk(part(2, 'LID', 'A-02')));
  screen.click('Report short');
  screen.type('Good quantity found', '3');
  becomes(walk(part(2, 'LID', 'A-02')));
  expect(screen.field('Good quantity found').value).toBe('3');
  screen.click('Missing');
  expect(api.call).toHaveBeenCalledWith(pickRoutes.reportShort, { params: { part: 2 }, body: { found: '3', why: 'missing' } });
  expect(screen.text).toContain('Pick 1 LID from R-02 instead.');
});

it('a walk that was read before the last pick shows its bin for a moment, and takes nothing of a report that was begun', () => {
  const { screen, becomes } = open(walk(part(1, 'JAR', 'A-01', '4'), part(2, 'LID', 'A-02')));
  screen.click('Report short');
  screen.type('Good quantity found', '3');
  becomes(walk(part(1, 'JAR', 'A-01'), part(2, 'LID', 'A-02')));
  expect(screen.element.querySelector('.bin')!.textContent).toBe('A-01');
  becomes(walk(part(1, 'JAR', 'A-01', '4'), part(2, 'LID', 'A-02')));
  expect(screen.field('Good quantity found').value).toBe('3');
});

it('another bin is chosen by hand, and the tote is kept with the shipment', () => {
  const { screen, api } = open(walk(part(2, 'LID', 'A-02')));
  screen.click('Other bins');
  expect(screen.text).toContain('9 free, expires');
  screen.click('Pick from R-02, lot L2');
  expect(api.call).toHaveBeenCalledWith(pickRoutes.chooseSource, { params: { part: 2 }, body: { place: 77 } });
  const tote = screen.field('Tote');
  tote.value = 'T4 ';
  tote.dispatchEvent(new Event('change'));
  expect(api.call).toHaveBeenCalledWith(pickRoutes.setTote, { params: { shipment: 5 }, body: { tote: 'T4' } });
});
