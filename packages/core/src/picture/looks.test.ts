import { describe, expect, it } from '@jest/globals';
import { type LabRaster, labRaster, rgba } from '@viaticum/kernels/raster';
import { seeded } from '../fixtures/index.js';
import { guessByLook, looksOfThings } from './index.js';

const [W, H] = [240, 160];
const MM = 1;
const raster = (of: (x: number, y: number) => readonly [number, number, number]): LabRaster => {
  const picture = rgba(W, H);
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) picture.data.set([...of(x, y), 255], (y * W + x) * 4);
  return labRaster(picture);
};
const one = { width: W, height: H, data: new Int32Array(W * H) };
const lookOf = (of: Parameters<typeof raster>[0]) => {
  const [look] = looksOfThings(one, raster(of), 1, MM);
  return look ?? null;
};
const noise = seeded(9);
const grain = Array.from({ length: W * H }, () => noise() - 0.5);
const at = (x: number, y: number): number => grain[(y % H) * W + (x % W)] as number;

describe('what a thing looks like', () => {
  it('a slow slope has no detail, and nothing that a slope does not explain', () => {
    const look = lookOf((x) => [80 + x / 3, 100 + x / 3, 150 + x / 3]);
    expect(look?.detail).toBeLessThan(0.5);
    expect(look?.unexplained).toBeLessThan(2);
    expect(guessByLook('sky', look)).toEqual({ surface: null, sure: 0.9 });
    expect(guessByLook('subject', look).surface).toBeNull();
  });
  it('streaks that run level are coherent and level; those on end run upright', () => {
    const flat = lookOf((x, y) => {
      const v = 120 + 60 * at(Math.floor(x / 12), Math.floor(y / 2) * 7);
      return [v, v * 0.8, v * 0.6];
    });
    const upright = lookOf((x, y) => {
      const v = 120 + 60 * at(Math.floor(x / 2) * 7, Math.floor(y / 12));
      return [v, v * 0.8, v * 0.6];
    });
    expect(flat?.coherence).toBeGreaterThan(0.5);
    expect(flat?.level).toBeGreaterThan(0.7);
    expect(upright?.level).toBeLessThan(0.3);
    expect(guessByLook('water', flat)).toEqual({ surface: 'ripples', sure: 0.8 });
    expect(guessByLook('subject', flat).surface).toBe('short-fur');
  });
  it('green crumbs that run nowhere are leaves, on the ground grass', () => {
    const look = lookOf((x, y) => {
      const v = at(x >> 1, y >> 1) * 110;
      return [90 + v, 130 + v, 50 + v];
    });
    expect(look?.coherence).toBeLessThan(0.4);
    expect(guessByLook('subject', look).surface).toBe('leaves');
    expect(guessByLook('ground', look).surface).toBe('grass');
    expect(guessByLook('foliage', look).sure).toBeGreaterThan(0.7);
  });
  it('its rim is no detail of its own: a flat thing before a flat ground stays flat', () => {
    const map = { width: W, height: H, data: Int32Array.from({ length: W * H }, (_, i) => (i % W > 120 ? 1 : 0)) };
    const looks = looksOfThings(
      map,
      raster((x) => (x > 120 ? [230, 220, 200] : [30, 30, 40])),
      3,
      MM,
    );
    expect(looks[0]?.detail).toBeLessThan(0.2);
    expect(looks[1]?.detail).toBeLessThan(0.2);
    // Of what is nowhere nothing is known.
    expect(looks[2]).toBeNull();
    expect(guessByLook('subject', looks[2] ?? null).sure).toBeLessThan(0.4);
  });
});
