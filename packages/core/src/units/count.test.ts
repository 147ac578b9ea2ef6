import { describe, expect, it } from '@jest/globals';
import { counted, isSeveral, the, verb } from './count.js';

describe('numbers and names in sentences', () => {
  it('one is one, none and several are several', () => {
    expect([0, 1, 2].map((n) => counted(n, 'step'))).toEqual(['0 steps', '1 step', '2 steps']);
    expect([1, 12].map((n) => counted(n, 'mix', 'mixes'))).toEqual(['1 mix', '12 mixes']);
  });
  it('names of several things are told from those that only end in s', () => {
    for (const name of ['terraces', 'small balloons', 'cherries', 'leaves', 'sky and sea', 'Rocks', 'rocks at the shore'])
      expect([name, isSeveral(name)]).toEqual([name, true]);
    for (const name of [
      'sky',
      'grass',
      'iris',
      'cactus',
      'great balloon',
      'tree line',
      'the whole canvas',
      'light on the terraces',
    ])
      expect([name, isSeveral(name)]).toEqual([name, false]);
  });
  it('an article stands once', () => {
    expect(['sky', 'the old mill', 'a ladder', 'theatre', 'My hat'].map(the)).toEqual([
      'the sky',
      'the old mill',
      'a ladder',
      'the theatre',
      'My hat',
    ]);
  });
  it('verbs follow their names', () => {
    expect(`The rocks ${verb('rocks', 'takes', 'take')} 20 min`).toBe('The rocks take 20 min');
    expect(`The sky ${verb('sky', 'is', 'are')} damp`).toBe('The sky is damp');
  });
});
