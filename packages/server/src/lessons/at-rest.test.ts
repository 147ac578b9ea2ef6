import { expect, it } from '@jest/globals';
import { whenAtRest } from './at-rest.js';

it('what is said of again and again is worked at once, when it rests or when somebody asks; a failure holds up nothing', async () => {
  const done: string[] = [];
  const { later, settle } = whenAtRest(async (id) => {
    await Promise.resolve();
    if (id === 'bad') throw new Error('no');
    done.push(id);
  }, 40);
  for (let i = 0; i < 5; i++) later('a');
  later('bad');
  later('b');
  expect(done).toEqual([]);
  await settle();
  expect(done).toEqual(['a', 'b']);
  later('c');
  await new Promise((go) => setTimeout(go, 80));
  expect(done).toEqual(['a', 'b', 'c']);
});
