import type { FirmRecord } from '../firm';
import type { Task } from '../work';
import { cartonLabelsPdf, type ToldCarton } from './carton-label';
import { pickListPdf, type ToldPickList } from './packing-paper';

/** Labels of cartons, a page each. */
export const drawCartonLabelsTask: Task<{ readonly firm: FirmRecord; readonly cartons: readonly ToldCarton[] }, Uint8Array> = {
  name: 'drawCartonLabels',
  run: cartonLabelsPdf,
};

/** What a hand takes along on the walk. */
export const drawPickListTask: Task<ToldPickList, Uint8Array> = { name: 'drawPickList', run: pickListPdf };
