import { TestBed } from '@angular/core/testing';
import type { User } from '@nockwright/contract/access';
import { dayNumber, isoDay } from '@nockwright/core/calendar';
import { Session } from '../access';
import { RulerHead, RulerRow, rulerScale, type RulerPart } from './index';

const TODAY = '2027-03-09';
const WIDTH = 260;

beforeEach(() =>
  TestBed.configureTestingModule({ providers: [{ provide: Session, useValue: { today: () => TODAY, user: () => ({ today: TODAY }) as User } }] }),
);

const entry = (day: string, quantity: string, more: object = {}) => ({ day, quantity, kept: true, dropShip: false, arrives: null, broken: false, ...more });

function row(inputs: Record<string, unknown>) {
  const fixture = TestBed.createComponent(RulerRow);
  const all = { scale: rulerScale(TODAY, ['2027-03-30'], WIDTH), requested: '2027-03-12', schedule: [], ...inputs };
  for (const [name, value] of Object.entries(all)) fixture.componentRef.setInput(name, value);
  fixture.detectChanges();
  return fixture.nativeElement as HTMLElement;
}

describe('the scale', () => {
  it('holds today and every day asked of it, from left to right', () => {
    const scale = rulerScale(TODAY, ['2027-04-20', '2027-03-12'], WIDTH);
    expect(scale.first < TODAY && scale.last > '2027-04-20').toBe(true);
    const places = scale.days().map((day) => scale.x(day.day));
    expect([...places].sort((a, b) => a - b)).toEqual(places);
    expect(places.every((x) => x >= 0 && x <= WIDTH)).toBe(true);
  });

  it('shows three weeks at least and nine at most; what lies beyond stands at the edge', () => {
    expect(dayNumber(rulerScale(TODAY, [], WIDTH).last) - dayNumber(TODAY)).toBeGreaterThanOrEqual(18);
    const far = rulerScale(TODAY, ['2029-01-01'], WIDTH);
    expect(dayNumber(far.last) - dayNumber(TODAY)).toBeLessThanOrEqual(64);
    expect(far.x('2029-01-01')).toBe(WIDTH - 6);
  });

  it('knows weekends and Mondays', () => {
    const days = rulerScale(TODAY, [], WIDTH).days();
    expect(days.filter((day) => day.monday).every((day) => new Date(day.day).getUTCDay() === 1)).toBe(true);
    expect(days.filter((day) => day.weekend).every((day) => [0, 6].includes(new Date(day.day).getUTCDay()))).toBe(true);
  });
});

describe('a row of the ruler', () => {
  it('cuts a filled notch in time, half a one late, and says both in words', () => {
    const element = row({ schedule: [entry('2027-03-12', '60'), entry('2027-03-18', '40')] });
    expect(element.querySelectorAll('g.covered')).toHaveLength(1);
    expect(element.querySelectorAll('g.late')).toHaveLength(1);
    expect(element.querySelector('svg')!.getAttribute('aria-label')).toBe('Requested Fri 12 Mar. Ships: 60 Fri 12 Mar, 40 Thu 18 Mar.');
  });

  it('reaches from a day that is not sure to the one that is, and says how often it holds', () => {
    const element = row({
      schedule: [entry('2027-03-16', '60', { holds: 80, safeDay: '2027-03-23' }), entry('2027-03-12', '40', { holds: 100, safeDay: '2027-03-12' })],
    });
    const reaches = [...element.querySelectorAll('.reach')].map((path) => path.getAttribute('d')!);
    expect(reaches).toHaveLength(1);
    const scale = rulerScale(TODAY, ['2027-03-30'], WIDTH);
    expect(reaches[0]).toContain(`H${scale.x('2027-03-23')}v-6`);
    expect(element.querySelector('svg')!.getAttribute('aria-label')).toContain('60 Tue 16 Mar (confidence 80 %, safe Tue 23 Mar)');
  });

  it('reaches to the edge where no day is safe, and nowhere from a promise that is broken', () => {
    const element = row({ schedule: [entry('2027-03-16', '60', { holds: 20, safeDay: null })] });
    expect(element.querySelector('.reach')!.getAttribute('d')).toContain(`H${WIDTH}`);
    const broken = row({ schedule: [entry('2027-03-16', '60', { holds: 20, safeDay: null, broken: true })] });
    expect(broken.querySelector('.reach')).toBeNull();
  });

  it('sets labels beside each other where notches stand close, within the ruler, and leaves out what finds no room', () => {
    const labels = (schedule: RulerPart[]) =>
      [...row({ schedule }).querySelectorAll('text')]
        .map((text) => ({ x: Number(text.getAttribute('x')), text: text.textContent! }))
        .filter(({ text }) => text !== '');
    const [first, second] = labels([entry('2027-03-16', '2448'), entry('2027-03-17', '1392')]);
    const halves = (4 * 7.3) / 2;
    expect(second!.x - halves).toBeGreaterThanOrEqual(first!.x + halves + 4);
    const crowd = labels(['2027-03-26', '2027-03-27', '2027-03-28', '2027-03-29', '2027-03-30'].map((day) => entry(day, '12000')));
    for (const { x, text } of crowd) expect([x - (text.length * 7.3) / 2 >= 0, x + (text.length * 7.3) / 2 <= WIDTH + 1]).toEqual([true, true]);
    expect(crowd.length).toBeLessThan(5);
  });

  it('leaves the line dashed where something has no cover', () => {
    const element = row({ uncovered: '30' });
    expect(element.querySelector('.base')!.classList).toContain('dashed');
    expect(element.querySelector('g.uncovered text')!.textContent).toBe('30');
  });

  it('stands at the day goods really leave, not at the day that was told', () => {
    const element = row({ schedule: [entry('2027-03-12', '60', { arrives: '2027-03-30' })] });
    expect(element.querySelectorAll('g.late')).toHaveLength(1);
    expect(element.querySelector('svg')!.getAttribute('aria-label')).toContain('60 Tue 30 Mar (promised Fri 12 Mar)');
  });

  it('has a gap in its line for every notch', () => {
    const element = row({ schedule: [entry('2027-03-12', '1'), entry('2027-03-18', '2'), entry('2027-03-24', '3')] });
    expect(element.querySelector('.base')!.getAttribute('d')!.match(/M/g)).toHaveLength(4);
  });

  it('draws more supply as a taller tick', () => {
    const ticks = [
      { day: '2027-03-15', quantity: '100', label: 'a' },
      { day: '2027-03-17', quantity: '400', label: 'b' },
    ];
    const heights = [...row({ ticks }).querySelectorAll('.supply')].map((tick) => -Number(tick.getAttribute('d')!.split('v')[1]));
    expect(heights[0]!).toBeLessThan(heights[1]!);
  });
});

describe('the edge of the ruler', () => {
  it('names Mondays that have room, and the day asked for', () => {
    const fixture = TestBed.createComponent(RulerHead);
    fixture.componentRef.setInput('scale', rulerScale(TODAY, [isoDay(dayNumber(TODAY) + 30)], WIDTH));
    fixture.componentRef.setInput('today', TODAY);
    fixture.componentRef.setInput('asked', '2027-03-12');
    fixture.detectChanges();
    const text = (fixture.nativeElement as HTMLElement).textContent!;
    expect(text).toContain('today');
    expect(text).toContain('requested Fri 12 Mar');
    expect(text).toContain('15');
  });
});
