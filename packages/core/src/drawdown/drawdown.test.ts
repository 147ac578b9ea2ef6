import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { type MixPart, mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { calibrateTube, howSure } from '../mix/index.js';
import { photographedFlat } from '../transfer/compare/photo.fixture.js';
import { drawnCard, INK, inOtherLight, PAPER } from './card.fixture.js';
import { readCard } from './index.js';

/** A tube as another maker fills it. */
const otherMake = (id: string, strength: number, tilt: number, film: number): Spectra => {
  const base = pigmentOf(id);
  return {
    K: base.K.map((value, i) => value * strength * Math.exp(tilt * (i / 17.5 - 1))),
    S: base.S.map((value) => value * Math.sqrt(strength)),
    film: base.film * film,
  };
};
const DRY: [number, number] = [50, 100];
const WHITE_PARTS = 10;
const makes: [string, number, number, number][] = [
  ['PB29', 1.5, 0.12, 1.3],
  ['PR122', 0.65, -0.15, 0.8],
  ['PY42', 1.4, 0.1, 1.2],
  ['PB15:3', 0.7, 0.1, 1.2],
  ['PY74', 1.3, -0.1, 0.7],
  ['PR101', 0.7, 0.1, 1],
  ['PG7', 1.4, -0.1, 1.2],
  ['PBr7-BU', 1.5, 0.1, 1.4],
];
/** The card of a paint as a phone sees it: from an angle, light that falls off, warm, with noise, and another tone curve. */
function photographed(paint: Spectra, seed: number) {
  const { photo, corners } = photographedFlat(drawnCard({ paint, dryUm: DRY, whiteParts: WHITE_PARTS }), seed, {
    noise: 2,
    shadow: 0.22,
    tilt: 0.04,
    blurPx: 0.6,
    table: 70,
  });
  return { photo: inOtherLight(photo, [0.99, 0.94, 0.84], 1.12), corners };
}
const calibrated = (paint: Spectra, seed: number) => {
  const { photo, corners } = photographed(paint, seed);
  const read = readCard(photo, corners);
  return {
    read,
    tube: calibrateTube({
      masstoneLab: read.thickOverWhite,
      tint: { lab: read.tint, whiteParts: WHITE_PARTS },
      drawdowns: {
        dryUm: DRY,
        overBlack: [read.thinOverBlack, read.thickOverBlack],
        overWhite: [read.thinOverWhite, read.thickOverWhite],
        black: read.black,
        white: read.white,
      },
    }),
  };
};

describe('a card of drawdowns in a photograph', () => {
  it('is read as it is, though it lies askew, in warm light that falls off, seen by a camera with its own curve', () => {
    const paint = pigmentOf('PB29');
    const { photo, corners } = photographed(paint, 3);
    const read = readCard(photo, corners);
    const film = (dryUm: number, ground: Lab) => mixColour([{ pigment: paint, parts: 1 }], { film: { dryUm }, ground }).lab;
    expect(deltaE00(read.white, PAPER)).toBeLessThan(1.5);
    expect(deltaE00(read.black, INK)).toBeLessThan(2.5);
    expect(deltaE00(read.thinOverWhite, film(DRY[0], PAPER))).toBeLessThan(2.5);
    expect(deltaE00(read.thickOverBlack, film(DRY[1], INK))).toBeLessThan(2.5);
    expect(read.evenness).toBeLessThan(0.97);
  });

  it('gives tubes whose mixes, held out, are foretold: median ΔE00 at most 2', () => {
    const off: number[] = [];
    const offByTable: number[] = [];
    makes.forEach(([id, strength, tilt, film], i) => {
      const truth = otherMake(id, strength, tilt, film);
      const { tube } = calibrated(truth, 20 + i);
      const mixes: ((paint: MixPart['pigment']) => Lab)[] = [
        (paint) =>
          mixColour([
            { pigment: paint, parts: 1 },
            { pigment: 'PW6', parts: 3 },
          ]).lab,
        (paint) =>
          mixColour([
            { pigment: paint, parts: 1 },
            { pigment: 'PW6', parts: 40 },
          ]).lab,
        (paint) =>
          mixColour([
            { pigment: paint, parts: 1 },
            { pigment: 'PY42', parts: 2 },
            { pigment: 'PW6', parts: 4 },
          ]).lab,
        (paint) => mixColour([{ pigment: paint, parts: 1 }], { film: { dryUm: 20 }, ground: [60, 5, 20] }).lab,
      ];
      for (const mix of mixes) {
        off.push(deltaE00(mix(truth), mix(tube)));
        offByTable.push(deltaE00(mix(truth), mix(id)));
      }
    });
    const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;
    expect(median(off)).toBeLessThanOrEqual(2);
    expect(median(offByTable)).toBeGreaterThan(2 * median(off));
  });

  it.each([
    [
      'a photograph of nothing',
      () =>
        readCard({ width: 400, height: 560, data: new Uint8ClampedArray(400 * 560 * 4).fill(128) }, [
          [0, 0],
          [400, 0],
          [400, 560],
          [0, 560],
        ]),
      /grey card cannot be read/,
    ],
    [
      'two greys',
      () => readCard(photographed(pigmentOf('PB29'), 1).photo, photographed(pigmentOf('PB29'), 1).corners, [90, 30]),
      /at least three steps/,
    ],
    [
      'one that is burnt out',
      () => {
        const { photo, corners } = photographed(pigmentOf('PB29'), 1);
        return readCard({ ...photo, data: photo.data.map((v) => Math.min(255, v * 1.7)) }, corners);
      },
      /overexposed/,
    ],
  ])('%s is refused with a sentence', (_, call, words) => {
    expect(call).toThrow(words);
  });

  it('drawdowns in the wrong order are refused with a sentence', () => {
    const lab: Lab = [50, 0, 0];
    expect(() =>
      calibrateTube({
        masstoneLab: lab,
        drawdowns: { dryUm: [100, 50], overBlack: [lab, lab], overWhite: [lab, lab], black: lab, white: lab },
      }),
    ).toThrow(/thicker than the first/);
  });
});

describe('how sure a mix is', () => {
  it('a tube that was drawn down is known better than one of the table, and a mix mostly of white better than one of colour', () => {
    const { read } = calibrated(otherMake('PB29', 1.5, 0.12, 1.3), 5);
    const own = {
      name: 'my blue',
      masstoneLab: read.thickOverWhite,
      tint: { lab: read.tint, whiteParts: WHITE_PARTS },
      drawdowns: {
        dryUm: DRY,
        overBlack: [read.thinOverBlack, read.thickOverBlack] as [Lab, Lab],
        overWhite: [read.thinOverWhite, read.thickOverWhite] as [Lab, Lab],
        black: read.black,
        white: read.white,
      },
    };
    const tubes = [
      { id: 'w', pigment: 'PW6', grade: 'artist' as const },
      { id: 'table', pigment: 'PB29', grade: 'artist' as const },
      { id: 'own', pigment: 'PB29', grade: 'artist' as const, own },
    ];
    const sure = (tubeId: string) =>
      howSure(
        {
          id: 'm',
          name: 'm',
          recipe: [
            { tubeId: 'w', parts: 4 },
            { tubeId, parts: 1 },
          ],
        },
        { tubes, finish: 'satin' },
      ) as number;
    expect(sure('own')).toBeLessThan(sure('table'));
    expect(sure('table')).toBeGreaterThan(2);
    expect(howSure({ id: 'm', name: 'm', recipe: [{ tubeId: 'w', parts: 1 }] }, { tubes, finish: 'satin' })).toBeLessThan(1.5);
    expect(howSure({ id: 'm', name: 'm', recipe: [] }, { tubes, finish: 'satin' })).toBeNull();
  });
});
