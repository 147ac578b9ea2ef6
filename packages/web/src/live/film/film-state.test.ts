import { describe, expect, it } from '@jest/globals';
import type { JoinedFilm } from '@viaticum/contract';
import { filmPlaceAt, keepingUp } from '@viaticum/core/class';
import { filmOf, strokeBefore } from './film-state.js';

const film: JoinedFilm = {
  id: 'f',
  name: 'whole',
  fileSha256: 'a'.repeat(64),
  type: 'video/webm',
  bytes: 1,
  durationMs: 90_000,
  widthPx: 320,
  heightPx: 180,
  chapters: [
    { stepId: 'one', fromMs: 0, toMs: 30_000 },
    { stepId: 'two', fromMs: 30_000, toMs: 90_000 },
  ],
  strokes: [
    { stepId: 'two', atMs: 32_000 },
    { stepId: 'two', atMs: 40_000 },
    { stepId: 'two', atMs: 55_000 },
  ],
};
const two = filmOf({ films: [film] }, 'two') ?? { film, chapter: film.chapters[0] as (typeof film.chapters)[number] };

describe('again from this stroke', () => {
  it('goes to the last stroke that began a second ago or more; pressed twice, to the one before', () => {
    const first = strokeBefore(two, 60_000, 0, null);
    expect(first.toMs).toBe(55_000);
    const second = strokeBefore(two, 55_400, 1500, first);
    expect(second.toMs).toBe(40_000);
    expect(strokeBefore(two, 40_400, 2500, second).toMs).toBe(32_000);
    expect(strokeBefore(two, 55_500, 9000, first).toMs).toBe(40_000);
  });
  it('never leaves the step, and without strokes goes eight seconds back', () => {
    expect(strokeBefore(two, 31_000, 0, null).toMs).toBe(30_000);
    const one = filmOf({ films: [film] }, 'one') ?? two;
    expect(strokeBefore(one, 20_000, 0, null).toMs).toBe(12_000);
    expect(strokeBefore(one, 3000, 0, null).toMs).toBe(0);
  });
  it('a step without a stretch has no film', () => {
    expect(filmOf({ films: [film] }, 'three')).toBeNull();
    expect(filmOf({}, 'one')).toBeNull();
  });
});

describe('a film that a group follows together', () => {
  it('stands where its host has it, and goes on at their rate', () => {
    const at = { filmId: 'f', atMs: 10_000, isPlaying: true, rate: 1.5, at: 1000 };
    expect(filmPlaceAt(at, 5000)).toBe(16_000);
    expect(filmPlaceAt({ ...at, isPlaying: false }, 5000)).toBe(10_000);
    expect(filmPlaceAt(at, 1_000_000, 90_000)).toBe(90_000);
  });
  it('phones of different clocks come within 50 ms without a jump, and jump where they are far', () => {
    for (const offMs of [180, -400, 1500, -1900]) {
      let [off, isCatching] = [offMs, false];
      for (let t = 0; t < 120 && (isCatching || Math.abs(off) > 50); t++) {
        const step = keepingUp(off, 1, isCatching);
        expect(step.jump).toBe(false);
        isCatching = step.isCatching;
        off += (step.rate - 1) * 500;
      }
      expect(Math.abs(off)).toBeLessThanOrEqual(50);
    }
    expect(keepingUp(2500, 1, false).jump).toBe(true);
    expect(keepingUp(-100, 1, false)).toEqual({ rate: 1, jump: false, isCatching: false });
  });
});
