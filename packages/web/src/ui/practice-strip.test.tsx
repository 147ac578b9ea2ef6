/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, describe, expect, it } from '@jest/globals';
import { cleanup, render, screen } from '@testing-library/react';
import { surfaces } from '@viaticum/core/surface';
import { PracticeStrip } from './practice-strip.js';

afterEach(cleanup);

describe('strokes to practise', () => {
  it.each(Object.entries(surfaces).flatMap(([surface, { passes }]) => passes.map((pass) => [surface, pass.pass, pass] as const)))(
    '%s, %s: three rows of strokes that stay on the scrap',
    (_, __, pass) => {
      const { widthMm, lengthMm, everyMm } = pass;
      render(<PracticeStrip strokes={{ areaId: 'a', pass, widthMm, lengthMm, everyMm, count: 100 }} label="three rows" />);
      const strip = screen.getByRole('img', { name: 'three rows' });
      const [, , wide, high] = (strip.getAttribute('viewBox') ?? '').split(' ').map(Number) as [number, number, number, number];
      const strokes = [...strip.querySelectorAll('path')];
      expect(strokes.length % 3).toBe(0);
      expect(strokes.length).toBeGreaterThanOrEqual(6);
      for (const stroke of strokes) {
        const [x, y, turn] = [...(stroke.getAttribute('transform') ?? '').matchAll(/-?[\d.]+/g)].map(Number) as [
          number,
          number,
          number,
        ];
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThan(wide);
        expect(y).toBeLessThanOrEqual(high);
        // They are pulled upwards, none back into the one before.
        expect(turn).toBeLessThan(0);
        expect(turn).toBeGreaterThan(-100);
      }
    },
  );
});
