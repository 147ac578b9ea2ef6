import type { Lesson } from '@viaticum/contract';
import { pigmentTable } from '../pigment/index.js';
import { outlineFault } from '../zone/index.js';

/**
 * What is wrong with a document that has the right shape: outlines that cross themselves, unknown tubes, things named that are
 * not there, two of one id. Sentences; empty where it is sound.
 */
export function lessonFaults(lesson: Lesson): string[] {
  const faults: string[] = [];
  const ids = (list: readonly { id: string }[], what: string): Set<string> => {
    const known = new Set(list.map((entry) => entry.id));
    if (known.size !== list.length) faults.push(`Two ${what} have the same id.`);
    return known;
  };
  const zones = ids(lesson.zones, 'areas');
  const things = ids(lesson.things, 'things');
  const tubes = ids(lesson.tubes, 'tubes');
  const mixes = ids(lesson.mixes, 'mixes');
  const stages = ids(lesson.stages, 'stages');
  const steps = ids(lesson.steps, 'steps');
  const marks = ids(lesson.marks, 'marks');
  ids(lesson.variants, 'variants');
  for (const mark of lesson.marks) if (!zones.has(mark.zoneId)) faults.push(`${mark.name}: its area is not in the lesson.`);
  ids(lesson.samples, 'samples');
  for (const sample of lesson.samples)
    if (!steps.has(sample.afterStepId)) faults.push(`${sample.name}: its step is not in the lesson.`);
  for (const zone of lesson.zones) {
    const fault = outlineFault(zone.outline);
    if (fault) faults.push(`${zone.name}: ${fault}`);
    if (zone.thingId && !things.has(zone.thingId))
      faults.push(`${zone.name}: it belongs to a thing that is not in the lesson.`);
  }
  for (const tube of lesson.tubes) {
    if (!pigmentTable.has(tube.pigment)) faults.push(`No tube in the pigment table is called “${tube.pigment}”.`);
  }
  for (const mix of lesson.mixes) {
    for (const part of mix.mixedFrom ?? [])
      if (!mixes.has(part.mixId)) faults.push(`${mix.name}: it is mixed from a mix that is not in the lesson.`);
    if (isWithinItself(lesson, mix.id)) faults.push(`${mix.name}: it is mixed from itself.`);
    for (const part of mix.recipe)
      if (!tubes.has(part.tubeId)) faults.push(`${mix.name}: its recipe names a tube that is not in the lesson.`);
  }
  ids(lesson.drawing.own, 'lines');
  ids(lesson.drawing.constructions, 'constructions');
  ids(lesson.drawing.landmarks, 'landmarks');
  for (const line of lesson.drawing.own)
    if (line.curve.length % 3 !== 1) faults.push('A drawn line has a piece that is not whole.');
  for (const step of lesson.steps) {
    if (!stages.has(step.stageId)) faults.push(`${step.title}: its stage is not in the lesson.`);
    if (step.zoneIds.some((id) => !zones.has(id))) faults.push(`${step.title}: it names an area that is not in the lesson.`);
    if (step.markIds.some((id) => !marks.has(id))) faults.push(`${step.title}: it names a mark that is not in the lesson.`);
    if (step.mixIds.some((id) => !mixes.has(id))) faults.push(`${step.title}: it names a mix that is not in the lesson.`);
  }
  return faults;
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
