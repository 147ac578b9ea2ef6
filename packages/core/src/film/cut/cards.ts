import type { CardCorner, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { outlineBox } from '../../area/index.js';
import { brushInMetric, brushInWords, brushOf, brushTypeWords } from '../../brush/index.js';
import { countWords, spokenSeconds } from '../../captions/index.js';
import { areaName, areasWorkedOn, laysPaint, looksOf, visibleOf } from '../../derived/index.js';
import { plainSay } from '../../text/index.js';
import { capital, degreesInWords, minutesInWords, percentInWords } from '../../units/index.js';
import { filmPlan } from '../filming/film-plan.js';
import type { Timeline } from './cuts.js';

export type CardKind = 'mix' | 'tool' | 'step' | 'dry' | 'look';
/** A card laid over a film: what it says, where it stands, and from when to when (frames). */
export type Card = {
  key: string;
  kind: CardKind;
  takeId: string;
  slate: string;
  from: number;
  to: number;
  title: string;
  lines: string[];
  /** Of a mix: its colour dry and wet, and the parts of its recipe. */
  swatch?: { rgb: string; wetRgb: string };
  parts?: { name: string; rgb: string; weight: number }[];
  /** Of a tool: the width of its hairs, mm. */
  brush?: { type: string; widthMm: number };
  corner: CardCorner;
  isHidden: boolean;
};

/** How long each is shown, in seconds (our judgement); never shorter than its words can be read. */
const shownS: Record<CardKind, number> = { mix: 5, tool: 3, step: 4, dry: 4, look: 4 };
const READ_WPM = 150;

/** The cards of a cut, in order. What it hides a viewer reads on them: layers as they are counted, and drying in minutes. */
export function cardsOf(lesson: Lesson, timeline: Timeline): Card[] {
  const { takes, shots, fps, frames, cut } = timeline;
  const looks = looksOf(lesson);
  const edits = new Map((cut.cards ?? []).map((one) => [one.key, one]));
  const layers = layerOf(lesson);
  const toldMixes = new Set<string>();
  const toldTools = new Set<string>();
  const out: Card[] = [];
  const usual = freeCorner(lesson);
  const put = (
    key: string,
    kind: CardKind,
    at: { takeId: string; slate: string; from: number },
    rest: Pick<Card, 'title' | 'lines'> & Partial<Card>,
    until = frames,
  ) => {
    const edit = edits.get(key);
    const readS = spokenSeconds(countWords([rest.title, ...rest.lines].join(' ')), READ_WPM);
    const long = kind === 'dry' ? shownS.dry : Math.max(shownS[kind], readS);
    out.push({
      key,
      kind,
      ...at,
      to: Math.min(until, at.from + Math.round(long * fps)),
      corner: edit?.corner ?? usual,
      isHidden: edit?.hidden ?? false,
      ...rest,
      ...(edit?.text && { title: edit.text }),
    });
  };
  const { part } = timeline;
  const begin = takes[0];
  if (part && begin)
    put(
      `part/${part.number}`,
      'step',
      { takeId: begin.id, slate: begin.slate, from: 0 },
      {
        title: say`Part ${part.number} of ${part.of}`,
        lines: [say`You need: ${[...part.brushes, ...part.mixes.map(mixName)].join(', ')}`],
      },
    );
  for (const take of takes) {
    const own = shots.filter(({ takeId }) => takeId === take.id);
    const first = own.find(({ kind }) => kind !== 'dry');
    const end = own.at(-1)?.to ?? frames;
    const at = (from: number) => ({ takeId: take.id, slate: take.slate, from });
    for (const dry of own.filter(({ kind }) => kind === 'dry'))
      put(
        `${take.id}/dry/${dry.stepId}`,
        'dry',
        at(dry.from),
        {
          title: dryWords(dry.dryMin as number),
          lines: [say`planned, at ${degreesInWords(lesson.room.airC)} and ${percentInWords(lesson.room.humidity)}`],
        },
        dry.to,
      );
    if (!first) continue;
    if (take.kind === 'palette' && take.mixId && !toldMixes.has(take.mixId)) {
      const look = looks.get(take.mixId);
      toldMixes.add(take.mixId);
      if (look)
        put(
          `${take.id}/mix`,
          'mix',
          at(first.from),
          {
            title: capital(look.mix.name),
            lines: [unbroken(look.words)],
            swatch: { rgb: look.rgb, wetRgb: look.wetRgb },
            parts: look.parts.map(({ name, rgb, weight }) => ({ name, rgb, weight })),
          },
          end,
        );
    }
    if (take.kind !== 'canvas') continue;
    const isShort = cut.isShort ?? false;
    for (const stepId of take.stepIds) {
      const step = lesson.steps.find(({ id }) => id === stepId);
      if (!step) continue;
      const begins = own.find((shot) => shot.stepId === stepId && shot.kind !== 'dry')?.from ?? first.from;
      const number = lesson.steps.indexOf(step) + 1;
      const layer = layers.get(stepId);
      put(
        `${take.id}/step/${stepId}`,
        'step',
        at(begins),
        { title: `${number}. ${step.title}`, lines: layer ? [layer] : [] },
        end,
      );
      const brush = brushOf(step.brushId);
      if (isShort) continue;
      if (brush && !toldTools.has(brush.id)) {
        toldTools.add(brush.id);
        const from = out.at(-1)?.to ?? begins;
        if (from < end)
          put(
            `${take.id}/tool/${brush.id}`,
            'tool',
            at(from),
            {
              title: capital(brushTypeWords[brush.type]),
              lines: [[...new Set([brushInMetric(brush), brushInWords(brush)])].join(', ')],
              brush,
            },
            end,
          );
      }
      const look = plainSay(step.checkpoint);
      const result = own.filter((shot) => shot.stepId === stepId).at(-1);
      if (look && result?.piece?.kind === 'result')
        put(`${take.id}/look/${stepId}`, 'look', at(result.from), { title: look, lines: [] }, end);
    }
  }
  // One after the other: what begins while another stands waits for it, and is left out where its picture is over by then.
  const sorted = out.sort((a, b) => a.from - b.from);
  let free = 0;
  return sorted.filter((card) => {
    card.from = Math.max(card.from, free);
    if (card.to <= card.from) return false;
    free = card.to;
    return true;
  });
}

/** Above the captions, but where the picture's subject lies there; then above. */
function freeCorner(lesson: Lesson): CardCorner {
  const subject = visibleOf(lesson).find(({ id }) => id === lesson.subjectAreaId);
  const box = subject && outlineBox(subject.outline);
  if (!box) return 'lower-left';
  const { widthMm, heightMm } = lesson.support;
  const [x, y] = [(box.x + box.width / 2) / widthMm, (box.y + box.height / 2) / heightMm];
  return x < 0.5 && y > 0.5 ? 'upper-left' : 'lower-left';
}

/** Of "sky blue: 2 white : 1 ultramarine" the name. */
const mixName = (words: string): string => words.split(':')[0] ?? words;

/** A recipe that breaks between its parts, never within one. */
const unbroken = (recipe: string): string =>
  recipe
    .split(' : ')
    .map((part) => part.replaceAll(' ', '\u00a0'))
    .join('\u00a0: ');

/** "28 min later, dry"; over a night, the next day. */
const dryWords = (minutes: number): string =>
  minutes >= 600 ? say('The next day, dry') : say`${minutesInWords(minutes)} later, dry`;

/** "Layer 2 of 3 on the sky", for steps whose area gets more than one. */
function layerOf(lesson: Lesson): Map<string, string> {
  const { plan } = filmPlan(lesson);
  const byArea = new Map<string, string[]>();
  for (const { areaId, stepId } of plan.coats) byArea.set(areaId, [...(byArea.get(areaId) ?? []), stepId]);
  const found = new Map<string, string>();
  for (const step of lesson.steps) {
    if (!laysPaint(step)) continue;
    const counts = areasWorkedOn(lesson, step).map((id) => ({ id, coats: byArea.get(id) ?? [] }));
    const most = counts.filter(({ coats }) => coats.length > 1).sort((a, b) => b.coats.length - a.coats.length)[0];
    if (!most) continue;
    const at = most.coats.indexOf(step.id) + 1;
    if (at > 0)
      found.set(
        step.id,
        step.wholeCanvas
          ? say`Layer ${at}, under all the others`
          : say`Layer ${at} of ${most.coats.length}${counts.length > 1 ? say` on ${areaName(lesson, most.id)}` : ''}`,
      );
  }
  return found;
}

/** A name for a card's file: "S004-mix-cloth-blue". */
export const cardFile = ({ slate, kind, title }: Card): string =>
  `${slate}-${kind}-${
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 40) || kind
  }`;
