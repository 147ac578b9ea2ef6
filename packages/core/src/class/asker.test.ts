import { describe, expect, it } from '@jest/globals';
import { asker, type Question } from './asker.js';

const MIN = 60_000;
const tail: Question = { stepId: 'sky', is: 'tail' };
const left: Question = { stepId: 'roofs', is: 'went-on' };
const look: Question = { stepId: 'sky', is: 'look' };
const NEVER = Number.NEGATIVE_INFINITY;

describe('what a phone asks, and how often', () => {
  it('a question stands until it is answered or overtaken, and says the same when it is looked at twice', () => {
    const own = asker();
    expect(own.look(null, 0, NEVER)).toBeNull();
    expect(own.look(tail, MIN, NEVER)).toBe(tail);
    expect(own.look(tail, 9 * MIN, NEVER)).toBe(tail);
    expect(own.look(null, 9 * MIN, NEVER)).toBeNull();
  });
  it('the next one comes six minutes after the one before at the earliest', () => {
    const own = asker();
    own.look(tail, 0, NEVER);
    own.answered();
    expect(own.look(left, 5 * MIN, NEVER)).toBeNull();
    expect(own.look(left, 6 * MIN, NEVER)).toBe(left);
  });
  it('after two without an answer only one in twenty minutes; one answer, and it is as before', () => {
    const own = asker();
    own.look(tail, 0, NEVER);
    own.look(null, 2 * MIN, NEVER);
    own.look(left, 6 * MIN, NEVER);
    own.look(null, 7 * MIN, NEVER);
    expect(own.look(tail, 20 * MIN, NEVER)).toBeNull();
    expect(own.look(tail, 26 * MIN, NEVER)).toBe(tail);
    own.answered();
    expect(own.look(left, 32 * MIN, NEVER)).toBe(left);
  });
  it('who looks back is asked at once, whatever was asked before, but not again for six minutes', () => {
    const own = asker();
    own.look(left, 0, NEVER);
    own.look(null, MIN, NEVER);
    expect(own.look(look, 2 * MIN, NEVER)).toBe(look);
    own.look(null, 3 * MIN, NEVER);
    expect(own.look(look, 4 * MIN, NEVER)).toBeNull();
    expect(own.look(look, 8.5 * MIN, NEVER)).toBe(look);
  });
  it('nobody is asked within a minute of a touch, unless they look back at a step', () => {
    const own = asker();
    expect(own.look(tail, 10 * MIN, 9.5 * MIN)).toBeNull();
    expect(own.look(look, 10 * MIN, 9.9 * MIN)).toBe(look);
  });
});
