import { BarcodeFormat, BinaryBitmap, DecodeHintType, HybridBinarizer, MultiFormatReader, RGBLuminanceSource } from '@zxing/library';
import { makeSscc, readScan } from '@nockwright/core/scans';
import bwip from 'bwip-js/node';
import { PNG } from 'pngjs';
import { gs1Symbol } from '../src/documents/bar-codes';
import { packingListPdf, type ToldPackingList } from '../src/documents';
import { cartonLabelsPdf } from '../src/documents';
import type { FirmRecord } from '../src/firm';

const FIRM = {
  name: 'Fell & Moor Supply',
  street: '1 Dock',
  postcode: 'AB1 2CD',
  town: 'Fell',
  phone: '',
  email: '',
  tax_number: '',
  footer: '',
} as FirmRecord;

/** What a decoder from the registry reads off a symbol that was drawn as dots. */
async function decoded(text: string): Promise<string> {
  const png = PNG.sync.read(await bwip.toBuffer({ bcid: 'gs1-128', text, height: 20, scale: 3, paddingwidth: 12, backgroundcolor: 'FFFFFF' }));
  const grey = new Uint8ClampedArray(png.width * png.height);
  for (let at = 0; at < grey.length; at++) grey[at] = png.data[at * 4]!;
  const hints = new Map<DecodeHintType, unknown>([
    [DecodeHintType.POSSIBLE_FORMATS, [BarcodeFormat.CODE_128]],
    [DecodeHintType.ASSUME_GS1, true],
    [DecodeHintType.TRY_HARDER, true],
  ]);
  const reader = new MultiFormatReader();
  return reader.decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, png.width, png.height))), hints).getText();
}

test('the SSCC of a carton label is read back by a decoder of its own (ZXing), and by our reader', async () => {
  const sscc = makeSscc('0200417', 123);
  const text = await decoded(`(00)${sscc}`);
  // ]C1 is how GS1-128 is told from other Code 128 (GS1 General Specifications, symbology identifiers).
  expect(text).toBe(`]C100${sscc}`);
  expect(readScan(text, '2027-03-09')).toEqual({ ok: true, scan: { sscc } });
});

test('lot, last day and count of goods too, with FNC1 behind what has no fixed length', async () => {
  const text = await decoded('(01)09501101530003(17)270630(10)L-77(30)24');
  expect(readScan(text, '2027-03-09')).toEqual({ ok: true, scan: { gtin: '09501101530003', expires: '2027-06-30', lot: 'L-77', count: 24 } });
});

test('what is drawn is lines, not dots', () => {
  expect(gs1Symbol([['00', makeSscc('0200417', 1)]], 20)).toMatch(/^<svg[^>]*viewBox/);
});

test('carton labels and packing lists are PDF, a page a carton', async () => {
  const carton = {
    number: 1,
    of: 2,
    sscc: makeSscc('0200417', 1),
    weight: '4.2',
    customer: 'Wether Hill',
    address: 'Shed, 1 Lane, AB1 2CD Combe, GB',
    service: 'Ground',
    shipments: ['20400-1'],
    poNumbers: [],
  };
  const labels = await cartonLabelsPdf({ firm: FIRM, cartons: [carton, { ...carton, number: 2 }] });
  expect(pagesOf(labels)).toBe(2);
  // 4 by 6 inches in points.
  expect(labels.toString('latin1')).toMatch(/MediaBox \[0 0 288 432\]/);
  const goods = { item: 'JAR', theirs: 'T-1', description: 'Jar', quantity: '24', unit: 'EA' };
  const told: ToldPackingList = {
    firm: FIRM,
    day: '2027-03-09',
    customer: 'Wether Hill',
    address: 'Shed, 1 Lane',
    service: 'Ground',
    tracking: 'T1',
    shipments: [{ number: '20400-1', order: '20400', poNumber: 'PO 7' }],
    lines: [{ ...goods, order: '20400', lineNo: 1, ordered: null, lots: [{ lot: 'L1', expires: '2027-06-30', quantity: '24' }], owed: '12' }],
    cartons: [1, 2].map((number) => ({ number, type: 'small', sscc: carton.sscc, weight: '4.2', goods: [{ ...goods, lot: 'L1', expires: null }] })),
    weight: '8.4',
  };
  expect(pagesOf(await packingListPdf(told))).toBe(3);
});

function pagesOf(pdf: Buffer): number {
  return pdf.toString('latin1').match(/\/Type \/Page\b(?!s)/g)?.length ?? 0;
}
