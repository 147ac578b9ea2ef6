import { describe, expect, it } from '@jest/globals';
import { draggedTo, laneOf } from './heights.js';

describe('the heights of the section', () => {
  it('a line of the hands has no lanes; many lanes come closer', () => {
    expect(laneOf('hands', 5)).toBe(0);
    expect(laneOf('half', 5)).toBeLessThan(laneOf('tall', 5));
    expect(laneOf('tall', 12)).toBeLessThan(laneOf('tall', 5));
  });
  it('dragged, it goes to the nearest of the three', () => {
    const px = { hands: 62, half: 180, tall: 330 };
    expect(draggedTo('hands', 20, px)).toBe('hands');
    expect(draggedTo('hands', 90, px)).toBe('half');
    expect(draggedTo('hands', 400, px)).toBe('tall');
    expect(draggedTo('tall', -140, px)).toBe('half');
    expect(draggedTo('tall', -500, px)).toBe('hands');
  });
});
