import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { pigmentTable } from '@viaticum/kernels/pigment';
import { outlineFault } from '../area/index.js';
import { danglingReferences } from './references.js';

/**
 * What is wrong with a document that has the right shape: outlines that cross themselves, unknown tubes, things named that are
 * not there, two of one id. Sentences; empty where it is sound.
 */
export function lessonFaults(lesson: Lesson): string[] {
  const faults: string[] = [];
  const ids = (list: readonly { id: string }[], what: string) => {
    if (new Set(list.map((entry) => entry.id)).size !== list.length) faults.push(say`Two ${what} have the same id.`);
  };
  ids(lesson.areas, 'areas');
  ids(lesson.things, 'things');
  ids(lesson.tubes, 'tubes');
  ids(lesson.mixes, 'mixes');
  ids(lesson.stages, 'stages');
  ids(lesson.steps, 'steps');
  ids(lesson.marks, 'marks');
  ids(lesson.variants, 'variants');
  ids(lesson.samples, 'samples');
  ids(lesson.references, 'pictures');
  for (const area of lesson.areas) {
    const fault = outlineFault(area.outline);
    if (fault) faults.push(`${area.name}: ${fault}`);
  }
  for (const tube of lesson.tubes) {
    if (!pigmentTable.has(tube.pigment)) faults.push(say`No tube in the pigment table is called “${tube.pigment}”.`);
  }
  for (const mix of lesson.mixes) {
    if (isWithinItself(lesson, mix.id)) faults.push(say`${mix.name}: it is mixed from itself.`);
  }
  ids(lesson.drawing.own, 'lines');
  ids(lesson.drawing.constructions, 'constructions');
  ids(lesson.drawing.landmarks, 'landmarks');
  for (const line of lesson.drawing.own)
    if (line.curve.length % 3 !== 1) faults.push(say('A drawn line has a piece that is not whole.'));
  for (const step of lesson.steps)
    if (step.wholeCanvas && step.areaIds.length > 0)
      faults.push(say`${step.title}: it names areas and the whole canvas. Choose one.`);
  return [...faults, ...danglingReferences(lesson)];
}

function isWithinItself(lesson: Lesson, id: string): boolean {
  const seen = new Set<string>();
  const open = [id];
  for (let at = open.pop(); at !== undefined; at = open.pop())
    for (const { mixId } of lesson.mixes.find((mix) => mix.id === at)?.mixedFrom ?? []) {
      if (mixId === id) return true;
      if (!seen.has(mixId)) {
        seen.add(mixId);
        open.push(mixId);
      }
    }
  return false;
}
