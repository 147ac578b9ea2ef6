import { say } from '@viaticum/contract';
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { between, type Point } from '../geometry/index.js';
import { MM_PER_INCH } from '../units/index.js';
import { type Curve, nodesOf, pathData, straightCurve } from './bezier.js';
import { ellipseCurve } from './construct/index.js';

/** Thrown where a drawing cannot be read; the message is a sentence for the instructor. */
export class SvgError extends Error {}

export type SvgLayer = { name: string; curves: readonly Curve[] };

const escaped = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const short = (value: number): string => String(Math.round(value * 10_000) / 10_000);

/** Lines as an SVG at true size: one user unit is a millimetre, one group a layer. */
export function toSvg(
  canvas: { widthMm: number; heightMm: number },
  title: string,
  layers: readonly SvgLayer[],
  lineMm = 0.35,
): string {
  const [w, h] = [short(canvas.widthMm), short(canvas.heightMm)];
  const groups = layers.map(
    ({ name, curves }, i) =>
      `  <g id="layer-${i + 1}"><title>${escaped(name)}</title>\n${curves.map((curve) => `    <path d="${pathData(curve)}"/>`).join('\n')}\n  </g>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">
  <title>${escaped(title)}</title>
  <g fill="none" stroke="#000" stroke-width="${short(lineMm)}" stroke-linecap="round" stroke-linejoin="round">
${groups.join('\n')}
  </g>
</svg>
`;
}

export type ReadSvg = {
  curves: Curve[];
  /** Its own size in mm; null where it says none in real units. */
  widthMm: number | null;
  heightMm: number | null;
  /** What was left out, by the name of the thing. */
  leftOut: string[];
};

const MOST_LETTERS = 8_000_000;
const MOST_NODES = 20_000;
const MOST_DEEP = 60;
/** Millimetres of a length of CSS; px as 1/96 in. Relative lengths say nothing. */
const mmOf: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: MM_PER_INCH,
  pt: MM_PER_INCH / 72,
  pc: MM_PER_INCH / 6,
  px: MM_PER_INCH / 96,
  q: 0.25,
};

type Node = { [tag: string]: Node[] | string | Record<string, string> };

/**
 * The lines of an SVG as curves in mm. Scripts, links, text, pictures and anything from elsewhere are left out and named; sizes in
 * real units are respected, with none the canvas's width is taken. Throws an {@link SvgError} on what cannot be read, on documents
 * that define entities, and beyond 20 000 points.
 */
export function fromSvg(text: string, canvas: { widthMm: number; heightMm: number }): ReadSvg {
  if (text.trim() === '') throw new SvgError(say('This file is empty. Save the drawing again as SVG.'));
  if (text.length > MOST_LETTERS)
    throw new SvgError(say('This file is larger than 8 MB. Save only the lines that are to be traced.'));
  if (/<!(ENTITY|DOCTYPE[^>]*\[)/i.test(text))
    throw new SvgError(say('This file defines entities of its own, which are not read. Save it as plain SVG.'));
  const svg = rootOf(text);
  const attributes = attributesOf(svg);
  const box = (attributes.viewBox ?? '').split(/[\s,]+/).map(Number);
  const hasBox = box.length === 4 && box.every(Number.isFinite) && (box[2] as number) > 0 && (box[3] as number) > 0;
  const [width, height] = [lengthMm(attributes.width), lengthMm(attributes.height)];
  const [x0, y0, w, h] = hasBox
    ? (box as [number, number, number, number])
    : [0, 0, unitsOf(attributes.width) ?? 0, unitsOf(attributes.height) ?? 0];
  // Without a view box user units are px.
  const own = !hasBox
    ? width !== null
      ? MM_PER_INCH / 96
      : null
    : width !== null
      ? width / w
      : height !== null
        ? height / h
        : null;
  const found: { d: string; transform: string }[] = [];
  const leftOut = new Set<string>();
  collect(childrenOf(svg), '', found, leftOut, 0);
  const curves = found.flatMap(({ d, transform }) => curvesOf(d, transform));
  const nodes = curves.reduce((sum, curve) => sum + nodesOf(curve), 0);
  if (nodes > MOST_NODES)
    throw new SvgError(
      say`This drawing has ${nodes.toLocaleString('en')} points; ${MOST_NODES.toLocaleString('en')} can be traced. Simplify its paths and save it again.`,
    );
  if (curves.length === 0)
    throw new SvgError(say('This file holds no lines. Save the drawing as paths, not as a picture or text.'));
  const scale = own ?? canvas.widthMm / (w || widthOf(curves));
  return {
    curves: curves.map((curve) => curve.map(([x, y]): Point => [(x - x0) * scale, (y - y0) * scale])),
    widthMm: own === null ? null : (width ?? w * scale),
    heightMm: own === null ? null : (height ?? h * scale),
    leftOut: [...leftOut].sort(),
  };
}

function rootOf(text: string): Node {
  let parsed: Node[];
  try {
    parsed = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      processEntities: false,
      parseAttributeValue: false,
    }).parse(text, true) as Node[];
  } catch {
    throw new SvgError(say('This file could not be read as SVG. Open it in a drawing program and save it again.'));
  }
  const svg = parsed.find((node) => 'svg' in node);
  if (!svg) throw new SvgError(say('This file could not be read as SVG. Choose a drawing saved as SVG.'));
  return svg;
}

const tagOf = (node: Node): string => Object.keys(node).find((key) => key !== ':@') ?? '';
const attributesOf = (node: Node): Record<string, string> => (node[':@'] as Record<string, string> | undefined) ?? {};
const childrenOf = (node: Node): Node[] => {
  const inner = node[tagOf(node)];
  return Array.isArray(inner) ? inner : [];
};

function lengthMm(value: string | undefined): number | null {
  const [, number, unit] = /^\s*([\d.]+(?:e[+-]?\d+)?)\s*([a-z%]*)\s*$/i.exec(value ?? '') ?? [];
  if (number === undefined) return null;
  const mm = mmOf[(unit || 'px').toLowerCase()];
  const size = Number(number);
  return mm === undefined || !(size > 0) ? null : size * mm;
}
/** A length in user units, for a drawing without a view box. */
function unitsOf(value: string | undefined): number | null {
  const mm = lengthMm(value);
  return mm === null ? null : (mm * 96) / MM_PER_INCH;
}

const drawn = new Set(['path', 'line', 'polyline', 'polygon', 'rect', 'circle', 'ellipse']);
const silent = new Set([
  '#text',
  '#comment',
  'title',
  'desc',
  'metadata',
  'defs',
  'style',
  '?xml',
  'sodipodi:namedview',
  'namedview',
]);

function collect(
  nodes: readonly Node[],
  transform: string,
  out: { d: string; transform: string }[],
  leftOut: Set<string>,
  depth: number,
): void {
  if (depth > MOST_DEEP) throw new SvgError(say('This drawing is nested too deeply. Flatten its groups and save it again.'));
  for (const node of nodes) {
    const tag = tagOf(node);
    const attributes = attributesOf(node);
    if (/display\s*:\s*none/.test(attributes.style ?? '') || attributes.display === 'none') continue;
    const whole = `${transform} ${attributes.transform ?? ''}`.trim();
    if (tag === 'g' || tag === 'a' || tag === 'svg' || tag === 'switch')
      collect(childrenOf(node), whole, out, leftOut, depth + 1);
    else if (drawn.has(tag)) {
      const d = dataOf(tag, attributes);
      if (d) out.push({ d, transform: whole });
    } else if (!silent.has(tag) && !tag.startsWith('?')) leftOut.add(tag);
  }
}

/** Simple shapes as path data. */
function dataOf(tag: string, a: Record<string, string>): string {
  const n = (key: string) => Number.parseFloat(a[key] ?? '0') || 0;
  if (tag === 'path') return a.d ?? '';
  if (tag === 'line') return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
  if (tag === 'rect')
    return n('width') > 0 && n('height') > 0 ? `M${n('x')} ${n('y')}h${n('width')}v${n('height')}h${-n('width')}z` : '';
  if (tag === 'polyline' || tag === 'polygon') {
    const numbers = (a.points ?? '').trim();
    return numbers ? `M${numbers}${tag === 'polygon' ? 'z' : ''}` : '';
  }
  const [rx, ry] = tag === 'circle' ? [n('r'), n('r')] : [n('rx'), n('ry')];
  return rx > 0 && ry > 0 ? pathData(ellipseCurve([n('cx'), n('cy')], rx, ry)) : '';
}

/** Path data as curves, one for each part. */
function curvesOf(d: string, transform: string): Curve[] {
  const path = svgpath(d);
  if ((path as unknown as { err: string }).err) return [];
  const out: Curve[] = [];
  let now: Curve = [];
  let start: Point = [0, 0];
  const end = () => {
    if (now.length >= 4) out.push(now);
    now = [];
  };
  const to = (...points: Point[]) => now.push(...points);
  path
    .transform(transform)
    .abs()
    .unarc()
    .unshort()
    .iterate((segment, _, x, y) => {
      const [kind, ...v] = segment as [string, ...number[]];
      if (v.some((value) => !Number.isFinite(value))) return;
      const from: Point = now.at(-1) ?? [x, y];
      const straight = (p: Point) => to(...straightCurve([from, p]).slice(1));
      if (kind === 'M') {
        end();
        start = [v[0] as number, v[1] as number];
        now = [start];
      } else if (kind === 'L') straight([v[0] as number, v[1] as number]);
      else if (kind === 'H') straight([v[0] as number, from[1]]);
      else if (kind === 'V') straight([from[0], v[0] as number]);
      else if (kind === 'C') to([v[0], v[1]] as Point, [v[2], v[3]] as Point, [v[4], v[5]] as Point);
      else if (kind === 'Q') {
        const [control, last]: [Point, Point] = [[v[0], v[1]] as Point, [v[2], v[3]] as Point];
        to(between(from, control, 2 / 3), between(last, control, 2 / 3), last);
      } else if (kind === 'Z') {
        if (from[0] !== start[0] || from[1] !== start[1]) straight(start);
        const again = start;
        end();
        now = [again];
      }
    });
  end();
  return out;
}

function widthOf(curves: readonly Curve[]): number {
  const xs = curves.flat().map(([x]) => x);
  return Math.max(
    1e-6,
    xs.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY) - xs.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY),
  );
}
