import type { Lesson, Need } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { areaName } from '../derived/index.js';
import { capital, lengthNumber, the, verb, waitInWords } from '../units/index.js';
import { changedColour } from './changed.js';
import type { Contact } from './contact.js';
import { TREMOR_MM } from './marks.js';

export const needWords: Record<Need, string> = worded({
  auto: 'dry enough',
  any: '',
  wet: 'still wet',
  damp: 'damp',
  paintOver: 'dry enough to paint over',
  touchDry: 'touch-dry',
  firm: 'firm',
  cured: 'cured',
});

/** Beyond what the hand strays, the paint that is dragged along a border reaches so far (our judgement). */
const DRAGGED_MM = 1.5;
/** How wide a border would be spoilt, mm. */
const spoiltMm = (lesson: Lesson): number => TREMOR_MM[lesson.level] + DRAGGED_MM;

/** "The sky takes 12 min from when it is laid to be dry enough to paint over. Going on now, the gull white would …" */
export function contactInWords(lesson: Lesson, contact: Contact): string {
  const name = touchedName(lesson, contact);
  const takes = say`${capital(the(name))} ${verb(name, 'takes', 'take')} ${waitInWords(contact.neededMin)} from when ${verb(name, 'it is', 'they are')} laid to be ${needWords[contact.need]}.`;
  if (contact.undriedMin !== undefined) return driedInWords(name, contact, contact.undriedMin);
  const change = changeInWords(lesson, contact);
  return change ? `${takes} ${change}` : takes;
}

/** What the dryers do: how long all of them take in turns, beside how long it would take by itself. */
const driedInWords = (name: string, { neededMin, need }: Contact, undriedMin: number): string => {
  const alone = Number.isFinite(undriedMin) ? waitInWords(undriedMin) : say('never');
  return say`With the dryers, in turns, ${the(name)} ${verb(name, 'is', 'are')} ${needWords[need]} for everybody after ${waitInWords(neededMin)}; by itself after ${alone}.`;
};

/** What is touched: the area, or the whole canvas where all of it was toned at once. */
const touchedName = (lesson: Lesson, { fromStepId, areaId }: Contact): string =>
  lesson.steps.find((step) => step.id === fromStepId)?.wholeCanvas ? say('whole canvas') : areaName(lesson, areaId);

/** What going on at once would do to the colour, as a sentence; empty where nothing is known or nothing would be seen. */
export function changeInWords(lesson: Lesson, contact: Contact): string {
  if (contact.byNature && (contact.harm === null || contact.harm <= contact.limit)) return byNatureWords(lesson, contact);
  const change = contact.harm === null || contact.harm < 1 ? null : changedColour(lesson, contact);
  const wet = lesson.mixes.find((mix) => mix.id === contact.wetMixId);
  if (!change || !wet) return '';
  const place =
    contact.kind === 'edge' && contact.lengthMm !== undefined
      ? say` along ${lengthNumber(Math.round(contact.lengthMm / 10) * 10, lesson.units)} ${lesson.units}, about ${Math.round(spoiltMm(lesson))} mm wide,`
      : '';
  return say`Going on now, ${the(change.name)} would take up some of ${the(wet.name)}${place} and turn ${change.words}.`;
}

function byNatureWords(lesson: Lesson, contact: Contact): string {
  const { need, wetMixId, ownMixId } = contact;
  const name = the(touchedName(lesson, contact));
  const step = lesson.steps.find((one) => one.id === contact.toStepId);
  const isMarks = step !== undefined && step.areaIds.length === 0 && step.markIds.length > 0;
  if (!isMarks && wetMixId !== undefined && wetMixId === ownMixId)
    return say`Going on now, this coat would only push the first one on ${name} about.`;
  if (need === 'touchDry') return say`Going on now, ${name} would be rubbed up or smeared.`;
  return say`Going on now, the marks would sink into ${name} instead of lying on it.`;
}
