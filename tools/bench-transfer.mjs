// Rows of the bench about line drawings, prints and the drawing check.
import ImageTracer from 'imagetracerjs';
import { tsImport } from 'tsx/esm/api';
import { toEnd } from '../packages/core/dist/picture/index.js';
import { drawLines, nodesIn, upToAmount } from '../packages/core/dist/transfer/index.js';
import { againstTruth, demoOf, sceneAt } from './drawings.mjs';

const least = (count, work) => {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < count; i++) {
    const from = performance.now();
    work();
    best = Math.min(best, performance.now() - from);
  }
  return best;
};

export async function transferRows(row) {
  for (const name of ['balloons', 'kettle', 'star']) {
    const lesson = demoOf(name);
    const scene = await sceneAt(name);
    let lines = [];
    const ms = least(3, () => {
      lines = toEnd(drawLines(lesson, scene.picture));
    });
    const { found, spurious } = againstTruth(upToAmount(lines, 0.65), scene);
    row(
      `line drawing: ${name}`,
      `${((scene.picture.width * scene.picture.height) / 1e6).toFixed(1)} megapixels`,
      `${(ms / 1000).toFixed(2)} s, ${nodesIn(upToAmount(lines, 0.3))} points for beginners`,
      '≤ 1.5 s, ≤ 400',
    );
    row(
      `  against the true borders, middle amount`,
      `${nodesIn(upToAmount(lines, 0.65))} points`,
      `${(found * 100).toFixed(0)} % found, ${(spurious * 100).toFixed(0)} % spurious`,
      '≥ 90 %, ≤ 20 %',
    );
    if (name === 'balloons') {
      const from = performance.now();
      const traced = ImageTracer.imagedataToTracedata(scene.picture, { numberofcolors: 12, pathomit: 8 });
      const segments = traced.layers.flat().reduce((sum, path) => sum + path.segments.length, 0);
      row(
        '  a bitmap tracer beside it',
        'the same picture',
        `${segments} segments in ${((performance.now() - from) / 1000).toFixed(1)} s`,
        '',
      );
    }
  }
  const { templatesPdf } = await tsImport('../packages/web/src/pdf/templates.ts', import.meta.url);
  const lesson = demoOf('star');
  const lines = toEnd(drawLines(lesson, null));
  const scale = 762 / lesson.support.widthMm;
  const template = {
    title: lesson.title,
    canvas: { widthMm: 762, heightMm: 762 },
    units: 'in',
    layers: [{ name: 'lines', look: 'line', curves: lines.map(({ curve }) => curve.map(([x, y]) => [x * scale, y * scale])) }],
    labels: [],
    paper: 'A4',
    overlapMm: 10,
    marginMm: 8,
    lineMm: 0.35,
    isMirrored: false,
    source: '',
    reduced: false,
  };
  await templatesPdf([template]);
  const from = performance.now();
  const bytes = await templatesPdf([template]);
  row(
    'templates as PDF',
    '30 × 30 in on A4: 15 sheets',
    `${(performance.now() - from).toFixed(0)} ms, ${Math.round(bytes.length / 1000)} kB`,
    '≤ 300 ms',
  );
}
