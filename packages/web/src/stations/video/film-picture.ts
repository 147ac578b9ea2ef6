import type { Lesson } from '@viaticum/contract';
import { brushOf } from '@viaticum/core/brush';
import {
  type Box,
  type Card,
  type CardLayout,
  cardLayout,
  cardPanels,
  type FilmCue,
  type Shot,
  type Take,
  type Timeline,
} from '@viaticum/core/film';
import type { MixLook } from '@viaticum/core/mix';

/** What a frame of the animatic is drawn from. */
export type FilmParts = {
  lesson: Lesson;
  timeline: Timeline;
  cards: readonly Card[];
  cues: readonly FilmCue[];
  /** The canvas after each step; what is missing is drawn bare. */
  stages: ReadonlyMap<string, CanvasImageSource>;
  looks: ReadonlyMap<string, MixLook>;
  bareRgb: string;
};
type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

const TITLE = '"Alegreya Variable", serif';
const LINE = '"Atkinson Hyperlegible Next Variable", sans-serif';
const ROOM = 'rgb(74 74 74)';
const NEUTRAL = 'rgb(128 128 128)';
const rgbOf = (rgb: readonly number[], alpha = 1) => `rgb(${rgb.join(' ')} / ${alpha})`;

/** The shot that is seen at a frame. */
const shotAt = ({ shots }: Timeline, frame: number): Shot | undefined =>
  shots.find(({ from, to }) => frame >= from && frame < to) ?? shots.at(-1);

/** Seconds of work at the easel, drying among it, that have gone by at a frame. */
export function easelSeconds({ shots }: Timeline, frame: number): number {
  let sum = 0;
  for (const { kind, from, to, srcFrom, srcTo, dryMin = 0 } of shots) {
    if (from >= frame) break;
    const share = Math.min(1, (frame - from) / Math.max(1, to - from));
    sum += share * (kind === 'dry' ? dryMin * 60 : srcTo - srcFrom);
  }
  return sum;
}

/** A frame of the film before it is filmed: the stage picture growing, the heap on the palette, cards and captions. */
export function drawFrame(ctx: Context, parts: FilmParts, frame: number): void {
  const { width, height } = ctx.canvas;
  const { timeline } = parts;
  ctx.fillStyle = ROOM;
  ctx.fillRect(0, 0, width, height);
  const shot = shotAt(timeline, frame);
  const take = timeline.takes.find(({ id }) => id === shot?.takeId);
  if (shot && take) {
    if (take.kind === 'palette' && take.mixId) drawHeap(ctx, parts.looks.get(take.mixId), progress(shot, frame));
    else if (take.kind === 'tool') drawTool(ctx, parts, take);
    else drawCanvas(ctx, parts, take, shot, frame);
    if (shot.speed >= 4 && frame - shot.from < 2 * timeline.fps) tag(ctx, `${Math.round(shot.speed)}×`);
  }
  const card = parts.cards.find(({ from, to, isHidden }) => !isHidden && frame >= from && frame < to);
  if (card) drawCard(ctx, card);
  const seconds = frame / timeline.fps;
  const cue = parts.cues.find(({ from, to }) => seconds >= from && seconds < to);
  if (cue) drawCaption(ctx, cue.text);
}

const progress = ({ from, to }: Shot, frame: number): number => Math.max(0, Math.min(1, (frame - from) / Math.max(1, to - from)));

/** The canvas as it stands: from the stage before it dissolves into the stage after while its step is painted. */
function drawCanvas(ctx: Context, { lesson, timeline, stages, bareRgb }: FilmParts, take: Take, shot: Shot, frame: number): void {
  const { width, height } = ctx.canvas;
  const { widthMm, heightMm } = lesson.support;
  const scale = Math.min((width * 0.86) / widthMm, (height * 0.94) / heightMm);
  const [w, h] = [widthMm * scale, heightMm * scale];
  const [x, y] = [(width - w) / 2, (height - h) / 2];
  const draw = (stepId: string | null, alpha: number) => {
    const picture = stepId === null ? undefined : stages.get(stepId);
    ctx.globalAlpha = alpha;
    if (picture) ctx.drawImage(picture, x, y, w, h);
    else {
      ctx.fillStyle = bareRgb;
      ctx.fillRect(x, y, w, h);
    }
    ctx.globalAlpha = 1;
  };
  if (take.kind !== 'canvas') {
    draw(take.afterStepId, 1);
    return;
  }
  const at = shot.stepId ? take.stepIds.indexOf(shot.stepId) : -1;
  const before = at > 0 ? (take.stepIds[at - 1] as string) : take.afterStepId;
  draw(before, 1);
  if (shot.kind === 'dry' || shot.piece?.kind === 'speech' || at < 0) return;
  // All work on a step is one growing: by how much of it has been shown.
  const own = timeline.shots.filter(
    ({ takeId, stepId, kind, piece }) =>
      takeId === take.id && stepId === shot.stepId && kind === 'piece' && piece?.kind !== 'speech' && piece?.kind !== 'result',
  );
  const all = own.reduce((sum, { from, to }) => sum + to - from, 0);
  const done = own.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to, frame) - from), 0);
  const share = shot.piece?.kind === 'result' || all === 0 ? 1 : done / all;
  draw(shot.stepId, share);
}

/** A heap that turns from its tubes' colours to its own: wet paint on neutral grey. */
function drawHeap(ctx: Context, look: MixLook | undefined, share: number): void {
  const { width, height } = ctx.canvas;
  const [cx, cy, r] = [width / 2, height * 0.44, height * 0.24];
  ctx.fillStyle = NEUTRAL;
  ctx.fillRect(width * 0.18, height * 0.08, width * 0.64, height * 0.72);
  if (!look) return;
  const mixed = Math.min(1, share * 1.4);
  ctx.save();
  ctx.beginPath();
  ctx.ellipse(cx, cy, r * 1.25, r, 0, 0, 2 * Math.PI);
  ctx.clip();
  ctx.fillStyle = look.wetRgb;
  ctx.fillRect(cx - 2 * r, cy - 2 * r, 4 * r, 4 * r);
  const sum = look.parts.reduce((total, { weight }) => total + weight, 0) || 1;
  let at = cx - r * 1.25;
  ctx.globalAlpha = 1 - mixed;
  for (const { rgb, weight } of look.parts) {
    const own = (2.5 * r * weight) / sum;
    ctx.fillStyle = rgb;
    ctx.fillRect(at, cy - r, own + 1, 2 * r);
    at += own;
  }
  ctx.restore();
}

/** A brush in its proportion to the others. */
function drawTool(ctx: Context, { lesson }: FilmParts, { id, stepIds }: Take): void {
  const { width, height } = ctx.canvas;
  const step = lesson.steps.find((one) => one.id === stepIds[0]);
  const brush = brushOf(step?.brushId ?? id.split('/').at(-1));
  if (!brush) return;
  const size = height * 0.7;
  const card: Card = {
    key: id,
    kind: 'tool',
    takeId: id,
    slate: '',
    from: 0,
    to: 1,
    title: '',
    lines: [],
    brush: { type: brush.type, widthMm: brush.widthMm },
    corner: 'upper-left',
    isHidden: false,
  };
  const { brush: shape } = cardLayout(card, { widthPx: width, heightPx: size * 7.35 }, () => 0);
  if (!shape) return;
  ctx.save();
  ctx.translate(width * 0.24, -size * 0.22);
  ctx.strokeStyle = 'white';
  ctx.lineWidth = Math.max(2, height / 240);
  ctx.stroke(new Path2D(shape.path));
  ctx.restore();
}

function tag(ctx: Context, text: string): void {
  const { width, height } = ctx.canvas;
  const size = height / 22;
  ctx.font = `600 ${size}px ${LINE}`;
  ctx.textAlign = 'right';
  ctx.fillStyle = rgbOf(cardPanels.dark.rgb, cardPanels.dark.alpha);
  const w = ctx.measureText(text).width + size;
  ctx.fillRect(width * 0.95 - w, height * 0.05, w, size * 1.6);
  ctx.fillStyle = 'white';
  ctx.fillText(text, width * 0.95 - size / 2, height * 0.05 + size * 1.15);
  ctx.textAlign = 'left';
}

const fontOf = (sizePx: number, isTitle: boolean) => `${isTitle ? 700 : 400} ${sizePx}px ${isTitle ? TITLE : LINE}`;
const laidOut = (ctx: Context, card: Card, size: { widthPx: number; heightPx: number }): CardLayout =>
  cardLayout(card, size, (text, sizePx, isTitle) => {
    ctx.font = fontOf(sizePx, isTitle);
    return ctx.measureText(text).width;
  });

/** A card as it lies over the film; the same layout as in the files. */
function drawCard(ctx: Context, card: Card): void {
  const { width, height } = ctx.canvas;
  drawLayout(ctx, laidOut(ctx, card, { widthPx: width, heightPx: height }), height);
}

/** A card's panel alone, in a film of so many lines; the canvas becomes as large as it. */
export function drawCardAlone(ctx: CanvasRenderingContext2D, canvas: HTMLCanvasElement, card: Card, lines = 720): void {
  const layout = laidOut(ctx, card, { widthPx: (lines * 16) / 9, heightPx: lines });
  const { panel } = layout;
  canvas.width = panel.width + 2 * MARGIN;
  canvas.height = panel.height + 2 * MARGIN;
  ctx.translate(MARGIN - panel.x, MARGIN - panel.y);
  drawLayout(ctx, layout, lines);
}
const MARGIN = 8;

function drawLayout(ctx: Context, { panel, texts, swatch, bar, brush }: CardLayout, lines: number): void {
  const { rgb, alpha, ink } = cardPanels.dark;
  ctx.fillStyle = rgbOf(rgb, alpha);
  ctx.fillRect(panel.x, panel.y, panel.width, panel.height);
  ctx.strokeStyle = rgbOf(cardPanels.light.rgb, 0.5);
  ctx.lineWidth = 1;
  ctx.strokeRect(panel.x, panel.y, panel.width, panel.height);
  const fill = ({ x, y, width, height }: Box, colour: string) => {
    ctx.fillStyle = colour;
    ctx.fillRect(x, y, width, height);
  };
  if (swatch) {
    fill(swatch.ground, NEUTRAL);
    fill(swatch.wet, swatch.wetRgb);
    fill(swatch.dry, swatch.rgb);
  }
  for (const part of bar ?? []) fill(part, part.rgb);
  if (brush) {
    ctx.strokeStyle = rgbOf(ink);
    ctx.lineWidth = Math.max(1, lines / 360);
    ctx.stroke(new Path2D(brush.path));
  }
  ctx.fillStyle = rgbOf(ink);
  for (const { text, x, y, sizePx, isTitle } of texts) {
    ctx.font = fontOf(sizePx, isTitle);
    ctx.fillText(text, x, y);
  }
}

function drawCaption(ctx: Context, text: string): void {
  const { width, height } = ctx.canvas;
  const lines = text.split('\n');
  const size = height / 21;
  ctx.font = `500 ${size}px ${LINE}`;
  ctx.textAlign = 'center';
  lines.forEach((line, i) => {
    const y = height * 0.95 - (lines.length - 1 - i) * size * 1.35;
    const w = ctx.measureText(line).width + size * 0.8;
    ctx.fillStyle = rgbOf(cardPanels.dark.rgb, cardPanels.dark.alpha);
    ctx.fillRect((width - w) / 2, y - size * 1.02, w, size * 1.35);
    ctx.fillStyle = 'white';
    ctx.fillText(line, width / 2, y);
  });
  ctx.textAlign = 'left';
}
