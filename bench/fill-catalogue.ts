import type pg from 'pg';

export const CATALOGUE = { items: 50_000, customers: 20_000 } as const;

/** Words of which invented items, customers and places are made. */
export const WORDS = {
  things: [
    'jar',
    'lid',
    'frame',
    'foundation',
    'smoker',
    'feeder',
    'bucket',
    'extractor',
    'brush',
    'glove',
    'hive',
    'floor',
    'roof',
    'tank',
    'strainer',
    'label',
    'suit',
    'clip',
    'tool',
    'candle',
  ],
  kinds: [
    'hexagonal',
    'round',
    'straight',
    'wired',
    'stainless',
    'ventilated',
    'leather',
    'cedar',
    'pine',
    'galvanised',
    'printed',
    'tapered',
    'double',
    'folding',
    'shallow',
    'deep',
  ],
  colours: ['gold', 'black', 'white', 'amber', 'clear', 'natural', 'yellow', 'green'],
  places: [
    'Combe',
    'Thornby',
    'Harrow',
    'Saltmarsh',
    'Kettle',
    'Winter',
    'Brack',
    'Ravens',
    'Dun',
    'Hex',
    'Lantern',
    'Fenni',
    'Marrow',
    'Quill',
    'Ostrey',
    'Nether',
    'Upper',
    'Cold',
    'Stoke',
    'Millbeck',
  ],
  endings: ['ford', 'ham', 'ton', 'wick', 'ley', 'by', 'worth', 'stead', 'burn', 'field'],
  trades: ['Honey', 'Apiaries', 'Farm Shop', 'Beekeepers', 'Garden Centre', 'Hardware', 'Wholefoods', 'Estates', 'Candles', 'Supplies'],
} as const;

/** Adds items and customers to a database that has the standing data of the demo, so that finding one of them is work. */
export async function fillCatalogue(client: pg.Client): Promise<void> {
  const { things, kinds, colours, places, endings, trades } = WORDS;
  const pick = (list: string, seed: string) => `(${list})[1 + (${seed}) % array_length(${list}, 1)]`;
  const statements: readonly (readonly [string, readonly unknown[]])[] = [
    [
      `insert into item (code, description, item_group, unit, weight, list_price, cost)
       select upper(left(thing, 3)) || '-' || lpad((at % 1000)::text, 3, '0') || '-' || upper(left(kind, 2)) || at,
         initcap(kind) || ' ' || thing || ' ' || (at % 90) * 10 || ' g ' || colour, initcap(thing) || 's', 'EA', 0.2, 0.52, 0.31
       from (select at, ${pick('$2::text[]', 'at * 7')} as thing, ${pick('$3::text[]', 'at * 13 + at / 7')} as kind, ${pick('$4::text[]', 'at * 3 + at / 11')} as colour
         from generate_series(1, $1::int) at) made`,
      [CATALOGUE.items, things, kinds, colours],
    ],
    [
      `insert into customer (number, name, contact, phone, email, street, postcode, town, country, delivery_rule, warehouse, carrier_service, price_list, terms_days)
       select 'X' || at, place || ending || ' ' || trade, 'Contact ' || at, '01632 ' || lpad((960000 + at % 1000)::text, 6, '0'), 'x' || at || '@shop.example', at || ' High Street',
         upper(left(place, 2)) || at % 100 || ' ' || at % 10 || 'XX', place || ending, 'GB', 'parts', 'MAR', 'GROUND', null, 30
       from (select at, ${pick('$2::text[]', 'at * 11')} as place, ${pick('$3::text[]', 'at * 5 + at / 13')} as ending, ${pick('$4::text[]', 'at * 3 + at / 17')} as trade
         from generate_series(1, $1::int) at) made`,
      [CATALOGUE.customers, places, endings, trades],
    ],
    // As a database that has been running: statistics made, indexes without rows still waiting to be sorted in.
    ['vacuum analyze', []],
  ];
  for (const [text, values] of statements) await client.query(text, [...values]);
}
