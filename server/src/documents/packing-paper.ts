import type { IsoDay } from '@nockwright/core/calendar';
import { shortDay } from '@nockwright/core/calendar';
import type { ItemCode } from '@nockwright/core/ids';
import { amountInWords, type Quantity } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import type { FirmRecord } from '../firm';
import { codeSymbol, gs1Symbol } from './bar-codes';
import { QUIET } from './fonts';
import { drawPapers, figure, headCell, headOf, ruled, type Content, type Margin } from './paper-layout';

interface Goods {
  readonly item: ItemCode;
  /** What the customer calls it; may be empty. */
  readonly theirs: string;
  readonly description: string;
  readonly quantity: Quantity;
  readonly unit: string;
}

/** What went into a consignment, as it was told. Weights in kilograms. */
export interface ToldPackingList {
  readonly firm: FirmRecord;
  readonly day: IsoDay;
  readonly customer: string;
  readonly address: string;
  readonly service: string;
  readonly tracking: string;
  readonly shipments: readonly { readonly number: string; readonly order: string; readonly poNumber: string }[];
  readonly lines: readonly (Goods & {
    readonly order: string;
    readonly lineNo: number;
    readonly ordered: { readonly quantity: Quantity; readonly unit: string } | null;
    readonly lots: readonly { readonly lot: string; readonly expires: IsoDay | null; readonly quantity: Quantity }[];
    /** What of the line is still to come. */
    readonly owed: Quantity;
  })[];
  readonly cartons: readonly {
    readonly number: number;
    readonly type: string;
    readonly sscc: string;
    readonly weight: string;
    readonly goods: readonly (Goods & { readonly lot: string; readonly expires: IsoDay | null })[];
  }[];
  readonly weight: string;
}

export function packingListName({ shipments }: Pick<ToldPackingList, 'shipments'>): string {
  return `Packing list ${shipments.map((row) => row.number).join(', ')}`;
}

/** The packing list of a consignment, and of each carton on a page of its own. */
export async function packingListPdf(told: ToldPackingList): Promise<Buffer> {
  const title = packingListName(told);
  return drawPapers(title, told.firm, told.day, [
    whole(told, title),
    ...(told.cartons.length > 1 ? told.cartons.map((carton) => oneCarton(told, carton)) : []),
  ]);
}

function whole(told: ToldPackingList, title: string): Content[] {
  const { shipments, cartons } = told;
  const theirs = [...new Set(shipments.map((row) => row.poNumber).filter(Boolean))];
  return [
    ...headOf(told.firm, title, [
      [
        ['To', told.customer],
        ['Address', told.address],
      ],
      [
        ['Our order', [...new Set(shipments.map((row) => row.order))].join(', ')],
        ...(theirs.length > 0 ? [['Your order no.', theirs.join(', ')] as const] : []),
      ],
      [
        ['Shipped', shortDay(told.day, '')],
        ['By', told.tracking ? `${told.service}, ${told.tracking}` : told.service],
        ['Cartons and weight', `${cartons.length || 'none'}, ${amountInWords(told.weight)} kg`],
      ],
    ]),
    ruled(
      [16, '*', 96, 84, 62],
      [
        [headCell(''), headCell('Item'), headCell('Lot'), headCell('Shipped', 'right'), headCell('Still to come', 'right')],
        ...told.lines.map((line) => [
          { text: String(line.lineNo), color: QUIET },
          itemCell(line, shipments.length > 1 ? `order ${line.order}` : ''),
          { text: line.lots.map((lot) => lotWords(lot)).join('\n'), fontSize: 8.5 },
          {
            stack: [
              figure(quantityInWords(amountInWords(line.quantity), line.unit)),
              ...(line.ordered ? [{ ...figure(`= ${quantityInWords(amountInWords(line.ordered.quantity), line.ordered.unit)}`), color: QUIET }] : []),
            ],
          },
          figure(line.owed === '0' ? '' : quantityInWords(amountInWords(line.owed), line.unit)),
        ]),
      ],
    ),
    ...(cartons.length > 0
      ? [
          { text: 'Cartons', bold: true, margin: [0, 14, 0, 4] as Margin },
          ruled(
            [16, '*', 130, 60],
            [
              [headCell(''), headCell('Contents'), headCell('SSCC'), headCell('Weight, kg', 'right')],
              ...cartons.map((carton) => [
                { text: String(carton.number), color: QUIET },
                { text: carton.goods.map((row) => `${quantityInWords(row.quantity, row.unit)} ${row.theirs || row.item}`).join(', ') },
                { text: carton.sscc, font: 'AtkinsonMono', fontSize: 8.5 },
                figure(amountInWords(carton.weight)),
              ]),
            ],
          ),
        ]
      : []),
  ];
}

function oneCarton(told: ToldPackingList, carton: ToldPackingList['cartons'][number]): Content[] {
  return [
    ...headOf(told.firm, `Carton ${carton.number} of ${told.cartons.length}`, [
      [['To', told.customer]],
      [['Shipment', told.shipments.map((row) => row.number).join(', ')]],
      [['Weight', `${amountInWords(carton.weight)} kg, ${carton.type}`]],
    ]),
    { svg: gs1Symbol([['00', carton.sscc]], 14, true), width: 260, margin: [0, 0, 0, 14] as Margin },
    ruled(
      ['*', 110, 90],
      [
        [headCell('Item'), headCell('Lot'), headCell('Quantity', 'right')],
        ...carton.goods.map((row) => [
          itemCell(row, ''),
          { text: row.lot === '' ? '' : lotWords({ lot: row.lot, expires: row.expires, quantity: row.quantity }, false), fontSize: 8.5 },
          figure(quantityInWords(amountInWords(row.quantity), row.unit)),
        ]),
      ],
    ),
  ];
}

function itemCell({ item, theirs, description }: Goods, more: string) {
  const said = [theirs ? `our ${item}` : '', more].filter(Boolean).join(', ');
  return {
    stack: [{ text: theirs || item, font: 'AtkinsonMono', bold: true }, { text: description }, ...(said ? [{ text: said, color: QUIET, fontSize: 8 }] : [])],
  };
}

function lotWords({ lot, expires, quantity }: { readonly lot: string; readonly expires: IsoDay | null; readonly quantity: Quantity }, counted = true): string {
  return `${counted ? `${quantity} of ` : ''}${lot}${expires ? `, expires ${shortDay(expires, '')}` : ''}`;
}

/** What a hand takes along on the walk. */
export interface ToldPickList {
  readonly firm: FirmRecord;
  readonly day: IsoDay;
  readonly warehouse: string;
  readonly shipments: readonly { readonly number: string; readonly customer: string; readonly tote: string; readonly service: string }[];
  readonly parts: readonly (Goods & { readonly bin: string; readonly lot: string; readonly expires: IsoDay | null; readonly shipment: string })[];
}

/** A pick list in the sequence of the walk, with bar codes of bins and items. */
export async function pickListPdf(told: ToldPickList): Promise<Buffer> {
  const { shipments } = told;
  const title = `Pick list ${shipments.map((row) => row.number).join(', ')}`;
  return drawPapers(title, told.firm, told.day, [
    [
      ...headOf(told.firm, title, [
        [['Warehouse', told.warehouse]],
        [['For', [...new Set(shipments.map((row) => row.customer))].join(', ')]],
        [['Carrier', [...new Set(shipments.map((row) => row.service))].join(', ')]],
      ]),
      ruled(
        [92, '*', 90, 70, 20],
        [
          [headCell('Bin'), headCell('Item'), headCell('Lot'), headCell('Quantity', 'right'), headCell('')],
          ...told.parts.map((part) => [
            {
              stack: [
                { text: part.bin || 'no bin', font: 'AtkinsonMono', bold: true, fontSize: 12 },
                ...(part.bin ? [{ svg: codeSymbol(part.bin), width: 84 }] : []),
              ],
            },
            { stack: [itemCell(part, shipments.length > 1 ? `shipment ${part.shipment}` : '').stack, { svg: codeSymbol(part.item), width: 130 }] },
            { text: part.lot === '' ? '' : lotWords(part, false), fontSize: 8.5 },
            { ...figure(quantityInWords(amountInWords(part.quantity), part.unit)), fontSize: 11, bold: true },
            { canvas: [{ type: 'rect', x: 2, y: 0, w: 12, h: 12, lineWidth: 0.9 }] },
          ]),
        ],
      ),
    ],
  ]);
}
