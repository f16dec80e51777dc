import type { AdjustmentReason } from '@nockwright/contract/items';
import type { Choice } from '../../paper';

/** Why stock is put right, in words. */
export const REASONS: readonly Choice<AdjustmentReason>[] = [
  ['other', 'another reason'],
  ['found', 'found'],
  ['lost', 'lost'],
  ['damaged', 'damaged'],
  ['expired', 'expired'],
  ['sample', 'given as a sample'],
  ['mixed_up', 'mixed up with another item'],
];
