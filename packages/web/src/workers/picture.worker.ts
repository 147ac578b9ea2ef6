import type { Lab, Lesson, Outline } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { labelSheets, visibleParts } from '@viaticum/core/area';
import { carryOut, startHistory } from '@viaticum/core/document';
import { readCard } from '@viaticum/core/drawdown';
import { beginLesson, redoLesson, withRefused } from '@viaticum/core/lesson-from-picture';
import { lightPicture, lightsIn, twoLights } from '@viaticum/core/light';
import {
  BARE,
  binL,
  colourSpread,
  compose,
  compositionNotes,
  cutAreas,
  discColour,
  extremes,
  flowField,
  growRegion,
  type LaidPicture,
  looksOfThings,
  maskOutline,
  measureEdges,
  prepare,
  proposeAreas,
  reduceValues,
  refineAreas,
  type Segmentation,
  type Source,
} from '@viaticum/core/picture';
import { heldMin, planLesson } from '@viaticum/core/plan';
import { offByAreas, offBySteps, stageInput } from '@viaticum/core/stage';
import { checkDrawing, drawLines, findCorners } from '@viaticum/core/transfer';
import { labToSrgb } from '@viaticum/kernels/colour';
import { stageSession } from '@viaticum/kernels/painting';
import {
  blur,
  byteOfLinear,
  type Labels,
  type LabRaster,
  labelMeans,
  labRaster,
  lightness,
  lightnessBins,
  linearOfByte,
  type Rgba,
  recounted,
  resampleLabels,
  rgba,
  shrink,
  sizeWithin,
} from '@viaticum/kernels/raster';
import {
  doubts,
  liveLabels,
  type Proposal,
  prepareScene,
  proposeThings,
  refinedLabels,
  type Scene,
  type Walked,
  walk,
} from '@viaticum/kernels/things';
import { nanoid } from 'nanoid';
import type { JobName, LayArgs, Marked, PictureJobs, ShownArea, SourceAt } from './picture-jobs.js';
import { breathe, runJob, serveJobs } from './serve-jobs.js';

const NOTES_PIXELS = 240_000;

const pixelsOf = new Map<string, Promise<Rgba>>();
let laid: LaidPicture | null = null;
let lab: LabRaster | null = null;
let segmentation: Segmentation | null = null;
/** What things are told apart in by marks, with its plain colours. */
let scene: { of: Scene; plain: LabRaster; proposal: Proposal; guess: Int16Array } | null = null;
/** The last answer, from which the next one is near. */
let warm: { of: Scene; hints: string; walked: Walked } | null = null;
const painting = stageSession();

const MOST_PHOTO_PIXELS = 4_000_000;
/** The pixels of a chosen file, at most four megapixels of them. Throws a sentence where it is no picture. */
async function photoOf(blob: Blob): Promise<Rgba> {
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(blob);
  } catch {
    throw new Error(say('This file is no picture that can be read. Choose a PNG, JPEG or WebP.'));
  }
  const { width, height } = sizeWithin(bitmap, MOST_PHOTO_PIXELS);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return { width, height, data: context.getImageData(0, 0, width, height).data };
}

/** The pixels of a picture, decoded once. */
function read(url: string): Promise<Rgba> {
  const known = pixelsOf.get(url);
  if (known) return known;
  const fresh = (async () => {
    const response = await fetch(url);
    if (!response.ok) throw new Error(say('The picture could not be read. Open the lesson again.'));
    const bitmap = await createImageBitmap(await response.blob());
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    const context = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D;
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    const { data, width, height } = context.getImageData(0, 0, canvas.width, canvas.height);
    return { width, height, data };
  })();
  pixelsOf.set(url, fresh);
  fresh.catch(() => pixelsOf.delete(url));
  return fresh;
}

async function sourceOf(at: SourceAt): Promise<Source> {
  const { url, correction, extend, ...rest } = at;
  return { ...rest, pixels: await read(url), ...(correction ? { correction } : {}), ...(extend ? { extend } : {}) };
}

function theLaid(): LaidPicture {
  if (!laid) throw new Error(say('There is no picture yet. Choose one first.'));
  return laid;
}
function theLab(): LabRaster {
  lab ??= labRaster(theLaid().picture);
  return lab;
}

async function imageOf(picture: Rgba): Promise<Blob> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.putImageData(new ImageData(new Uint8ClampedArray(picture.data), picture.width, picture.height), 0, 0);
  return canvas.convertToBlob({ type: 'image/webp', quality: 0.92 });
}

let squint: { of: LaidPicture; blurMm: number; picture: Rgba } | null = null;
/** Blurred in linear light, as a half-closed eye does; the last one is kept, for the values and the greys of it. */
async function squinted(id: number, of: LaidPicture, blurMm: number): Promise<Rgba> {
  if (blurMm <= 0) return of.picture;
  if (squint?.of !== of || squint.blurMm !== blurMm) squint = { of, blurMm, picture: await blurred(id, of, blurMm) };
  return squint.picture;
}
async function blurred(id: number, { picture, mmPerPx }: LaidPicture, blurMm: number): Promise<Rgba> {
  const out = rgba(picture.width, picture.height);
  for (let c = 0; c < 3; c++) {
    await breathe(id, 0.1 + 0.2 * c);
    const data = new Float32Array(picture.width * picture.height);
    for (let i = 0; i < data.length; i++) data[i] = linearOfByte[picture.data[i * 4 + c] as number] as number;
    const soft = blur({ width: picture.width, height: picture.height, data }, blurMm / mmPerPx).data;
    for (let i = 0; i < data.length; i++) out.data[i * 4 + c] = byteOfLinear(soft[i] as number);
  }
  for (let i = 3; i < out.data.length; i += 4) out.data[i] = 255;
  return out;
}

const greyOf = (l: number): number => Math.round(255 * labToSrgb([l, 0, 0])[0]);
const greyOfBin = Uint8Array.from({ length: 256 }, (_, bin) => greyOf(binL(bin)));

/** A grey picture from a number a pixel and the grey of every number. */
function greyPicture({ width, height }: Rgba, numbers: Uint8Array, greys: ArrayLike<number>): Rgba {
  const out = rgba(width, height);
  for (let i = 0, at = 0; i < numbers.length; i++, at += 4) {
    const grey = greys[numbers[i] as number] as number;
    out.data[at] = grey;
    out.data[at + 1] = grey;
    out.data[at + 2] = grey;
    out.data[at + 3] = 255;
  }
  return out;
}

const maskOf = (mask: Uint8Array, { width, height }: Rgba, mmPerPx: number): Outline =>
  maskOutline({ width, height, data: Int32Array.from(mask) }, mmPerPx, 1, 60);

async function lay(args: LayArgs): Promise<PictureJobs['lay']['answer']> {
  const [whole, ...others] = await Promise.all([
    args.whole && sourceOf(args.whole),
    ...args.others.map(([, at]) => sourceOf(at)),
  ]);
  laid = compose({
    canvas: args.canvas,
    whole: whole ?? null,
    others: new Map(args.others.map(([id], i) => [id, others[i] as Source])),
    areas: args.areas,
    things: args.things,
    bare: BARE,
  });
  lab = null;
  segmentation = null;
  scene = null;
  const isChanged =
    !args.whole || args.whole.correction || args.whole.extend || args.things.some((thing) => thing.fate !== 'kept');
  const continued = laid.source.reduce((sum, kind) => sum + (kind === 2 ? 1 : 0), 0);
  return {
    image: isChanged ? await imageOf(laid.picture) : null,
    mmPerPx: laid.mmPerPx,
    continuedShare: continued / laid.source.length,
    patterned: laid.patterned,
  };
}

/** What things are told apart in, with the first proposal; worked out once for a picture. */
async function theScene(id: number): Promise<NonNullable<typeof scene>> {
  const { picture } = theLaid();
  if (scene) return scene;
  const of = await runJob(id, prepareScene(picture), (share) => share * 0.5);
  const proposal = proposeThings(of);
  scene = { of, plain: labRaster(shrink(picture, of.width, of.height)), proposal, guess: proposal.labels };
  return scene;
}

/** The area in which most of every superpixel lies, or -1. */
function labelsOf({ map, width, height, pixels }: Scene, areas: Outline[]): Int16Array {
  const { picture, mmPerPx } = theLaid();
  const sheets = labelSheets(areas, width, height, (mmPerPx * picture.width) / width).data;
  const votes = Array.from({ length: pixels.count }, () => new Map<number, number>());
  map.forEach((k, i) => {
    const own = votes[k] as Map<number, number>;
    own.set(sheets[i] as number, (own.get(sheets[i] as number) ?? 0) + 1);
  });
  return Int16Array.from(votes, (own) => [...own].sort((a, b) => b[1] - a[1])[0]?.[0] ?? -1);
}

/** The picture cut into the things that were marked, each a label. */
async function toldApart(
  id: number,
  { marks, things, hints = [] }: Marked,
  refined: boolean,
): Promise<{ map: Labels; plain: LabRaster; spread: number; doubt: [number, number] | null }> {
  const { of, plain, guess } = await theScene(id);
  const hint = hints.some((known) => known !== null) ? guess.map((known) => hints.indexOf(known)) : null;
  const from = warm?.of === of && warm.hints === hints.join() ? warm.walked : null;
  const walked = walk(of, marks, things, { hint, from: refined ? null : from });
  warm = { of, hints: hints.join(), walked };
  await breathe(id, 0.6);
  const found = refined ? refinedLabels(of, walked) : liveLabels(of, walked);
  return {
    map: { width: of.width, height: of.height, data: Int32Array.from(found) },
    plain,
    spread: 100,
    doubt: doubtOf(of, walked),
  };
}

/** Below this chance of the second likeliest thing a place is hardly in doubt. */
const IN_DOUBT = 0.35;
function doubtOf(of: Scene, walked: Walked): [number, number] | null {
  const [most] = doubts(of, walked);
  if (!most || most.doubt < IN_DOUBT * (of.pixels.size[most.superpixel] as number)) return null;
  const [x, y] = [of.pixels.means[4][most.superpixel] as number, of.pixels.means[5][most.superpixel] as number];
  return [(x + 0.5) / of.width, (y + 0.5) / of.height];
}

async function propose(
  id: number,
  { count, taps, refined, marked }: PictureJobs['propose']['args'],
): Promise<PictureJobs['propose']['answer']> {
  if (marked) {
    const { map, plain, spread, doubt } = await toldApart(id, marked, refined);
    const { map: dense, kept } = recounted(map);
    const found = shown(dense, kept.length, plain).map((one) => ({ ...one, region: kept[one.region] as number }));
    return { spread, taps: taps.length, areas: found, byThings: true, doubt };
  }
  const { picture } = theLaid();
  if (!segmentation) {
    const work = prepare(picture);
    for (;;) {
      const step = work.next();
      if (step.done) {
        segmentation = step.value;
        break;
      }
      await breathe(id, step.value * (refined ? 0.5 : 0.9));
    }
  }
  const spread = colourSpread(segmentation);
  const wanted = spread < 2 ? 1 : count;
  let areas = cutAreas(segmentation, wanted, taps);
  if (refined) {
    await breathe(id, 0.6);
    areas = refineAreas(segmentation, areas);
    await breathe(id, 0.85);
  }
  const colours = refined ? theLab() : segmentation.plain;
  return { spread, taps: taps.length, areas: shown(areas.map, areas.areas, colours), byThings: false, doubt: null };
}

/** Areas of a label map as they are shown: their sheets, and what is seen of each. */
function shown(map: Labels, areas: number, colours: LabRaster): ShownArea[] {
  const { picture, mmPerPx: scale } = theLaid();
  const mmPerPx = (scale * picture.width) / map.width;
  const proposed = proposeAreas(map, areas, colours, mmPerPx);
  const parts = visibleParts(
    proposed.map((area) => ({ id: String(area.region), name: area.name, outline: area.outline })),
    { widthMm: map.width * mmPerPx, heightMm: map.height * mmPerPx },
  );
  return proposed.map((area, i) => ({ ...area, seen: parts[i]?.outline ?? [] }));
}

function means(areas: Outline[]): (Lab | null)[] {
  const { picture, mmPerPx } = theLaid();
  return labelMeans(labelSheets(areas, picture.width, picture.height, mmPerPx), theLab(), areas.length);
}

const SAME_FROM = 0.5;
/** Old areas that new ones stand for: more than half of both together is common to both. */
function match(areas: Outline[], old: Outline[]): PictureJobs['match']['answer'] {
  const { picture, mmPerPx } = theLaid();
  const [width, height, scale] = [picture.width >> 2, picture.height >> 2, mmPerPx * 4];
  const [fresh, known] = [labelSheets(areas, width, height, scale).data, labelSheets(old, width, height, scale).data];
  const both = new Float64Array(areas.length * old.length);
  const [a, b] = [new Float64Array(areas.length), new Float64Array(old.length)];
  for (let i = 0; i < fresh.length; i++) {
    const [z, o] = [fresh[i] as number, known[i] as number];
    if (z >= 0) a[z] = (a[z] as number) + 1;
    if (o >= 0) b[o] = (b[o] as number) + 1;
    if (z >= 0 && o >= 0) both[z * old.length + o] = (both[z * old.length + o] as number) + 1;
  }
  const stands = areas.map((_, z) => {
    const found = old.findIndex((__, o) => {
      const n = both[z * old.length + o] as number;
      return n / ((a[z] as number) + (b[o] as number) - n) > SAME_FROM;
    });
    return found < 0 ? null : found;
  });
  const heirs = old.map((_, o) =>
    [...areas.keys()].filter((z) => (both[z * old.length + o] as number) > 0.5 * Math.min(a[z] as number, b[o] as number)),
  );
  return { stands, heirs };
}

const EXPECTED_PX = 420;
const LIT_PX = 720;
/** The canvas as it should look after a step, small; `from` and `share` say which part of a job it is. */
async function paintedAfter(id: number, lesson: Lesson, stepId: string, from = 0.2, share = 0.4): Promise<Rgba> {
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  if (at < 0) return bareCanvas(lesson);
  const upTo = { ...lesson, steps: lesson.steps.slice(0, at + 1) };
  const photograph = lesson.references.length > 0 ? (laid?.picture ?? null) : null;
  const work = stageSession().paint(stageInput(upTo, photograph, EXPECTED_PX), [stepId]);
  const painted = await runJob(id, work, (done) => from + (share * done) / Math.max(1, at + 1));
  return painted.get(stepId) as Rgba;
}
function bareCanvas({ support: { widthMm, heightMm } }: Lesson): Rgba {
  const out = rgba(EXPECTED_PX, Math.max(1, Math.round((EXPECTED_PX * heightMm) / widthMm)));
  for (let i = 0; i < out.data.length; i += 4) out.data.set([...BARE_RGB, 255], i);
  return out;
}
const BARE_RGB = [240, 238, 232];
const lastStage = (id: number, lesson: Lesson, from: number): Promise<Rgba> =>
  paintedAfter(id, lesson, lesson.steps.at(-1)?.id ?? '', from, 0.2);

/** A whole lesson drafted from the laid picture; `part` is its share of a job. */
async function begin(
  id: number,
  { lesson, areas, told, lines = [] }: PictureJobs['begin']['args'],
  part: number,
): Promise<Lesson> {
  const known = told && { map: (await toldApart(id, told, true)).map, things: told.named };
  const options = { ...(areas === undefined ? {} : { areas }), ...(known ? { told: known } : {}), lines };
  const work = beginLesson(lesson, theLaid().picture, () => nanoid(8), options);
  return runJob(id, work, ({ share }) => part * share);
}

const jobs: {
  [N in JobName]: (id: number, args: PictureJobs[N]['args']) => PictureJobs[N]['answer'] | Promise<PictureJobs[N]['answer']>;
} = {
  lay: (_, args) => lay(args),
  async values(id, { count, blurMm }) {
    const picture = await squinted(id, theLaid(), blurMm);
    await breathe(id, 0.7);
    const { source } = theLaid();
    const { classOf, classes } = reduceValues(picture, count, source);
    const greys = classes.map((one) => greyOf(one.meanL));
    await breathe(id, 0.9);
    return { image: await imageOf(greyPicture(picture, classOf, greys)), classes };
  },
  async grey(id, { blurMm }) {
    const picture = await squinted(id, theLaid(), blurMm);
    return { image: await imageOf(greyPicture(picture, lightnessBins(picture), greyOfBin)) };
  },
  extremes(_, { share }) {
    const { picture, source, mmPerPx } = theLaid();
    const size = sizeWithin(picture, NOTES_PIXELS);
    const small = shrink(picture, size.width, size.height);
    const counted = resampleLabels(
      { width: picture.width, height: picture.height, data: Int32Array.from(source) },
      size.width,
      size.height,
    );
    const { darkest, lightest, darkL, lightL } = extremes(small, share, Uint8Array.from(counted.data));
    const scale = (mmPerPx * picture.width) / size.width;
    return { dark: maskOf(darkest, small, scale), light: maskOf(lightest, small, scale), darkL, lightL };
  },
  spots(_, { places, radiusMm }) {
    const { picture, mmPerPx } = theLaid();
    return places.map(([x, y]) => {
      try {
        return discColour(picture.data, picture.width, picture.height, [x / mmPerPx, y / mmPerPx], radiusMm / mmPerPx);
      } catch {
        return null;
      }
    });
  },
  propose,
  looks: async (id, { marked }) => {
    const { map, plain } = await toldApart(id, marked, false);
    const { picture, mmPerPx } = theLaid();
    await breathe(id, 0.7);
    return looksOfThings(map, plain, marked.things, (mmPerPx * picture.width) / map.width);
  },
  match: (_, { areas, old }) => match(areas, old),
  region(_, { at, tolerance }) {
    const { mmPerPx } = theLaid();
    return maskOutline(growRegion(theLab(), at[0] / mmPerPx, at[1] / mmPerPx, tolerance), mmPerPx);
  },
  edges(_, { areas }) {
    const { picture, mmPerPx } = theLaid();
    return measureEdges(labelSheets(areas, picture.width, picture.height, mmPerPx), theLab(), mmPerPx);
  },
  flow(_, { areas }) {
    const { picture, mmPerPx } = theLaid();
    const spacing = Math.max(12, (Math.max(picture.width, picture.height) * mmPerPx) / 26);
    return flowField(lightness(picture), labelSheets(areas, picture.width, picture.height, mmPerPx), mmPerPx, spacing);
  },
  notes(_, { areas, subjectId }) {
    const { picture, mmPerPx } = theLaid();
    const size = sizeWithin(picture, NOTES_PIXELS);
    const small = shrink(picture, size.width, size.height);
    const scale = (mmPerPx * picture.width) / size.width;
    const map = labelSheets(
      areas.map((area) => area.outline),
      size.width,
      size.height,
      scale,
    );
    return compositionNotes(labRaster(small), map, areas, scale, subjectId);
  },
  means: (_, { areas }) => means(areas),
  things: async (id, { known }) => {
    const own = await theScene(id);
    own.guess = known ? labelsOf(own.of, known) : own.proposal.labels;
    return known ? [] : own.proposal.things;
  },
  begin: (id, args) => begin(id, args, 1),
  fit: async (id, args) => {
    const lesson = await begin(id, args, 0.7);
    const planned = planLesson(lesson);
    const image = await imageOf(await lastStage(id, lesson, 0.75));
    return { lesson, endMin: planned.plan.endMin, heldMin: heldMin(lesson, planned), image };
  },
  redo: async (id, { lesson, ...taken }) => {
    const fresh = carryOut(startHistory(lesson), 'replaceAreas', taken).lesson;
    // Where there is no photograph the light on the bodies of things is the picture.
    const byLight = fresh.references.length > 0 ? null : lightPicture(fresh, LIT_PX);
    const picture = byLight ?? theLaid().picture;
    const work = redoLesson(lesson, fresh, picture, () => nanoid(8), { keepsTargets: byLight !== null });
    const redone = await runJob(id, work, ({ share }) => 0.6 * share);
    const before = await imageOf(await lastStage(id, lesson, 0.6));
    const after = await imageOf(await lastStage(id, redone.lesson, 0.8));
    return { ...redone, images: { before, after } };
  },
  refuse: async (id, { lesson: old, redone, refused }) => {
    const lesson = withRefused(old, redone, new Set(refused));
    await breathe(id, 0.1);
    const { plan } = planLesson(lesson);
    return { refused, lesson, minutes: plan.endMin, image: await imageOf(await lastStage(id, lesson, 0.2)) };
  },
  lit: async (_, { lesson }) => {
    const picture = lightPicture(lesson, LIT_PX);
    return { image: picture && (await imageOf(picture)) };
  },
  lightsIn: (_, { lesson }) => {
    const found = lightsIn(lesson, theLaid().picture);
    return { found, two: twoLights(found) };
  },
  lines: (id, { lesson, withPicture }) => {
    let done = 0;
    return runJob(id, drawLines(lesson, withPicture ? theLaid().picture : null), () => Math.min(0.95, ++done / 7));
  },
  async corners(_, { photo, proportion }) {
    const picture = await photoOf(photo);
    return { widthPx: picture.width, heightPx: picture.height, corners: findCorners(picture, proportion) };
  },
  async card(_, { photo, corners, greys }) {
    return readCard(await photoOf(photo), corners, greys);
  },
  async compare(id, { lesson, lines, photo, corners, afterStepId }) {
    const picture = await photoOf(photo);
    await breathe(id, 0.2);
    const expected = afterStepId === null ? null : await paintedAfter(id, lesson, afterStepId);
    const { straight, ...found } = checkDrawing(lesson, lines, picture, corners, {
      what: expected ? 'paint' : 'lines',
      expected,
    });
    return { ...found, image: await imageOf(straight.picture), expected: expected && (await imageOf(expected)) };
  },
  stages: async (id, { lesson, widthPx, wanted, withPicture }) => {
    const picture = withPicture ? theLaid().picture : null;
    const work = painting.paint(stageInput(lesson, picture, widthPx), [...wanted, lesson.steps.at(-1)?.id ?? '']);
    const painted = await runJob(id, work, (done) => done / Math.max(1, lesson.steps.length));
    const images: [string, Blob][] = [];
    for (const [stepId, canvas] of painted) if (wanted.includes(stepId)) images.push([stepId, await imageOf(canvas)]);
    const last = painted.get(lesson.steps.at(-1)?.id ?? '');
    return {
      images,
      offs: picture ? offBySteps(lesson, picture, painted) : [],
      areas: picture && last ? offByAreas(lesson, picture, last) : [],
    };
  },
};

serveJobs(jobs);
