import type { Lesson } from '@viaticum/contract';
import { memo } from '../derived/index.js';
import type { LessonPlan } from '../plan/index.js';
import type { AreaOff } from '../stage/index.js';
import { farFindings } from './far-off.js';
import type { Finding, Rule } from './finding.js';
import { afterLastLook } from './rules/after-last-look.js';
import { againstOrder } from './rules/against-order.js';
import { barePause } from './rules/bare-pause.js';
import { bareWhite } from './rules/bare-white.js';
import { blackBand } from './rules/black-band.js';
import { blendOutlasts } from './rules/blend-outlasts.js';
import { brightLight } from './rules/bright-light.js';
import { brushHardens } from './rules/brush-hardens.js';
import { chalkyLight } from './rules/chalky-light.js';
import { coarsePicture } from './rules/coarse-picture.js';
import { coldAir } from './rules/cold-air.js';
import { contradiction } from './rules/contradiction.js';
import { contrastAtEdge } from './rules/contrast-at-edge.js';
import { dampAir } from './rules/damp-air.js';
import { dryerLoad } from './rules/dryer-load.js';
import { evenCount } from './rules/even-count.js';
import { evenGaps } from './rules/even-gaps.js';
import { facesOut } from './rules/faces-out.js';
import { farToNear } from './rules/far-to-near.js';
import { featureLost } from './rules/feature-lost.js';
import { fineBrush } from './rules/fine-brush.js';
import { fineInSoft } from './rules/fine-in-soft.js';
import { formerPaint } from './rules/former-paint.js';
import { graphiteGhost } from './rules/graphite-ghost.js';
import { hairsSingly } from './rules/hairs-singly.js';
import { handOverWet } from './rules/hand-over-wet.js';
import { heapSkins } from './rules/heap-skins.js';
import { horizonInMiddle } from './rules/horizon-in-middle.js';
import { impastoDryer } from './rules/impasto-dryer.js';
import { keptFree } from './rules/kept-free.js';
import { lightEnds } from './rules/light-ends.js';
import { lineOnGround } from './rules/line-on-ground.js';
import { lonelyHue } from './rules/lonely-hue.js';
import { longStretch } from './rules/long-stretch.js';
import { lostDrawing } from './rules/lost-drawing.js';
import { mirrorWithThing } from './rules/mirror-with-thing.js';
import { mistRuns } from './rules/mist-runs.js';
import { nearTwin } from './rules/near-twin.js';
import { neighbours } from './rules/neighbours.js';
import { neverDries } from './rules/never-dries.js';
import { noColour } from './rules/no-colour.js';
import { noHeadroom } from './rules/no-headroom.js';
import { noStopTest } from './rules/no-stop-test.js';
import { oneColour } from './rules/one-colour.js';
import { opaqueEarly } from './rules/opaque-early.js';
import { permissionUnset } from './rules/permission-unset.js';
import { preparationInClass } from './rules/preparation-in-class.js';
import { roughUnannounced } from './rules/rough-unannounced.js';
import { sessionTooLong } from './rules/session-too-long.js';
import { softEdgeMissed } from './rules/soft-edge-missed.js';
import { spatterUnprotected } from './rules/spatter-unprotected.js';
import { subjectPlace } from './rules/subject-place.js';
import { talksTooLong } from './rules/talks-too-long.js';
import { tooLong } from './rules/too-long.js';
import { tooMuchWater } from './rules/too-much-water.js';
import { tooWet } from './rules/too-wet.js';
import { touchingEdges } from './rules/touching-edges.js';
import { tubeNotBrought } from './rules/tube-not-brought.js';
import { umberAlone } from './rules/umber-alone.js';
import { unbrokenLine } from './rules/unbroken-line.js';
import { unmixed } from './rules/unmixed.js';
import { unnamedThing } from './rules/unnamed-thing.js';
import { unpaintedArea } from './rules/unpainted-area.js';
import { unpaintedMark } from './rules/unpainted-mark.js';
import { unusedMix } from './rules/unused-mix.js';
import { unusedTube } from './rules/unused-tube.js';
import { valueCeiling } from './rules/value-ceiling.js';
import { valueMissed } from './rules/value-missed.js';
import { varnishEarly } from './rules/varnish-early.js';
import { waitingShare } from './rules/waiting-share.js';
import { waivedContact } from './rules/waived-contact.js';
import { waterChange } from './rules/water-change.js';
import { whiteEarly } from './rules/white-early.js';
import { whiteIntoWetDark } from './rules/white-into-wet-dark.js';
import { windowMissed } from './rules/window-missed.js';
import { wrongSide } from './rules/wrong-side.js';

/** A finding with the word why it was set aside, where it was. */
export { findingOfNote, isOrnament, isWorthTelling } from './composed.js';
export type { Finding, Fix, Rule } from './finding.js';
export type ShownFinding = Finding & { setAside?: string };

/** All rules that are built, in the order in which findings are shown. */
export const rules: readonly Rule[] = [
  coldAir,
  neverDries,
  contradiction,
  blendOutlasts,
  windowMissed,
  dampAir,
  mistRuns,
  lightEnds,
  sessionTooLong,
  dryerLoad,
  impastoDryer,
  varnishEarly,
  unpaintedArea,
  formerPaint,
  unmixed,
  noColour,
  tubeNotBrought,
  lostDrawing,
  tooWet,
  whiteIntoWetDark,
  handOverWet,
  againstOrder,
  keptFree,
  graphiteGhost,
  lineOnGround,
  bareWhite,
  whiteEarly,
  opaqueEarly,
  valueCeiling,
  noHeadroom,
  neighbours,
  valueMissed,
  farToNear,
  wrongSide,
  lonelyHue,
  umberAlone,
  chalkyLight,
  blackBand,
  fineBrush,
  featureLost,
  fineInSoft,
  spatterUnprotected,
  waterChange,
  brushHardens,
  heapSkins,
  brightLight,
  afterLastLook,
  waitingShare,
  barePause,
  softEdgeMissed,
  tooLong,
  preparationInClass,
  mirrorWithThing,
  hairsSingly,
  noStopTest,
  waivedContact,
  longStretch,
  talksTooLong,
  roughUnannounced,
  unpaintedMark,
  unnamedThing,
  unusedMix,
  unusedTube,
  nearTwin,
  tooMuchWater,
  subjectPlace,
  horizonInMiddle,
  unbrokenLine,
  evenCount,
  evenGaps,
  touchingEdges,
  contrastAtEdge,
  facesOut,
  coarsePicture,
  oneColour,
  permissionUnset,
];

/** Nothing was measured on painted stages. */
const unseen: readonly AreaOff[] = [];
/**
 * What to know about a lesson, serious findings first; those set aside carry the word why. No two have one id. `seen`: how its last stage
 * lies from its picture, where it was painted. Remembered for the last two lessons and plans: several places ask for the same.
 */
export const findings = (lesson: Lesson, plan: LessonPlan, seen: readonly AreaOff[] = unseen): readonly ShownFinding[] =>
  allFindings(lesson, plan, seen);
const allFindings = memo((lesson: Lesson, plan: LessonPlan, seen: readonly AreaOff[]): readonly ShownFinding[] =>
  sorted(lesson, [...rules.flatMap((rule) => foundBy(lesson, plan).get(rule)), ...farFindings(lesson, seen)]),
);

/** Looks rule by rule, so that a page can answer in between; afterwards {@link findings} of the same lesson and plan costs nothing. */
export function* workOutFindings(lesson: Lesson, plan: LessonPlan): Generator<void, void> {
  for (const rule of rules) {
    foundBy(lesson, plan).get(rule);
    yield;
  }
}

/** What each rule found, looked for when it is asked for and then remembered. */
const foundBy = memo((lesson: Lesson, plan: LessonPlan) => {
  const found = new Map<Rule, Finding[]>();
  return {
    get(rule: Rule): Finding[] {
      const known = found.get(rule) ?? rule.look(lesson, plan);
      found.set(rule, known);
      return known;
    },
  };
});

function sorted(lesson: Lesson, found: readonly Finding[]): ShownFinding[] {
  const aside = new Map(lesson.setAside.map((entry) => [entry.finding, entry.why]));
  return found
    .map(toldApart())
    .map((finding): ShownFinding => (aside.has(finding.id) ? { ...finding, setAside: aside.get(finding.id) as string } : finding))
    .sort((a, b) => Number(a.setAside !== undefined) - Number(b.setAside !== undefined) || Number(b.serious) - Number(a.serious));
}

/** Of several findings of one id those after the first get a number. */
function toldApart(): (finding: Finding) => Finding {
  const seen = new Map<string, number>();
  return (finding) => {
    const count = (seen.get(finding.id) ?? 0) + 1;
    seen.set(finding.id, count);
    return count === 1 ? finding : { ...finding, id: `${finding.id}#${count}` };
  };
}
