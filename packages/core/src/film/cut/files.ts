import type { Lesson } from '@viaticum/contract';
import { stamp, toMetadataVtt, toSrt, toVtt } from '../../captions/index.js';
import { toCsv } from '../../format/index.js';
import { type Card, cardFile, cardsOf } from './cards.js';
import { chaptersOf } from './chapters.js';
import type { Shot, Timeline } from './cuts.js';
import { captionsOf } from './said.js';

export const captionsVtt = (lesson: Lesson, timeline: Timeline): string =>
  toVtt(captionsOf(lesson, timeline).cues, `${lesson.title}, ${timeline.cut.name.toLowerCase()}`);
export const captionsSrt = (lesson: Lesson, timeline: Timeline): string => toSrt(captionsOf(lesson, timeline).cues);

export const chaptersVtt = (lesson: Lesson, timeline: Timeline): string =>
  toVtt(
    chaptersOf(lesson, timeline).map(({ stepId, title, from, to }) => ({ from, to, text: title, ...(stepId && { id: stepId }) })),
    'chapters',
  );

/** Where strokes begin and paint dries, for a program (`kind=metadata`). */
export const strokesVtt = ({ shots, fps }: Timeline): string =>
  toMetadataVtt(
    shots.flatMap(({ kind, piece, stepId, from, to, dryMin }) => {
      const at = { from: from / fps, to: to / fps };
      if (kind === 'dry') return [{ ...at, data: { type: 'dry', stepId, minutes: dryMin } }];
      return piece?.kind === 'key' ? [{ ...at, data: { type: 'stroke', stepId } }] : [];
    }),
    'strokes',
  );

/** The cards of a cut with their times and places, for laying them over the film by hand. */
export const cardsCsv = (
  lesson: Lesson,
  timeline: Timeline,
  places: ReadonlyMap<string, { x: number; y: number; width: number; height: number }>,
): string =>
  toCsv(
    ['in', 'out', 'file', 'kind', 'text', 'take', 'x', 'y', 'width', 'height'],
    cardsOf(lesson, timeline)
      .filter(({ isHidden }) => !isHidden)
      .map((card: Card) => {
        const { x = 0, y = 0, width = 0, height = 0 } = places.get(card.key) ?? {};
        const text = [card.title, ...card.lines].join(': ');
        return [
          stamp(card.from / timeline.fps),
          stamp(card.to / timeline.fps),
          `${cardFile(card)}.png`,
          card.kind,
          text,
          card.slate,
          x,
          y,
          width,
          height,
        ];
      }),
  );

/** One edit decision list holds so many events. */
const MOST_EVENTS = 999;
const code = (frames: number, fps: number): string => {
  const two = (n: number) => String(n).padStart(2, '0');
  const seconds = Math.floor(frames / fps);
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}:${two(frames % fps)}`;
};
/** Capitals and digits, as such lists are commonly written. */
const plain = (text: string): string =>
  text
    .toUpperCase()
    .replace(/[^A-Z0-9 ,.:()-]/g, '')
    .slice(0, 60);

/**
 * A cut as edit decision lists in their open plain-text form (CMX 3600, as it is commonly written; from memory): reel = slate, cuts in the
 * picture alone, recorded from one hour on without dropped frames, speed changes as M2 lines. Source times count from the take's first
 * picture. More than 999 events make several lists.
 */
export function edlOf(lesson: Lesson, timeline: Timeline): string[] {
  const { shots, fps, takes, cut } = timeline;
  const hour = 3600 * fps;
  const titles = new Map(takes.map(({ id, title }) => [id, title]));
  const events = shots.map((shot) => eventOf(shot, fps, hour, titles.get(shot.takeId) ?? ''));
  const lists: string[] = [];
  for (let at = 0; at < Math.max(1, events.length); at += MOST_EVENTS) {
    const own = events.slice(at, at + MOST_EVENTS).map((event, i) => event(String(i + 1).padStart(3, '0')));
    const part = events.length > MOST_EVENTS ? ` ${at / MOST_EVENTS + 1}` : '';
    lists.push(`${[`TITLE: ${plain(`${lesson.title} ${cut.name}`)}${part}`, 'FCM: NON-DROP FRAME', '', ...own].join('\n')}\n`);
  }
  return lists;
}

function eventOf(
  { kind, slate, from, to, srcFrom, speed, dryMin }: Shot,
  fps: number,
  hour: number,
  title: string,
): (number: string) => string {
  const record = `${code(hour + from, fps)} ${code(hour + to, fps)}`;
  const long = to - from;
  if (kind === 'dry')
    return (number) =>
      `${number}  BL       V     C        ${code(0, fps)} ${code(long, fps)} ${record}\n* COMMENT: CARD ${slate}-DRY ${Math.round(dryMin as number)} MIN LATER, DRY`;
  const source = Math.round(srcFrom * fps);
  const sourceEnd = source + (kind === 'hold' ? 1 : Math.max(1, Math.round(long * speed)));
  const rate = kind === 'hold' ? 0 : speed;
  const isChanged = Math.abs(rate - 1) > 0.005;
  return (number) =>
    [
      `${number}  ${slate.padEnd(8)} V     C        ${code(source, fps)} ${code(sourceEnd, fps)} ${record}`,
      ...(isChanged
        ? [`M2   ${slate.padEnd(8)}       ${(fps * rate).toFixed(1).padStart(5, '0')}                ${code(source, fps)}`]
        : []),
      `* FROM CLIP NAME: ${plain(`${slate} ${title}`)}`,
    ].join('\n');
}
