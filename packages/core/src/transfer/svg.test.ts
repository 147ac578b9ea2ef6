import { describe, expect, it } from '@jest/globals';
import { distance, type Point } from '../geometry/index.js';
import { flattened, straightCurve } from './bezier.js';
import { fromSvg, SvgError, toSvg } from './svg.js';

const canvas = { widthMm: 200, heightMm: 250 };
const svg = (inner: string, attributes = 'width="200mm" height="250mm" viewBox="0 0 200 250"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;
const ends = (text: string) => fromSvg(text, canvas).curves.map((curve) => [curve[0], curve.at(-1)]);

describe('SVG in', () => {
  it('what was written comes back at the same place and size', () => {
    const curves = [
      straightCurve([
        [10, 20],
        [30, 40.5],
      ]),
      [
        [0, 0],
        [0, 50],
        [50, 100],
        [100, 100],
      ] as Point[],
    ];
    const text = toSvg(canvas, 'A <test> & more', [{ name: 'before “sky”', curves }]);
    expect(text).toContain('width="200mm"');
    expect(text).toContain('A &lt;test&gt; &amp; more');
    const { curves: back, widthMm, heightMm } = fromSvg(text, canvas);
    expect([widthMm, heightMm]).toEqual([200, 250]);
    for (const [k, curve] of back.entries())
      for (const [i, p] of curve.entries()) expect(distance(p, curves[k]?.[i] as Point)).toBeLessThan(0.001);
  });
  it.each([
    ['100mm', 1],
    ['10cm', 1],
    ['3.937007874in', 1],
    ['283.46456693pt', 1],
    ['377.95275591px', 1],
    ['377.95275591', 1],
  ])('a width of %s is 100 mm', (width, scale) => {
    const { curves, widthMm } = fromSvg(svg('<path d="M0 0H50"/>', `width="${width}" viewBox="0 0 100 50"`), canvas);
    expect(widthMm).toBeCloseTo(100, 4);
    expect(curves[0]?.at(-1)?.[0]).toBeCloseTo(50 * scale, 4);
  });
  it('sizes in em and % say nothing in mm: the drawing is fitted to the canvas, and that is told', () => {
    for (const width of ['30em', '100%', '']) {
      const { curves, widthMm } = fromSvg(svg('<path d="M0 0H50"/>', `width="${width}" viewBox="0 0 100 50"`), canvas);
      expect(widthMm).toBeNull();
      expect(curves[0]?.at(-1)?.[0]).toBeCloseTo(100, 9);
    }
  });
  it('a view box that begins elsewhere, groups that are moved and turned, shapes and arcs', () => {
    expect(ends(svg('<path d="M10 10L20 20"/>', 'width="200mm" viewBox="10 10 200 250"'))).toEqual([
      [
        [0, 0],
        [10, 10],
      ],
    ]);
    const [[from, to]] = ends(
      svg('<g transform="translate(100 0)"><g transform="rotate(90)"><line x1="0" y1="0" x2="10" y2="0"/></g></g>'),
    ) as [[Point, Point]];
    expect(distance(from, [100, 0])).toBeLessThan(1e-9);
    expect(distance(to, [100, 10])).toBeLessThan(1e-9);
    const [rect] = fromSvg(svg('<rect x="5" y="6" width="10" height="20"/>'), canvas).curves;
    expect(rect?.filter((_, i) => i % 3 === 0)).toEqual([
      [5, 6],
      [15, 6],
      [15, 26],
      [5, 26],
      [5, 6],
    ]);
    const [circle] = fromSvg(svg('<circle cx="50" cy="60" r="20"/>'), canvas).curves;
    for (const p of flattened(circle as Point[], 1)) expect(distance(p, [50, 60])).toBeCloseTo(20, 1);
    const [arc] = fromSvg(svg('<path d="M30 60A20 20 0 0 1 70 60"/>'), canvas).curves;
    for (const p of flattened(arc as Point[], 1)) expect(distance(p, [50, 60])).toBeCloseTo(20, 1);
    expect(ends(svg('<polygon points="0,0 10,0 10,10"/><polyline points="1 1 2 2"/>'))).toEqual([
      [
        [0, 0],
        [0, 0],
      ],
      [
        [1, 1],
        [2, 2],
      ],
    ]);
  });
  it('scripts, links, pictures, text and what is elsewhere are left out and named; what is hidden is not drawn', () => {
    const { curves, leftOut } = fromSvg(
      svg(
        '<script>alert(1)</script><foreignObject><b/></foreignObject><image href="https://x/y.png"/><use href="other.svg#a"/><text>hello</text>' +
          '<g style="display:none"><path d="M0 0L9 9"/></g><path onclick="x()" d="M1 1L2 2"/>',
      ),
      canvas,
    );
    expect(curves).toHaveLength(1);
    expect(leftOut).toEqual(['foreignObject', 'image', 'script', 'text', 'use']);
  });
  it('entities that multiply are refused unread; so are a stranger, an empty file and one without lines', () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]>${svg('<text>&b;</text>')}`;
    expect(() => fromSvg(bomb, canvas)).toThrow(/entities of its own/);
    expect(() => fromSvg('', canvas)).toThrow(/empty/);
    expect(() => fromSvg('<html></html>', canvas)).toThrow(/could not be read as SVG/);
    expect(() => fromSvg('<svg><path d="M0 0', canvas)).toThrow(SvgError);
    expect(() => fromSvg('not xml at all', canvas)).toThrow(SvgError);
    expect(() => fromSvg(svg('<text>hello</text>'), canvas)).toThrow(/no lines/);
    expect(() => fromSvg(svg('<path d="M0 0L banana"/>'), canvas)).toThrow(/no lines/);
  });
  it('a hundred thousand points and groups in groups without end are refused in a sentence', () => {
    const many = Array.from({ length: 100_000 }, (_, i) => `${i % 200} ${(i * 7) % 250}`).join('L');
    expect(() => fromSvg(svg(`<path d="M${many}"/>`), canvas)).toThrow(/100,000 points/);
    expect(() => fromSvg(svg(`${'<g>'.repeat(80)}<path d="M0 0L1 1"/>${'</g>'.repeat(80)}`), canvas)).toThrow(
      /nested too deeply/,
    );
  });
});
