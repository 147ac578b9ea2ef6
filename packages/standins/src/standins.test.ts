import { describe, expect, it } from '@jest/globals';
import sharp from 'sharp';
import { airAt, nameOf, palettePicture } from './index.js';

describe('the simulated sensor', () => {
  const room = { airC: 20, humidity: 0.45 };
  it('begins with the room’s own air, warms and grows damp as people paint, and is aired later', () => {
    const at = (minutes: number) => airAt(room, minutes, 3);
    expect(Math.abs(at(0).airC - room.airC)).toBeLessThan(0.5);
    expect(Math.abs(at(0).humidity - room.humidity)).toBeLessThan(0.03);
    const full = at(40);
    expect(full.airC).toBeGreaterThan(room.airC + 1);
    expect(full.humidity).toBeGreaterThan(room.humidity + 0.05);
    const aired = at(120);
    expect(aired.airC).toBeLessThan(full.airC);
    expect(aired.humidity).toBeLessThan(full.humidity);
  });
  it('is the same for the same seed, and never beyond what air can be', () => {
    expect(airAt(room, 33, 5)).toEqual(airAt(room, 33, 5));
    expect(airAt(room, 33, 5)).not.toEqual(airAt(room, 33, 6));
    for (const humidity of [0, 0.5, 1])
      for (let minutes = 0; minutes < 300; minutes += 10) {
        const air = airAt({ airC: 30, humidity }, minutes, minutes + 1);
        expect(air.humidity).toBeGreaterThanOrEqual(0.1);
        expect(air.humidity).toBeLessThanOrEqual(0.95);
      }
  });
});

describe('the simulated camera', () => {
  it('shows the mixes of a step in their wet colours', async () => {
    const picture = await palettePicture([{ wetRgb: 'rgb(200 40 30)' }, { wetRgb: 'rgb(30 60 160)' }], 1);
    const { data, info } = await sharp(picture).raw().toBuffer({ resolveWithObject: true });
    expect([info.format, info.width, info.height]).toEqual(['raw', 720, 480]);
    const near = (r: number, g: number, b: number) => {
      let count = 0;
      for (let i = 0; i < data.length; i += 3)
        if (
          Math.abs((data[i] as number) - r) + Math.abs((data[i + 1] as number) - g) + Math.abs((data[i + 2] as number) - b) <
          60
        )
          count += 1;
      return count;
    };
    expect(near(200, 40, 30)).toBeGreaterThan(3000);
    expect(near(30, 60, 160)).toBeGreaterThan(3000);
    expect(near(30, 160, 60)).toBe(0);
  });
});

it('forty simulated students have forty names', () => {
  expect(new Set(Array.from({ length: 40 }, (_, k) => nameOf(k))).size).toBe(40);
});
