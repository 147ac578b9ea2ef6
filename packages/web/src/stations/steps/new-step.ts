import { noWords, type Step } from '@viaticum/contract';
import { nanoid } from 'nanoid';
import { words } from '../../words/words.js';

/** A step that lays paint, of which nothing is said yet. */
export const newStep = (stageId: string): Step => ({
  id: nanoid(8),
  stageId,
  kind: 'paint',
  title: words.steps.stepName,
  areaIds: [],
  markIds: [],
  mixIds: [],
  needs: 'any',
  technique: 'block-in',
  brushId: 'flat-1-in',
  ...noWords,
});
