import type { Lesson } from '@viaticum/contract';
import { brushInMetric, brushOf } from '../../brush/index.js';
import {
  breakCues,
  captionRules,
  type SaidCue,
  spoken,
  type TakenCue,
  type TooMuchSaid,
  timeCues,
} from '../../captions/index.js';
import { looksOf } from '../../derived/index.js';
import { filmDefaults, type Take } from '../filming/takes.js';
import type { Timeline } from './cuts.js';

/** A caption of a cut; `key` names it so that its words can be changed, `isEdited` that they were. */
export type FilmCue = { key: string; takeId: string; from: number; to: number; text: string; cps: number; isEdited: boolean };

/** What is said in a take as it is written: the first time a mix is named in a film, its recipe follows in brackets if there is room. */
function textOf(lesson: Lesson, { say, stepIds }: Take, told: Set<string>): string {
  const looks = looksOf(lesson);
  let text = say;
  for (const step of lesson.steps.filter(({ id }) => stepIds.includes(id)))
    for (const id of step.mixIds) {
      const look = looks.get(id);
      if (!look || told.has(id)) continue;
      const at = text.toLowerCase().indexOf(look.mix.name.toLowerCase());
      if (at < 0) continue;
      told.add(id);
      const end = at + look.mix.name.length;
      if (look.words.length <= 40) text = `${text.slice(0, end)} (${look.words})${text.slice(end)}`;
    }
  return text;
}

/** The captions of a cut in seconds, timed by the rate of speaking within each take's own stretch; and where more is said than can be read. */
export function captionsOf(lesson: Lesson, timeline: Timeline): { cues: FilmCue[]; found: TooMuchSaid[] } {
  const { takes, shots, fps, cut } = timeline;
  const rate = lesson.film?.wordsPerMinute ?? filmDefaults.wordsPerMinute;
  const rules = { ...captionRules, fps };
  const names = [
    ...[...looksOf(lesson).values()].flatMap(({ mix, parts }) => [mix.name, ...parts.map(({ name }) => name)]),
    ...lesson.steps.flatMap(({ brushId }) => brushOf(brushId) ?? []).map(brushInMetric),
  ];
  const told = new Set<string>();
  const spans = new Map<string, { from: number; to: number }>();
  const cuts: number[] = [];
  const said: (TakenCue & { key: string })[] = [];
  for (const take of takes) {
    const own = shots.filter(({ takeId, kind }) => takeId === take.id && kind !== 'dry');
    const [first, last] = [own[0], own.at(-1)];
    if (!first || !last) continue;
    const span = { from: first.from / fps, to: last.to / fps };
    spans.set(take.id, span);
    cuts.push(span.from);
    if (cut.isShort || take.voice === 'none' || !take.say) continue;
    const words = spoken(textOf(lesson, take, told), span.from, rate);
    breakCues(words, { names, rules }).forEach((cue: SaidCue, k) => {
      const key = `${take.id}/${k}`;
      said.push({ ...cue, key, take: take.id });
    });
  }
  const edits = new Map((cut.captions ?? []).map(({ key, text }) => [key, text]));
  const shown = said.flatMap((cue) => {
    const text = edits.get(cue.key);
    if (text === '') return [];
    return text === undefined ? [cue] : [{ ...cue, text: inLines(text), chars: text.length }];
  });
  const { cues, found } = timeCues(shown, { takes: spans, cuts, rules });
  return {
    cues: cues.map((cue, i) => {
      const { key } = shown[i] as (typeof shown)[number];
      return {
        key,
        takeId: cue.take,
        from: cue.from,
        to: cue.to,
        text: cue.text,
        cps: cue.chars / Math.max(0.04, cue.to - cue.from),
        isEdited: edits.has(key),
      };
    }),
    found,
  };
}

/** Words typed by a person, in two lines where one is too short for them. */
function inLines(text: string): string {
  const [cue] = breakCues(spoken(text.replace(/\s+/g, ' '), 0, 400));
  return cue && cue.chars >= text.replace(/\s+/g, ' ').trim().length ? cue.text : text;
}
