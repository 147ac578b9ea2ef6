import { readFileSync } from 'node:fs';
import type { Lesson, Mark, Step } from '@viaticum/contract';
import { defaultRoom, emptyLesson } from '../lesson/index.js';

/** A demo lesson as it ships. */
export const demoLesson = (name: 'balloons' | 'kettle' | 'star' = 'balloons'): Lesson =>
  JSON.parse(readFileSync(new URL(`../../../server/assets/demo/${name}.json`, import.meta.url), 'utf8')) as Lesson;

let count = 0;
export const testIds = () => `t${++count}`;

export const testStep = (id: string, rest: Partial<Step>): Step => ({
  id,
  stageId: 'st',
  kind: 'paint',
  title: id,
  zoneIds: ['a'],
  markIds: [],
  mixIds: ['m'],
  technique: 'block-in',
  needs: 'any',
  showMin: 0,
  doMin: 4,
  say: '',
  watch: '',
  checkpoint: '',
  finish: '',
  ...rest,
});

export const testMark = (id: string, zoneId: string, rest: Partial<Mark> = {}): Mark => ({
  id,
  name: id,
  zoneId,
  kind: 'tufts',
  count: 12,
  lengthMm: 20,
  widthMm: 2,
  taper: 0.8,
  ...rest,
});

/** A canvas with a sky `a` behind a hill `b`, one mix, and the steps given. */
export const smallLesson = (steps: Step[]): Lesson => ({
  ...emptyLesson('small', { widthMm: 200, heightMm: 250, unit: 'cm' }, () => 'st'),
  room: defaultRoom,
  zones: [
    {
      id: 'a',
      name: 'sky',
      outline: [
        [
          [
            [0, 0],
            [200, 0],
            [200, 250],
            [0, 250],
          ],
        ],
      ],
    },
    {
      id: 'b',
      name: 'hill',
      outline: [
        [
          [
            [0, 150],
            [200, 130],
            [200, 250],
            [0, 250],
          ],
        ],
      ],
    },
  ],
  tubes: [{ id: 'w', pigment: 'PW6', grade: 'artist', finish: 'satin' }],
  mixes: [{ id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] }],
  steps,
});
