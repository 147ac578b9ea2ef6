import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import highs from 'highs';
import { WebVTTParser } from 'webvtt-parser';
import { narration, narrationNames, truths } from '../fixtures/narrations.js';
import {
  breakCues,
  type ChainPoint,
  captionChain,
  captionRules,
  leastCostTimes,
  readCaptions,
  spoken,
  stamp,
  type TakenCue,
  timeCues,
  toSrt,
  toVtt,
  wordsOf,
} from './index.js';

/** Seeded numbers in [0, 1). */
const numbers = (seed: number) => {
  let s = seed;
  return () => {
    s = (Math.imul(s ^ (s >>> 15), 2246822519) + 0x9e3779b9) | 0;
    return ((s ^ (s >>> 13)) >>> 0) / 4294967296;
  };
};

function randomFilm(seed: number) {
  const r = numbers(seed);
  const takes = new Map<string, { from: number; to: number }>();
  const cues: TakenCue[] = [];
  let t = 0;
  for (let k = 0; k < 1 + Math.floor(r() * 4); k++) {
    const from = t;
    for (let j = 0; j < 1 + Math.floor(r() * 5); j++) {
      const chars = 8 + Math.floor(r() * 76);
      const seconds = chars / (9 + r() * 14);
      t += r() < 0.4 ? r() * 3 : r() * 0.2;
      cues.push({ text: 'x'.repeat(chars), chars, from: t, to: t + seconds, take: `t${k}` });
      t += seconds;
    }
    t += r() * 1.5;
    takes.set(`t${k}`, { from, to: t });
  }
  const cuts = [...takes.values()].map(({ to }) => to).concat(Array.from({ length: 4 }, () => r() * t));
  return { cues, takes, cuts: cuts.sort((a, b) => a - b) };
}

const costOf = (points: readonly ChainPoint[], x: ArrayLike<number>) =>
  points.reduce(
    (sum, { wish, early, late }, k) => sum + early * Math.max(0, wish - (x[k] ?? 0)) + late * Math.max(0, (x[k] ?? 0) - wish),
    0,
  );

describe('when captions stand', () => {
  let solver: Awaited<ReturnType<typeof highs>>;
  beforeAll(async () => {
    solver = await highs();
  });

  test('costs as little as a linear program finds, on 200 random films (oracle: HiGHS)', () => {
    for (let seed = 0; seed < 200; seed++) {
      const film = randomFilm(seed + 3);
      const { points, links } = captionChain(film.cues, film);
      const x = leastCostTimes(points, links);
      links.forEach(({ lo, hi }, k) => {
        const apart = (x[k + 1] ?? 0) - (x[k] ?? 0);
        expect(apart >= lo && apart <= hi).toBe(true);
      });
      points.forEach(({ floor, ceil }, k) => {
        expect((x[k] ?? 0) >= (floor ?? -1e9) && (x[k] ?? 0) <= (ceil ?? 1e9)).toBe(true);
        expect(Number.isInteger(x[k])).toBe(true);
      });
      const program = [
        'Minimize',
        ` obj: ${points.map(({ early, late }, k) => `${early} e${k} + ${late} l${k}`).join(' + ')}`,
        'Subject To',
        ...points.map(({ wish }, k) => ` w${k}: x${k} + e${k} - l${k} = ${wish}`),
        ...links.flatMap(({ lo, hi }, k) => [
          ` a${k}: x${k + 1} - x${k} >= ${lo}`,
          ...(Number.isFinite(hi) ? [` b${k}: x${k + 1} - x${k} <= ${hi}`] : []),
        ]),
        'Bounds',
        ...points.map(({ floor, ceil }, k) => ` ${floor ?? 0} <= x${k} <= ${ceil ?? 1e9}`),
        'End',
      ].join('\n');
      const best = solver.solve(program);
      expect(best.Status).toBe('Optimal');
      expect(Math.abs(best.ObjectiveValue - costOf(points, x))).toBeLessThan(1e-6);
    }
  });

  test('too much said in a take is named, with what would do', () => {
    const cues = [{ text: 'x'.repeat(80), chars: 80, from: 0, to: 2, take: 'a' }];
    const { cues: out, found } = timeCues(cues, { takes: new Map([['a', { from: 0, to: 2 }]]) });
    expect(found).toHaveLength(1);
    expect(found[0]?.words).toMatch(
      /42 characters a second, 17 can be read\. Shorten by \d+ characters, or give the take 2\.\d s more\./,
    );
    expect(out[0]?.to).toBeLessThanOrEqual(2 - 2 / 25 + 1e-9);
  });
});

describe('captions of what is narrated', () => {
  test('keep the rules: two lines of 42, 17 characters a second, 5/6 to 7 s, valid WebVTT (BBC, EBU R 95, W3C; webvtt-parser)', () => {
    let [lines, torn] = [0, 0];
    for (const name of narrationNames) {
      const { shelf } = truths[name] as (typeof truths)[string];
      const words = wordsOf(readCaptions(narration(name)).cues);
      const broken = breakCues(words, { names: [...shelf.tubes, ...shelf.mixes.map((mix) => mix.name)] });
      const takes = new Map([['a', { from: 0, to: (words.at(-1)?.to ?? 0) + 3 }]]);
      const { cues, found } = timeCues(
        broken.map((cue) => ({ ...cue, take: 'a' })),
        { takes },
      );
      for (const [i, cue] of cues.entries()) {
        const own = cue.text.split('\n');
        expect(own.length).toBeLessThanOrEqual(captionRules.lines);
        for (const line of own) expect(line.length).toBeLessThanOrEqual(captionRules.lineChars);
        lines += own.length - 1;
        if (own.length === 2 && /\b(a|an|the|of|to|my|your|and)$/i.test(own[0] ?? '')) torn++;
        if (found.length === 0) {
          expect(cue.chars / (cue.to - cue.from)).toBeLessThanOrEqual(17.001);
          expect(cue.to - cue.from).toBeGreaterThanOrEqual(0.83);
          expect(cue.to - cue.from).toBeLessThanOrEqual(7.001);
        }
        const before = cues[i - 1];
        if (before) expect(cue.from - before.to).toBeGreaterThanOrEqual(2 / 25 - 1e-9);
      }
      expect(new WebVTTParser().parse(toVtt(cues, name), 'metadata').errors).toEqual([]);
    }
    expect(torn / lines).toBeLessThan(0.03);
  });

  test('a rate of speaking is kept, and a name is not torn', () => {
    const words = spoken('Two parts of white to one of blue, and a touch of umber. Mix it until no streak is left.', 10, 120);
    const last = words.at(-1)?.to ?? 0;
    expect(Math.abs(last - 10 - (words.length / 120) * 60)).toBeLessThan(1.2);
    const cues = breakCues(
      spoken('Take a little of the burnt umber now and lay it along the lower edge of the far wall.', 0, 140),
      {
        names: ['burnt umber'],
      },
    );
    for (const cue of cues) expect(cue.text).not.toMatch(/burnt\n/);
  });
});

describe('files of captions', () => {
  const bits = ['white', 'a < b', '& then', 'umber,', '→', 'ünï', '-', '12', '1 : 2', '“so”', 'NOTE', 'let it dry.', 'x --> y'];
  const line = fc.array(fc.constantFrom(...bits), { minLength: 1, maxLength: 5 }).map((words) => `w${words.join(' ')}`);
  const film = fc.array(
    fc.record({
      pause: fc.integer({ min: 0, max: 2000 }),
      long: fc.integer({ min: 500, max: 6500 }),
      lines: fc.array(line, { minLength: 1, maxLength: 2 }),
    }),
    { minLength: 1, maxLength: 20 },
  );
  const cuesOf = (parts: { pause: number; long: number; lines: string[] }[]) => {
    let t = 0;
    return parts.map(({ pause, long, lines }) => {
      t += pause;
      const from = t;
      t += long;
      return { from: from / 1000, to: t / 1000, text: lines.join('\n') };
    });
  };
  const back = (text: string) => text.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&');

  test('1 000 random files come back the same, as SRT and as WebVTT', () => {
    fc.assert(
      fc.property(film, (parts) => {
        const cues = cuesOf(parts);
        const same = (read: ReturnType<typeof readCaptions>) =>
          read.cues.map(({ from, to, text }) => ({ from, to, text: back(text) }));
        const srt = readCaptions(toSrt(cues));
        expect(srt.faults).toEqual([]);
        expect(same(srt)).toEqual(cues.map((cue) => ({ ...cue, text: cue.text.replaceAll('-->', '→') })));
        const vtt = readCaptions(toVtt(cues));
        expect(vtt.faults).toEqual([]);
        expect(same(vtt)).toEqual(cues);
      }),
      { numRuns: 1000 },
    );
  });

  test('broken ones keep what can be kept and name the line', () => {
    const file = readCaptions(
      '1\n00:00:01,000 --> 00:00:02,000\nwhite\n\n2\n00:00:03,000 -> 00:00:0x\nlost\n\n3\n00:00:09,000 --> 00:00:05,000\nback\n\nstray\n',
    );
    expect(file.cues.map(({ text }) => text)).toEqual(['white', 'back']);
    expect(file.faults.map(({ line }) => line)).toEqual([6, 10, 13]);
    expect(file.faults[0]?.words).toBe('Line 6: this time cannot be read. The caption was left out.');
    expect(readCaptions('').faults[0]?.words).toMatch(/^No captions were found/);
    const odd = readCaptions('\uFEFFWEBVTT\r\n\r\nNOTE x\r\ny\r\n\r\nid 7\r\n01:02.5 --> 01:04.250 line:0\r\nhello\r\n');
    expect(odd.cues).toEqual([{ from: 62.5, to: 64.25, text: 'hello', line: 7, id: 'id 7', settings: 'line:0' }]);
    expect(stamp(3723.4505)).toBe('01:02:03.451');
  });

  test('lines that automatic captions say again are read once', () => {
    const words = wordsOf(
      readCaptions(
        'WEBVTT\n\n00:00.000 --> 00:02.000\nmix<00:00:00.500><c> two</c><00:00:01.000><c> parts</c>\n\n00:02.000 --> 00:04.000\nmix two parts\nof<00:00:02.500><c> white</c>\n',
      ).cues,
    );
    expect(words.map(({ w }) => w).join(' ')).toBe('mix two parts of white');
    expect(words[1]?.from).toBe(0.5);
  });
});
