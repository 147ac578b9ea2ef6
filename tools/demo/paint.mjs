// Paints a reference from one of our scenes: light, haze, texture and noise, so that values and segmentation have real work
// to do. Knows the true region of every pixel.
//   node tools/demo/paint.mjs picture.png [regions.png] [--scene balloons|kettle|star] [--seed 1] [--width 1280]
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import { clamp, noise } from './noise.mjs';
import * as abstract from './scenes/abstract.mjs';
import * as balloons from './scenes/balloons.mjs';
import * as kettle from './scenes/kettle.mjs';
import * as lamp from './scenes/lamp.mjs';
import * as roofs from './scenes/roofs.mjs';
import * as star from './scenes/star.mjs';
import * as wool from './scenes/wool.mjs';

export const scenes = { balloons, kettle, star, roofs, lamp, abstract, wool };

/** Region of every pixel by filling the areas' sheets back to front (even-odd rule, pixel centres). */
export function regions({ canvas, areas }, width, height) {
  const labels = new Uint8Array(width * height);
  const scale = width / canvas.widthMm;
  areas.forEach((area, label) => {
    for (const polygon of area.outline) {
      for (let row = 0; row < height; row++) {
        const y = (row + 0.5) / scale;
        const cuts = [];
        for (const ring of polygon) {
          for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
            const [[x1, y1], [x2, y2]] = [ring[j], ring[i]];
            if (y1 > y !== y2 > y) cuts.push((x1 + ((y - y1) / (y2 - y1)) * (x2 - x1)) * scale - 0.5);
          }
        }
        cuts.sort((a, b) => a - b);
        for (let k = 0; k + 1 < cuts.length; k += 2) {
          const from = Math.max(0, Math.ceil(cuts[k]));
          const to = Math.min(width - 1, Math.floor(cuts[k + 1]));
          if (from <= to) labels.fill(label, row * width + from, row * width + to + 1);
        }
      }
    }
  });
  return labels;
}

/** A scene as RGB bytes, with its regions. Another seed has other noise, haze and grain, never other outlines. */
export function paint({ scene = 'balloons', width = 1280, seed = 1, without = [] } = {}) {
  const { canvas, areas: all, shade, haze } = scenes[scene];
  const areas = all.filter((area) => !without.includes(area.id));
  const height = Math.round((width * canvas.heightMm) / canvas.widthMm);
  const labels = regions({ canvas, areas }, width, height);
  const n = noise(seed);
  const rgb = Buffer.alloc(width * height * 3);
  const scale = width / canvas.widthMm;
  const [grainy, hazy] = seed === 1 ? [1, 1] : [0.7 + 0.8 * n(seed * 3.1, 5), 0.5 + 1.2 * n(seed * 7.7, 11)];
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      const at = row * width + column;
      const [x, y] = [(column + 0.5) / scale, (row + 0.5) / scale];
      const fine = n(x * 1.7, y * 1.7);
      const colour = shade(areas[labels[at]].id, x, y, n, fine);
      const grain = grainy * (0.03 * (fine - 0.5) + 0.014 * (n(column * 0.9, row * 0.9 + 300) - 0.5));
      const veil = hazy * haze.at(x, y);
      for (let i = 0; i < 3; i++)
        rgb[at * 3 + i] = Math.round(255 * clamp(colour[i] + (haze.colour[i] - colour[i]) * veil + grain));
    }
  }
  return { width, height, rgb, labels, names: areas.map((area) => area.name) };
}

/** The same with its edges softened as a lens does, as RGB bytes. */
export async function photographed(options) {
  const painted = paint(options);
  const raw = { width: painted.width, height: painted.height, channels: 3 };
  const rgb = await sharp(painted.rgb, { raw }).blur(0.9).raw().toBuffer();
  return { ...painted, rgb };
}

/** The reference as JPEG bytes. */
export async function demoPicture(options) {
  const { width, height, rgb } = await photographed(options);
  return sharp(rgb, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 88, mozjpeg: true })
    .toBuffer();
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const given = process.argv.slice(2);
  const option = (name, otherwise) => (given.includes(name) ? given[given.indexOf(name) + 1] : otherwise);
  const [picture, map] = given.filter((arg, i) => !arg.startsWith('--') && !given[i - 1]?.startsWith('--'));
  if (!picture) throw new Error('Say where the picture goes: node tools/demo/paint.mjs picture.png [regions.png]');
  const painted = await photographed({
    scene: option('--scene', 'balloons'),
    seed: Number(option('--seed', 1)),
    width: Number(option('--width', 1280)),
  });
  const raw = { width: painted.width, height: painted.height };
  await sharp(painted.rgb, { raw: { ...raw, channels: 3 } }).toFile(picture);
  if (map) {
    await sharp(Buffer.from(painted.labels), { raw: { ...raw, channels: 1 } }).toFile(map);
    console.log(painted.names.map((name, i) => `${i} ${name}`).join('\n'));
  }
}
