// How well line drawings come out: against the true regions of our painted scenes.
//   npm run drawings            table; with --page folder also a picture of each
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { toEnd } from '../packages/core/dist/picture/index.js';
import { drawLines, flattened, nodesIn, pathData, upToAmount } from '../packages/core/dist/transfer/index.js';
import { photographed, scenes } from './demo/paint.mjs';
import { root } from './setup.mjs';

const WITHIN_MM = 2;

/** The picture of a scene at about so many pixels, and its true regions. */
export async function sceneAt(name, pixels = 2_000_000) {
  const { canvas } = scenes[name];
  const width = Math.round(Math.sqrt((pixels * canvas.widthMm) / canvas.heightMm));
  const { width: w, height: h, rgb, labels: truth } = await photographed({ scene: name, width, seed: 1 });
  const data = new Uint8ClampedArray(w * h * 4).fill(255);
  for (let i = 0; i < w * h; i++) for (let c = 0; c < 3; c++) data[i * 4 + c] = rgb[i * 3 + c];
  return { picture: { width: w, height: h, data }, truth, mmPerPx: canvas.widthMm / w };
}

export const demoOf = (name) => JSON.parse(readFileSync(join(root, `packages/server/assets/demo/${name}.json`), 'utf8'));

/** Share of the true border that has a line near it, and share of what is drawn that has no true border near it. */
export function againstTruth(lines, { picture: { width, height }, truth, mmPerPx }) {
  const reach = WITHIN_MM / mmPerPx;
  const near = (points) => {
    const map = new Uint8Array(width * height);
    const r = Math.ceil(reach);
    for (const [x, y] of points)
      for (let dy = -r; dy <= r; dy++)
        for (let dx = -r; dx <= r; dx++) {
          const [px, py] = [Math.floor(x) + dx, Math.floor(y) + dy];
          if (px >= 0 && py >= 0 && px < width && py < height && dx * dx + dy * dy <= reach * reach) map[py * width + px] = 1;
        }
    return map;
  };
  const border = [];
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const at = y * width + x;
      if (truth[at] !== truth[at + 1] || truth[at] !== truth[at + width]) border.push([x, y]);
    }
  const drawn = lines.flatMap(({ curve }) => dense(curve).map(([x, y]) => [x / mmPerPx, y / mmPerPx]));
  const [nearDrawn, nearBorder] = [near(drawn), near(border)];
  const inside = ([x, y]) => x >= 0 && y >= 0 && x < width && y < height;
  const found = border.filter(([x, y]) => nearDrawn[y * width + x]).length / border.length;
  const kept = drawn.filter(inside);
  const spurious = kept.filter(([x, y]) => !nearBorder[Math.floor(y) * width + Math.floor(x)]).length / kept.length;
  return { found, spurious };
}

/** Points of a curve every mm, straight pieces too. */
function dense(curve) {
  const points = flattened(curve, 1);
  return points.flatMap((b, i) => {
    const a = points[i - 1];
    if (!a) return [b];
    const n = Math.max(1, Math.round(Math.hypot(b[0] - a[0], b[1] - a[1])));
    return Array.from({ length: n }, (_, k) => [a[0] + ((b[0] - a[0]) * (k + 1)) / n, a[1] + ((b[1] - a[1]) * (k + 1)) / n]);
  });
}

export function svgOf(lesson, lines) {
  const { widthMm, heightMm } = lesson.support;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${widthMm} ${heightMm}" width="${widthMm * 2}"><rect width="100%" height="100%" fill="#fff"/><path d="${lines.map(({ curve }) => pathData(curve)).join('')}" fill="none" stroke="#333" stroke-width="0.7"/></svg>`;
}

if (process.argv[1]?.endsWith('drawings.mjs')) {
  const given = process.argv.slice(2);
  const folder = given.includes('--page') ? given[given.indexOf('--page') + 1] : null;
  if (folder) mkdirSync(folder, { recursive: true });
  for (const name of ['balloons', 'kettle', 'star']) {
    const lesson = demoOf(name);
    const scene = await sceneAt(name);
    let seconds = Number.POSITIVE_INFINITY;
    let lines = [];
    for (let i = 0; i < 3; i++) {
      const from = performance.now();
      lines = toEnd(drawLines(lesson, scene.picture));
      seconds = Math.min(seconds, (performance.now() - from) / 1000);
    }
    for (const amount of [0.3, 0.65, 1]) {
      const some = upToAmount(lines, amount);
      const { found, spurious } = againstTruth(some, scene);
      console.log(
        `${name.padEnd(9)} ${seconds.toFixed(2)} s  ${String(amount * 100).padStart(3)} %  ${some.length} lines ${nodesIn(some)} nodes  true border ${(found * 100).toFixed(0)} %, spurious ${(spurious * 100).toFixed(0)} %`,
      );
      if (folder)
        await sharp(Buffer.from(svgOf(lesson, some)))
          .png()
          .toFile(join(folder, `${name}-${amount * 100}.png`));
    }
  }
}
