import { setting } from '../changes/change.js';
import type { Fix } from '../findings/finding.js';
import type { Box } from '../house/model.js';
import { modelFields } from '../house/model.js';
import type { BoxType } from '../vocabulary/catalogue-types.js';

/** The way out of a box that is too small, or of the wrong kind: another of the catalogue. */
export const changeBox = (box: Box, type: BoxType): Fix => ({
  code: 'change-box',
  facts: { boxId: box.id, catalogueId: type.id },
  change: setting('boxes', box.id, modelFields({ catalogueId: type.id })),
});
