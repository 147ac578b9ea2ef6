import { describe, expect, it } from '@jest/globals';
import { castShadow, distanceInside, type Form, lightFrom, normalsOf, towardsLight, zonesOf } from './index.js';

const SIZE = 121;
const mask = (isIn: (x: number, y: number) => boolean): Uint8Array =>
  Uint8Array.from({ length: SIZE * SIZE }, (_, i) => (isIn(i % SIZE, Math.floor(i / SIZE)) ? 255 : 0));
const R = 50;
const disc = mask((x, y) => (x - 60) ** 2 + (y - 60) ** 2 <= R * R);
const at = (x: number, y: number): number => y * SIZE + x;
const ball: Form = { kind: 'round' };

describe('distance to the rim', () => {
  it('is that to the nearest pixel outside, by trying them all', () => {
    const some = mask((x, y) => (x * 7 + y * 13) % 31 !== 0 && x > 3 && y < 110);
    const found = distanceInside(some, SIZE, SIZE);
    for (const [x, y] of [
      [4, 4],
      [60, 60],
      [33, 90],
      [118, 20],
      [77, 109],
    ] as const) {
      let least = Math.min(x + 1, y + 1, SIZE - x, SIZE - y) ** 2;
      for (let j = 0; j < SIZE; j++)
        for (let i = 0; i < SIZE; i++) if (some[at(i, j)] === 0) least = Math.min(least, (i - x) ** 2 + (j - y) ** 2);
      expect(found[at(x, y)]).toBeCloseTo(Math.sqrt(some[at(x, y)] === 0 ? 0 : least), 4);
    }
  });
});

describe('bodies', () => {
  it('a ball is turned as a ball is: its normals are those of the sphere, within 10 degrees but at its rim', () => {
    const { x, y, z } = normalsOf(disc, SIZE, SIZE, ball);
    for (const [px, py] of [
      [60, 60],
      [80, 60],
      [60, 30],
      [40, 75],
      [90, 50],
    ] as const) {
      const [nx, ny] = [(px - 60) / R, (py - 60) / R];
      const nz = Math.sqrt(1 - nx * nx - ny * ny);
      const k = at(px, py);
      const cosine = (x[k] as number) * nx + (y[k] as number) * ny + (z[k] as number) * nz;
      expect((Math.acos(Math.min(1, cosine)) * 180) / Math.PI).toBeLessThan(10);
    }
  });
  it('a standing cylinder is turned across its axis only; a lying one up and down', () => {
    const block = mask((x, y) => x > 30 && x < 90 && y > 20 && y < 100);
    const standing = normalsOf(block, SIZE, SIZE, { kind: 'cylinder', axisDeg: 90 });
    const lying = normalsOf(block, SIZE, SIZE, { kind: 'cylinder', axisDeg: 0 });
    expect(standing.x[at(40, 60)]).toBeLessThan(-0.4);
    expect(standing.x[at(80, 60)]).toBeGreaterThan(0.4);
    expect(Math.abs(standing.y[at(40, 60)] as number)).toBeLessThan(0.05);
    expect(lying.y[at(60, 32)]).toBeLessThan(-0.4);
    expect(Math.abs(lying.x[at(60, 32)] as number)).toBeLessThan(0.05);
  });
  it('a box has three faces: one up, one to each side, meeting at its corner', () => {
    const hexagon = mask((x, y) => x > 20 && x < 100 && y > 30 - Math.abs(x - 60) / -8 && y < 105 - Math.abs(x - 60) / 4);
    const { x, y } = normalsOf(hexagon, SIZE, SIZE, { kind: 'box', edge: { x: 60, y: 55 } });
    expect(y[at(60, 40)]).toBeLessThan(-0.9);
    expect(x[at(40, 80)]).toBeLessThan(-0.5);
    expect(x[at(80, 80)]).toBeGreaterThan(0.5);
  });
});

describe('light on them', () => {
  const zonesBy = (light: { azimuthDeg: number; elevationDeg: number }, kind: Form = ball) =>
    zonesOf(disc, normalsOf(disc, SIZE, SIZE, kind), towardsLight(light), kind.kind);
  it('comes from where it was said: a quarter turn of the light turns its shapes by a quarter', () => {
    const left = zonesBy({ azimuthDeg: 270, elevationDeg: 20 });
    const top = zonesBy({ azimuthDeg: 0, elevationDeg: 20 });
    expect(left[at(25, 60)]).toBe(1);
    expect([3, 4]).toContain(left[at(100, 60)]);
    expect(top[at(60, 25)]).toBe(1);
    let same = 0;
    let all = 0;
    for (let y = 15; y < 106; y++)
      for (let x = 15; x < 106; x++) {
        if (disc[at(x, y)] === 0) continue;
        // A quarter turn clockwise takes (x, y) to (120 − y, x). What is turned up gets no light back from the ground.
        const [one, other] = [left[at(x, y)] as number, top[at(120 - y, x)] as number];
        all++;
        if (one === other || one + other === 7) same++;
      }
    expect(same / all).toBeGreaterThan(0.97);
  });
  it('a ball lit from the upper left: lit, half, core in that order across it, a highlight in the light, reflected light at its lower rim', () => {
    const zone = zonesBy({ azimuthDeg: 315, elevationDeg: 30 });
    const across = Array.from({ length: 66 }, (_, i) => zone[at(28 + i, 28 + i)] as number).filter((one) => one > 0);
    expect([...new Set(across.map((one) => (one === 5 ? 1 : one)))]).toEqual([1, 2, 3, 4]);
    const shining = [...zone.keys()].filter((i) => zone[i] === 5);
    expect(shining.length).toBeGreaterThan(3);
    for (const i of shining) {
      expect(i % SIZE).toBeLessThan(60);
      expect(Math.floor(i / SIZE)).toBeLessThan(60);
    }
    for (let i = 0; i < zone.length; i++) if (zone[i] === 4) expect(Math.floor(i / SIZE)).toBeGreaterThan(40);
  });
  it('a box has no light come back at its rim, a cloud no core', () => {
    const box = zonesBy({ azimuthDeg: 270, elevationDeg: 10 }, { kind: 'box', edge: { x: 60, y: 40 } });
    expect([...new Set(box)]).not.toContain(4);
    expect([...new Set(zonesBy({ azimuthDeg: 180, elevationDeg: 5 }, { kind: 'cloud' }))].sort()).toEqual([0, 1, 2]);
  });
  it('a thing throws its shadow away from the light, the longer the lower it stands; none from below', () => {
    const post = mask((x, y) => x > 55 && x < 65 && y > 50 && y < 90);
    const shadow = (azimuthDeg: number) => castShadow(post, SIZE, SIZE, towardsLight({ azimuthDeg, elevationDeg: 10 }));
    const reach = (one: Uint8Array) => Math.max(...[...one.keys()].filter((i) => one[i] !== 0).map((i) => i % SIZE));
    const low = shadow(300);
    expect(reach(low)).toBeGreaterThan(85);
    expect(Math.min(...[...low.keys()].filter((i) => low[i] !== 0).map((i) => i % SIZE))).toBeGreaterThan(50);
    expect(reach(shadow(330))).toBeLessThan(reach(low));
    expect(shadow(180).some((one) => one !== 0)).toBe(false);
  });
  it('is found again in what it makes, and not in what is even', () => {
    const normals = normalsOf(disc, SIZE, SIZE, ball);
    for (const azimuthDeg of [20, 110, 200, 315]) {
      const light = towardsLight({ azimuthDeg, elevationDeg: 25 });
      const lit = Float32Array.from(disc, (_, k) => {
        const facing =
          (normals.x[k] as number) * light[0] + (normals.y[k] as number) * light[1] + (normals.z[k] as number) * light[2];
        return 20 + 60 * Math.max(0, facing);
      });
      const found = lightFrom(lit, disc, normals);
      expect(Math.abs((((found?.azimuthDeg ?? 0) - azimuthDeg + 540) % 360) - 180)).toBeLessThan(8);
      expect(found?.explained).toBeGreaterThan(0.8);
    }
    expect(lightFrom(new Float32Array(disc.length).fill(50), disc, normals)).toBeNull();
  });
});
