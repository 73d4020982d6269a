import type { Area } from '../platform/area.ts';
import { KeepLabels } from './keep-labels.ts';
import { LabelController } from './label.controller.ts';
import { LABEL_EVENTS, UndoLabels } from './undo-labels.ts';

export const label: Area = {
  controllers: [LabelController],
  providers: [KeepLabels, UndoLabels],
  undoing: [{ kinds: LABEL_EVENTS, by: UndoLabels }],
};
