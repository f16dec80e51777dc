import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';

const require = createRequire(import.meta.url);
const font = (family: 'next' | 'mono', weight: number) =>
  require.resolve(`@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`);
const [text, textBold, mono, monoBold] = [font('next', 400), font('next', 700), font('mono', 400), font('mono', 700)];

pdfmake.addFonts({
  Atkinson: { normal: text, bold: textBold, italics: text, bolditalics: textBold },
  AtkinsonMono: { normal: mono, bold: monoBold, italics: mono, bolditalics: monoBold },
});
// A document takes nothing from the network, and of this machine only its fonts: texts of an order cannot make it read more.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => [text, textBold, mono, monoBold].includes(path));

export const INK = '#1F2A2E';
export const PETROL = '#12525E';
export const QUIET = '#5B6669';
