import type { FollowSheet } from '@viaticum/contract';
import sharp from 'sharp';
import type { ClassSocket, Place } from './socket.js';

const [WIDTH, HEIGHT] = [720, 480];

/** A palette as a camera above it would see it: the mixes of a step, wet, on grey paper, a little off their places. */
export function palettePicture(mixes: readonly { wetRgb: string }[], seed: number): Promise<Buffer> {
  const blobs = mixes.map(({ wetRgb }, i) => {
    const x = (WIDTH * (i + 0.7)) / (mixes.length + 0.4);
    const y = HEIGHT * (0.42 + 0.12 * Math.sin(seed + i * 2.3));
    const r = 62 + 12 * Math.sin(seed * 3 + i);
    return `<ellipse cx="${x}" cy="${y}" rx="${r}" ry="${r * 0.8}" fill="${wetRgb}"/>
      <ellipse cx="${x - r * 0.3}" cy="${y - r * 0.35}" rx="${r * 0.22}" ry="${r * 0.1}" fill="#fff" opacity="0.45"/>
      <path d="M${x + r * 0.6} ${y + r * 0.3}q40 30 90 ${20 + 10 * Math.sin(seed + i)}" stroke="${wetRgb}" stroke-width="16" fill="none" stroke-linecap="round" opacity="0.8"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}"><rect width="100%" height="100%" fill="#c9c9c7"/>${blobs.join('')}</svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 80 }).toBuffer();
}

/** A simulated camera over the instructor's palette: a new picture whenever the class comes to a step with mixes. */
export function camera(place: Place, key: string, socket: ClassSocket) {
  const base = place.url.replace(/^ws/, 'http');
  const headers = { origin: place.origin };
  let sheet: FollowSheet | null = null;
  let shown = '';
  let busy = false;
  const shoot = async (stepId: string): Promise<void> => {
    sheet ??= (await (await fetch(`${base}/api/join/${place.code}/sheet`, { headers })).json()) as FollowSheet;
    const mixes = sheet.steps[stepId]?.mixes ?? [];
    shown = stepId;
    if (mixes.length === 0) return;
    const body = new Uint8Array(await palettePicture(mixes, sheet.steps[stepId]?.number ?? 1));
    await fetch(`${base}/api/join/${place.code}/camera?simulated=1`, {
      method: 'POST',
      headers: { ...headers, authorization: `Bearer ${key}`, 'content-type': 'image/jpeg' },
      body,
    });
  };
  return {
    tick(): void {
      const { current, plan } = socket.state;
      const stepId = current ? plan?.items[current.index]?.stepId : undefined;
      if (!stepId || stepId === shown || busy) return;
      busy = true;
      shoot(stepId)
        .catch(() => undefined)
        .finally(() => {
          busy = false;
        });
    },
  };
}
