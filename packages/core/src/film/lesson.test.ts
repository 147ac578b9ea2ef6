import { describe, expect, test } from '@jest/globals';
import type { Lesson, Step } from '@viaticum/contract';
import { WebVTTParser } from 'webvtt-parser';
import { carryOut, startHistory, undo } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import {
  captionsOf,
  captionsSrt,
  captionsVtt,
  cardsCsv,
  cardsOf,
  chaptersOf,
  chaptersVtt,
  cutFindings,
  descriptionOf,
  driedBefore,
  edlOf,
  filmedMinutes,
  filmPlan,
  jumpsOf,
  lostEdits,
  notedSeconds,
  partsOf,
  partTimeline,
  type ShootEvent,
  shootingList,
  shootProblem,
  shootState,
  strokesVtt,
  takesCsv,
  takesOf,
  timelineOf,
} from './index.js';

const demos = (['balloons', 'kettle', 'star', 'wool'] as const).map((name) => demoLesson(name));
const withFilm = (lesson: Lesson, film: Lesson['film']): Lesson => ({ ...lesson, ...(film && { film }) });
const seconds = (code: string, fps: number): number => {
  const [h, m, s, f] = code.split(':').map(Number) as [number, number, number, number];
  return h * 3600 + m * 60 + s + f / fps;
};

describe.each(demos.map((lesson) => ({ title: lesson.title, lesson })))('filmed: $title', ({ lesson }) => {
  const takes = takesOf(lesson);
  const full = timelineOf(lesson, 'full');

  test('every step that is painted, drawn or looked at is in exactly one canvas take, in its order; every heap is filmed before', () => {
    const filmed = takes.filter(({ kind }) => kind === 'canvas').flatMap(({ stepIds }) => stepIds);
    expect(filmed).toEqual(
      lesson.steps.filter(({ kind, ahead }) => kind !== 'break' && kind !== 'dry' && !ahead).map(({ id }) => id),
    );
    const heaps = takes.flatMap(({ mixId }) => mixId ?? []);
    expect(new Set(heaps).size).toBe(heaps.length);
    for (const step of lesson.steps)
      for (const mixId of step.mixIds) {
        const heap = takes.findIndex((take) => take.mixId === mixId);
        expect(heap).toBeGreaterThanOrEqual(0);
        expect(heap).toBeLessThan(takes.findIndex(({ kind, stepIds }) => kind === 'canvas' && stepIds.includes(step.id)));
      }
    expect(takes.map(({ slate }) => slate)).toEqual(takes.map((_, i) => `S${String(i + 1).padStart(3, '0')}`));
  });

  test.each(['full', 'summary', 'minute'])(
    'the %s cut is as long as wished, to the frame, and no shot lies beside another',
    (id) => {
      const { shots, frames, wishS, fps, allocation, takes: shown } = timelineOf(lesson, id);
      expect(allocation.status).toBe('exact');
      expect(frames).toBe(Math.round(wishS * fps));
      expect(shots[0]?.from).toBe(0);
      for (const [i, shot] of shots.entries()) expect(shot.to).toBe(shots[i + 1]?.from ?? frames);
      for (const { piece, speed, isJump } of shots)
        if (piece && !isJump) {
          expect(speed).toBeGreaterThanOrEqual(1 - 1e-9);
          if (piece.kind === 'speech' || (id === 'full' && piece.kind === 'result')) expect(speed).toBeCloseTo(1, 9);
        }
      expect(shown.length).toBeGreaterThan(2);
    },
  );

  test('every drying of the plan is a card of the full cut, every mix has a card, and none covers another', () => {
    const cards = cardsOf(lesson, full);
    const dries = full.shots.filter(({ kind }) => kind === 'dry');
    const waited = driedBefore(filmPlan(lesson).plan);
    const [first] = takes.find(({ kind }) => kind === 'canvas')?.stepIds ?? [];
    expect(dries.map(({ stepId }) => stepId)).toEqual([...waited.keys()].filter((id) => id !== first));
    for (const { stepId, dryMin } of dries) expect(dryMin).toBe(waited.get(stepId as string)?.minutes);
    expect(cards.filter(({ kind }) => kind === 'dry')).toHaveLength(dries.length);
    const mixes = new Set(lesson.steps.flatMap(({ mixIds }) => mixIds));
    expect(cards.filter(({ kind }) => kind === 'mix')).toHaveLength(mixes.size);
    cards.forEach((card, i) => {
      expect(card.to).toBeGreaterThan(card.from);
      const next = cards[i + 1];
      if (next) expect(card.to).toBeLessThanOrEqual(next.from);
    });
  });

  test('captions keep two lines of 42 and 17 characters a second within their take; files are valid (webvtt-parser)', () => {
    const { cues, found } = captionsOf(lesson, full);
    expect(cues.length).toBeGreaterThan(10);
    const crowded = new Set(found.map(({ take }) => take));
    for (const [i, cue] of cues.entries()) {
      const lines = cue.text.split('\n');
      expect(lines.length).toBeLessThanOrEqual(2);
      for (const line of lines) expect(line.length).toBeLessThanOrEqual(42);
      if (!crowded.has(cue.takeId)) expect(cue.cps).toBeLessThanOrEqual(17.001);
      const next = cues[i + 1];
      if (next) expect(next.from - cue.to).toBeGreaterThanOrEqual(2 / 25 - 1e-9);
      const own = full.shots.filter(({ takeId }) => takeId === cue.takeId);
      expect(cue.to).toBeLessThanOrEqual((own.at(-1)?.to ?? 0) / 25);
    }
    const parser = new WebVTTParser();
    expect(parser.parse(captionsVtt(lesson, full), 'metadata').errors).toEqual([]);
    expect(parser.parse(chaptersVtt(lesson, full), 'chapters').errors).toEqual([]);
    expect(parser.parse(strokesVtt(full), 'metadata').errors).toEqual([]);
    expect(captionsSrt(lesson, full)).toMatch(/^1\r\n00:0\d:\d\d,\d{3} --> /);
  });

  test('the edit list read back is the cut', () => {
    const [list = '', ...more] = edlOf(lesson, full);
    expect(more).toEqual([]);
    const events = [...list.matchAll(/^(\d{3}) {2}(\S+) +V {5}C {8}(\S+) (\S+) (\S+) (\S+)$/gm)];
    expect(events).toHaveLength(full.shots.length);
    events.forEach(([, number, reel, srcIn, srcOut, recIn, recOut], i) => {
      const shot = full.shots[i] as (typeof full.shots)[number];
      expect(Number(number)).toBe(i + 1);
      expect(reel).toBe(shot.kind === 'dry' ? 'BL' : shot.slate);
      expect(Math.round((seconds(recIn as string, 25) - 3600) * 25)).toBe(shot.from);
      expect(Math.round((seconds(recOut as string, 25) - 3600) * 25)).toBe(shot.to);
      const source = (seconds(srcOut as string, 25) - seconds(srcIn as string, 25)) * 25;
      if (shot.kind === 'piece') expect(Math.abs(source - (shot.to - shot.from) * shot.speed)).toBeLessThan(1);
    });
    expect(list.match(/^M2 /gm)?.length).toBe(full.shots.filter(({ speed }) => speed > 1.005).length);
  });

  test('chapters follow one another from 0:00, those of a description ten seconds apart', () => {
    const chapters = chaptersOf(lesson, full);
    expect(chapters[0]?.from).toBe(0);
    for (const [i, { to }] of chapters.entries()) expect(to).toBe(chapters[i + 1]?.from ?? full.frames / 25);
    const times = [...descriptionOf(lesson, full).matchAll(/^(\d+):(\d\d) /gm)].map(([, m, s]) => Number(m) * 60 + Number(s));
    expect(times[0]).toBe(0);
    for (const [i, t] of times.slice(1).entries()) expect(t - (times[i] as number)).toBeGreaterThanOrEqual(9);
    expect(descriptionOf(lesson, full)).toMatch(/Read the labels/);
  });

  test('parts together are the film, none much shorter than wished, each with what its steps need', () => {
    const parts = partsOf(lesson, full, 240);
    expect(parts.flatMap(({ takeIds }) => takeIds)).toEqual(full.takes.map(({ id }) => id));
    parts.forEach((part, i) => {
      expect(part.to).toBe(parts[i + 1]?.from ?? full.frames);
      expect((part.to - part.from) / 25).toBeGreaterThan(110);
      if (i > 0) expect(part.recapStepId).not.toBeNull();
      const steps = lesson.steps.filter(({ id }) =>
        full.takes.some((take) => part.takeIds.includes(take.id) && take.stepIds.includes(id)),
      );
      const own = partTimeline(full, part);
      expect([own.shots[0]?.from, own.shots.at(-1)?.to]).toEqual([0, own.frames]);
      expect(edlOf(lesson, own)[0]).toMatch(new RegExp(`^TITLE: .* PART ${part.number} OF ${part.of}\\n`));
      expect(chaptersOf(lesson, own)[0]?.from).toBe(0);
      expect(cardsOf(lesson, own)[0]?.lines[0]).toMatch(/^You need: /);
      expect(part.mixes.length).toBe(new Set(steps.flatMap(({ mixIds }) => mixIds)).size);
    });
  });

  test('the order of filming keeps the canvas in its order and dry where it must be, and is no longer than the order of painting', () => {
    const list = shootingList(lesson, takes, true);
    expect(list.order.map(({ takeId }) => takeId).sort()).toEqual(takes.map(({ id }) => id).sort());
    const canvas = new Set(takes.filter(({ kind }) => kind === 'canvas').map(({ id }) => id));
    expect(list.order.filter(({ takeId }) => canvas.has(takeId)).map(({ takeId }) => takeId)).toEqual([...canvas]);
    const at = new Map(list.order.map((one) => [one.takeId, one]));
    for (const { from, to, minutes } of shootProblem(lesson, takes).dry)
      expect((at.get(to)?.fromMin ?? 0) - (at.get(from)?.endMin ?? 0)).toBeGreaterThanOrEqual(minutes - 1e-6);
    expect(list.endMin).toBeLessThanOrEqual(list.plainMin + 1e-6);
    const csv = takesCsv(lesson, takes, list, new Map());
    expect(csv.split('\r\n').filter(Boolean)).toHaveLength(takes.length + 1);
  });
});

describe('what a person decides', () => {
  const lesson = demoLesson('kettle');
  test('a dragged piece keeps its length and the film its own; undone all is as before', () => {
    const before = startHistory(lesson);
    const longest = timelineOf(lesson, 'full').shots.find(({ piece }) => piece?.kind === 'tracing');
    const pieceId = longest?.piece?.id as string;
    const after = carryOut(before, 'dragPieces', { cutId: 'full', pieces: [{ pieceId, sec: 90 }] });
    const timeline = timelineOf(after.lesson, 'full');
    const shot = timeline.shots.find(({ piece }) => piece?.id === pieceId);
    expect(((shot?.to ?? 0) - (shot?.from ?? 0)) / 25).toBeCloseTo(90, 1);
    expect(timeline.frames).toBe(timelineOf(lesson, 'full').frames);
    expect(undo(after).lesson).toEqual(lesson);
  });
  test('a film shorter than what is said says so, and recording the voice afterwards mends it', () => {
    const short = withFilm(lesson, { cuts: [{ id: 'full', name: 'Full', lengthSec: 200 }] });
    const [found] = cutFindings(timelineOf(short, 'full'));
    expect(found?.code).toBe('too-short');
    const length = found?.mends.find(({ kind }) => kind === 'length');
    const longer = withFilm(lesson, { cuts: [{ id: 'full', name: 'Full', lengthSec: length?.seconds as number }] });
    expect(cutFindings(timelineOf(longer, 'full')).map(({ code }) => code)).not.toContain('too-short');
    const all = takesOf(lesson).filter(({ say }) => say);
    const silent = withFilm(short, { ...short.film, takeEdits: all.map(({ id }) => ({ takeId: id, voice: 'after' })) });
    expect(timelineOf(silent, 'full').allocation.leastS).toBeLessThan(timelineOf(short, 'full').allocation.leastS);
  });
  test('jumping over a repetition saves what it says', () => {
    const timeline = timelineOf(lesson, 'full');
    const [jump] = jumpsOf(timeline);
    const jumped = withFilm(lesson, {
      cuts: [{ id: 'full', name: 'Full', lengthSec: timeline.wishS, fixed: [{ pieceId: jump?.pieceId as string, sec: 3 }] }],
    });
    expect(timelineOf(jumped, 'full').shots.find(({ piece }) => piece?.id === jump?.pieceId)?.isJump).toBe(true);
    expect(timeline.allocation.leastS - timelineOf(jumped, 'full').allocation.leastS).toBeGreaterThan(0);
  });
  test('edits of a take whose step is gone are kept and named', () => {
    const edited = withFilm(lesson, { takeEdits: [{ takeId: 'gone/canvas', mustSee: 'the hand' }] });
    expect(lostEdits(edited).map(({ takeId }) => takeId)).toEqual(['gone/canvas']);
    const joined = carryOut(startHistory(edited), 'joinTake', { takeId: 'gone/canvas', toTakeId: 'k3/canvas' }).lesson;
    expect(takesOf(joined).find(({ id }) => id === 'k3/canvas')?.mustSee).toEqual(['the hand']);
    expect(lostEdits(joined)).toEqual([]);
  });
  test('a pinned order is held to, and says what it costs', () => {
    const takes = takesOf(lesson);
    const pinned = withFilm(lesson, { order: takes.map(({ id }) => id).reverse() });
    const list = shootingList(pinned, takesOf(pinned), true);
    expect(list.isPinned).toBe(true);
    expect(list.pinCostMin).toBeGreaterThanOrEqual(0);
    const canvas = takes.filter(({ kind }) => kind === 'canvas').map(({ id }) => id);
    expect(list.order.map(({ takeId }) => takeId).filter((id) => canvas.includes(id))).toEqual(canvas);
  });
  test('cells that a spreadsheet would reckon with are marked', () => {
    const odd = { ...lesson, steps: lesson.steps.map((step, i) => (i === 0 ? { ...step, title: '=SUM(A1)' } : step)) };
    const takes = takesOf(odd);
    expect(takesCsv(odd, takes, shootingList(odd, takes, true), new Map())).toContain(",'=SUM(A1),");
    expect(cardsCsv(odd, timelineOf(odd, 'full'), new Map())).toMatch(/^in,out,file,kind,text,take,x,y,width,height\r\n/);
  });
});

test('steps that wet paint joins are one take, and the camera is not moved', () => {
  const wet = (id: string, rest: Partial<Step> = {}) => testStep(id, { areaIds: ['a'], ...rest });
  const takes = takesOf(
    smallLesson([wet('s1'), wet('s2', { areaIds: ['b'] }), wet('s3', { needs: 'wet', technique: 'blend' }), wet('s4')]),
  );
  const canvas = takes.filter(({ kind }) => kind === 'canvas');
  expect(canvas.map(({ stepIds }) => stepIds)).toEqual([['s1', 's2', 's3'], ['s4']]);
  expect(canvas[0]?.notes[0]).toMatch(/3 steps in one take/);
});

describe('what is noted while filming', () => {
  const lesson = demoLesson('kettle');
  const event = (id: number, at: number, kind: ShootEvent['kind'], takeId = 'k3/canvas'): ShootEvent => ({
    id: `e${id}`,
    at: at * 1000,
    takeId,
    kind,
  });
  const events = [
    event(1, 0, 'started'),
    event(2, 100, 'stopped'),
    event(3, 101, 'again'),
    event(4, 200, 'started'),
    event(5, 560, 'stopped'),
    event(6, 562, 'good'),
  ];
  test('gives the seconds of the good take, in any order and sent twice', () => {
    const state = shootState([...events].reverse().concat(events)).get('k3/canvas');
    expect(state?.runs.map(({ seconds, said }) => [seconds, said])).toEqual([
      [100, 'again'],
      [360, 'good'],
    ]);
    expect(state?.goodS).toBe(360);
    expect(shootState(events.slice(0, 1)).get('k3/canvas')?.runningSince).toBe(0);
  });
  test('comes back as the take’s length and as a suggestion for the step’s minutes', () => {
    const takes = takesOf(lesson, notedSeconds(shootState(events)));
    const take = takes.find(({ id }) => id === 'k3/canvas');
    expect([take?.rawFrom, Math.round(take?.rawS ?? 0)]).toEqual(['noted', 360]);
    const [found] = filmedMinutes(lesson, takes);
    expect(found?.stepId).toBe('k3');
    expect(found?.suggested).toBeGreaterThan(found?.planned ?? 0);
    // Taken, it is not suggested again.
    const after = carryOut(startHistory(lesson), 'editStep', { id: 'k3', step: { doMin: found?.suggested as number } }).lesson;
    expect(filmedMinutes(after, takesOf(after, notedSeconds(shootState(events))))).toEqual([]);
    expect(filmedMinutes(lesson, takesOf(lesson))).toEqual([]);
  });
});
