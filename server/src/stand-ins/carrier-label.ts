import bwip from 'bwip-js/node';
import pdfmake from 'pdfmake';
import type { LabelRequest } from '../carriers';
import '../documents';

/** The label of a carrier as PDF, 4 by 6 inches, one page a parcel. */
export async function carrierLabelPdf(carrier: string, tracking: string, request: LabelRequest): Promise<Buffer> {
  const code = bwip.toSVG({ bcid: 'code128', text: tracking, height: 20, includetext: false });
  return pdfmake
    .createPdf({
      pageSize: { width: 288, height: 432 },
      pageMargins: [14, 14, 14, 14],
      info: { title: tracking },
      defaultStyle: { font: 'Atkinson', fontSize: 10 },
      content: request.parcels.map((parcel, at) => ({
        stack: [
          { text: carrier, fontSize: 20, bold: true },
          { text: request.service, fontSize: 14, margin: [0, 0, 0, 12] as [number, number, number, number] },
          { text: request.to.name, fontSize: 14, bold: true },
          { text: request.to.address.split(', ').join('\n'), fontSize: 12, margin: [0, 0, 0, 12] as [number, number, number, number] },
          {
            text: `${request.reference}   parcel ${at + 1} of ${request.parcels.length}   ${parcel.weight} kg`,
            margin: [0, 0, 0, 16] as [number, number, number, number],
          },
          { svg: code, width: 240 },
          { text: tracking, font: 'AtkinsonMono', fontSize: 13, alignment: 'center' as const },
        ],
        ...(at > 0 ? { pageBreak: 'before' as const } : {}),
      })),
    })
    .getBuffer();
}
