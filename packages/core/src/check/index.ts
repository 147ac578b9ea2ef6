import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '../plan/index.js';
import type { Finding, Rule } from './finding.js';
import { againstOrder } from './rules/against-order.js';
import { bareWhite } from './rules/bare-white.js';
import { blendOutlasts } from './rules/blend-outlasts.js';
import { brightLight } from './rules/bright-light.js';
import { contradiction } from './rules/contradiction.js';
import { farToNear } from './rules/far-to-near.js';
import { fineBrush } from './rules/fine-brush.js';
import { lineOnGround } from './rules/line-on-ground.js';
import { lonelyHue } from './rules/lonely-hue.js';
import { longStretch } from './rules/long-stretch.js';
import { lostDrawing } from './rules/lost-drawing.js';
import { noHeadroom } from './rules/no-headroom.js';
import { nearTwin, noColour, tooMuchWater, tubeNotBrought } from './rules/paints.js';
import { permissionUnset } from './rules/permission-unset.js';
import { dryerLoad, lightEnds, mistRuns, sessionTooLong } from './rules/room.js';
import { tooWet } from './rules/too-wet.js';
import { unmixed } from './rules/unmixed.js';
import { unpaintedZone, unusedMix, unusedTube } from './rules/unused.js';
import { waterChange } from './rules/water-change.js';
import { whiteEarly } from './rules/white-early.js';
import { windowMissed } from './rules/window-missed.js';

export type { Finding, Mend, Rule } from './finding.js';

/** A finding with the word why it was set aside, where it was. */
export type ShownFinding = Finding & { setAside?: string };

/** All rules that are built, in the order in which findings are shown. */
export const rules: readonly Rule[] = [
  contradiction,
  blendOutlasts,
  windowMissed,
  mistRuns,
  lightEnds,
  sessionTooLong,
  dryerLoad,
  unpaintedZone,
  unmixed,
  noColour,
  tubeNotBrought,
  lostDrawing,
  tooWet,
  againstOrder,
  lineOnGround,
  bareWhite,
  whiteEarly,
  noHeadroom,
  farToNear,
  lonelyHue,
  fineBrush,
  waterChange,
  brightLight,
  longStretch,
  unusedMix,
  unusedTube,
  nearTwin,
  tooMuchWater,
  permissionUnset,
];

/** What to know about a lesson, serious findings first; those set aside carry the word why. */
export function findings(lesson: Lesson, plan: LessonPlan): ShownFinding[] {
  const aside = new Map(lesson.setAside.map((entry) => [entry.finding, entry.why]));
  return rules
    .flatMap((rule) => rule.look(lesson, plan))
    .map((finding): ShownFinding => (aside.has(finding.id) ? { ...finding, setAside: aside.get(finding.id) as string } : finding))
    .sort((a, b) => Number(a.setAside !== undefined) - Number(b.setAside !== undefined) || Number(b.serious) - Number(a.serious));
}
