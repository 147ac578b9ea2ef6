// The film rows of the bench: lengths, orders of filming, captions, steps heard, cards; and films asked for by many phones at once.
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { breakCues, readCaptions, spoken, timeCues, toVtt } from '../packages/core/dist/captions/index.js';
import { allocate, pieceKinds, pieceOf, shootingOrder, takesOf, timelineOf } from '../packages/core/dist/film/index.js';
import { hear, stepsHeard } from '../packages/core/dist/hear/index.js';
import { filmCards } from '../packages/print/dist/index.js';
import { root } from './setup.mjs';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
function timed(work, rounds = 9, warm = 3) {
  for (let i = 0; i < warm; i++) work(i);
  return median(
    Array.from({ length: rounds }, (_, i) => {
      const from = performance.now();
      work(i + warm);
      return performance.now() - from;
    }),
  );
}
const ms = (n) => `${n < 10 ? n.toFixed(1) : Math.round(n)} ms`;
/** Seeded numbers in [0, 1). */
const numbers = (seed) => () => {
  seed = (Math.imul(seed ^ (seed >>> 15), 2246822519) + 0x9e3779b9) | 0;
  return ((seed ^ (seed >>> 13)) >>> 0) / 4294967296;
};

export function filmRows(row) {
  const takes = Array.from({ length: 400 }, (_, t) => ({
    id: `t${t}`,
    ...(t % 3 === 0 && { voiceS: 30 }),
    pieces: Array.from({ length: 6 }, (_, k) =>
      pieceOf(`p${t}/${k}`, null, pieceKinds[(t + k) % pieceKinds.length], 5 + ((t * 7 + k * 13) % 90)),
    ),
  }));
  row('a length shared out exactly', '400 takes, 2400 pieces', ms(timed((i) => allocate(takes, 20000 + i), 25, 8)), '≤ 20 ms');
  const lesson = JSON.parse(readFileSync(join(root, 'packages/server/assets/demo/balloons.json'), 'utf8'));
  takesOf(lesson);
  const cut = (i) => ({
    ...lesson,
    film: {
      cuts: [
        { id: 'full', name: 'Full', lengthSec: 900 + i, fixed: [{ pieceId: `${lesson.steps[3].id}/rest`, sec: 10 + i / 10 }] },
      ],
    },
  });
  row(
    'a piece dragged, the film laid out anew',
    `${takesOf(lesson).length} takes`,
    ms(timed((i) => timelineOf(cut(i), 'full'), 25, 8)),
    '≤ 16 ms',
  );
  row('order of filming, exact', '9 canvas takes, 7 others', ms(timed((i) => shootingOrder(problem(i, 9, 7)), 9)), '');
  row(
    'order of filming, narrow',
    '16 canvas takes, 14 others',
    ms(timed((i) => shootingOrder(problem(i, 16, 14), true), 9)),
    '≤ 700 ms',
  );
  const words = spoken(
    Array.from({ length: 120_000 }, (_, i) => (i % 9 === 8 ? 'brush.' : i % 4 === 3 ? 'umber,' : 'the')).join(' '),
    0,
    150,
  );
  const cues = breakCues(words)
    .slice(0, 10_000)
    .map((cue) => ({ ...cue, take: 'a' }));
  const spans = new Map([['a', { from: 0, to: cues.at(-1).to + 500 }]]);
  const text = toVtt(cues);
  row(
    'captions read',
    `${cues.length} captions, ${(text.length / 1e6).toFixed(1)} MB`,
    ms(timed(() => readCaptions(text))),
    '≤ 30 ms',
  );
  row('captions broken into lines', `${cues.length} captions`, ms(timed(() => breakCues(words), 3, 1)), '≤ 300 ms');
  row('captions timed, least cost', `${cues.length} captions`, ms(timed(() => timeCues(cues, { takes: spans }))), '≤ 100 ms');
  const folder = join(root, 'packages/core/src/fixtures/narrations');
  const one = readCaptions(readFileSync(join(folder, 'v3-beehives.vtt'), 'utf8')).cues;
  const truth = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8'))['v3-beehives'];
  const long = [];
  for (let k = 0; long.length === 0 || long.at(-1).to < 1800; k++)
    for (const cue of one) long.push({ ...cue, from: cue.from + k * truth.seconds, to: cue.to + k * truth.seconds });
  const spokenFilm = toVtt(long);
  row(
    'steps heard in a narration',
    `30 min, ${Math.round(spokenFilm.split(/\s+/).length / 1000)} 000 words`,
    ms(timed(() => stepsHeard(hear(spokenFilm, truth.shelf), 60), 3, 1)),
    '≤ 500 ms',
  );
  const timeline = timelineOf(lesson, 'full');
  row(
    'cards as SVG with outlines',
    `${filmCards(lesson, timeline, { widthPx: 1920, heightPx: 1080 }).svgs.size} cards`,
    ms(timed(() => filmCards(lesson, timeline, { widthPx: 1920, heightPx: 1080 }), 3, 1)),
    '≤ 4 s',
  );
}

function problem(seed, canvases, frees) {
  const r = numbers(seed + 61);
  const place = ['canvas', 'palette', 'wide', 'hands'];
  const takes = [
    ...Array.from({ length: canvases }, (_, k) => ({
      id: `c${k}`,
      isCanvas: true,
      setup: r() < 0.8 ? 'canvas' : 'hands',
      minutes: 2 + Math.floor(r() * 8),
    })),
    ...Array.from({ length: frees }, (_, k) => {
      const a = Math.floor(r() * canvases);
      const b = a + 1 + Math.floor(r() * (canvases - a));
      return {
        id: `f${k}`,
        setup: place[1 + Math.floor(r() * 3)],
        minutes: 1 + Math.floor(r() * 4),
        ...(r() < 0.5 && { after: [`c${a}`] }),
        ...(r() < 0.4 && b < canvases && { before: `c${b}` }),
      };
    }),
  ];
  const dry = [];
  for (let k = 1; k < canvases; k++)
    if (r() < 0.6) dry.push({ from: `c${Math.floor(r() * k)}`, to: `c${k}`, minutes: 5 + Math.floor(r() * 20) });
  return { takes, dry, change: (a, b) => (a === b ? 0 : a === 'wide' || b === 'wide' ? 6 : 3) };
}

const FILM_BYTES = 60_000_000;
const PHONES = 50;
/** A film asked for by ranges: the first byte, and fifty phones at once. `pid` is the server's. */
export async function filmServingRows(row, { url, pid, cookie }) {
  const origin = url;
  const film = Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), randomBytes(FILM_BYTES - 4)]);
  const headers = { cookie, origin };
  const began = await fetch(`${url}/api/films`, {
    method: 'POST',
    headers: { ...headers, 'upload-length': String(film.length) },
  });
  const place = began.headers.get('location');
  await fetch(url + place, {
    method: 'PATCH',
    headers: { ...headers, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' },
    body: film,
  });
  const { createHash } = await import('node:crypto');
  const sha256 = createHash('sha256').update(film).digest('hex');
  await fetch(`${url}${place}/finish`, {
    method: 'POST',
    headers: { ...headers, 'content-type': 'application/json' },
    body: JSON.stringify({ sha256 }),
  });
  const get = (from, length) =>
    fetch(`${url}/api/films/${sha256}`, { headers: { cookie, range: `bytes=${from}-${from + length - 1}` } });
  const first = [];
  for (let i = 0; i < 25; i++) {
    const from = performance.now();
    const answer = await get(i * 1_000_000, 200_000);
    await answer.body.getReader().read();
    first.push(performance.now() - from);
  }
  row('a film by range, its first byte', '200 kB of 60 MB', ms(median(first)), '≤ 30 ms');
  const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1000;
  const before = rss();
  let most = before;
  const look = setInterval(() => {
    most = Math.max(most, rss());
  }, 20);
  const from = performance.now();
  await Promise.all(Array.from({ length: PHONES }, async (_, i) => (await get((i % 5) * 10_000_000, 10_000_000)).arrayBuffer()));
  clearInterval(look);
  row(
    'fifty phones at once',
    `${PHONES} × 10 MB`,
    `${((performance.now() - from) / 1000).toFixed(1)} s, ${Math.round(most - before)} MB more`,
    '≤ 200 MB',
  );
}
