import {
  type Construction,
  commandErrors,
  type Drawing,
  type Eye,
  type Landmark,
  type LineEdit,
  type OwnLine,
  type Thing,
  type TwinOf,
} from '@viaticum/contract';
import { between, CommandError, type D, find, insert, named, setOrClear, take } from './command-tools.js';

const NEAR_MM = 5;

function soundLine(lesson: D, line: OwnLine): OwnLine {
  if (line.curve.length < 4 || line.curve.length % 3 !== 1) throw new CommandError(commandErrors.lineTooShort);
  if (line.curve.length > 3001) throw new CommandError(commandErrors.lineTooLong);
  if (line.areaId) find(lesson.areas, line.areaId, 'area');
  if (line.stepId) find(lesson.steps, line.stepId, 'step');
  return line;
}

function soundConstruction(lesson: D, one: Construction): Construction {
  if (one.stepId) find(lesson.steps, one.stepId, 'step');
  if ('areaIds' in one) {
    if (one.areaIds.length === 0) throw new CommandError(commandErrors.constructionWithoutArea);
    for (const id of one.areaIds) find(lesson.areas, id, 'area');
  }
  if (one.kind === 'grid') {
    between(one.columns, 1, 60, commandErrors.gridColumnsOutOfRange);
    between(one.rows, 1, 60, commandErrors.gridRowsOutOfRange);
    between(one.ratio, 0.1, 50, commandErrors.gridRatioOutOfRange);
  }
  if (one.kind === 'radial') {
    between(one.radiusMm, 0.5, 20000, commandErrors.radiusOutOfRange);
    between(one.parts, 2, 120, commandErrors.circlePartsOutOfRange);
  }
  if (one.kind === 'spacing') between(one.count, 2, 100, commandErrors.spacingOutOfRange);
  return one;
}

/** Lines of one's own, what is decided about computed ones, constructions, landmarks and twins. See `commands`. */
export const drawCommands = {
  setAmount: (lesson: D, { amount }: { amount: number }) => {
    between(amount, 0, 1, commandErrors.amountOutOfRange);
    lesson.drawing.amount = amount;
  },
  setTolerance: (lesson: D, { mm }: { mm: number }) => {
    between(mm, 0.5, 100, commandErrors.toleranceOutOfRange);
    lesson.drawing.toleranceMm = mm;
  },
  setEye: (lesson: D, { eye }: { eye: Eye | null }) => {
    if (eye) between(eye.distanceMm, 10, 100_000, commandErrors.eyeOutOfRange);
    setOrClear(lesson.drawing as Drawing, 'eye', eye);
  },
  addLines: (lesson: D, { lines }: { lines: OwnLine[] }) => {
    for (const line of lines) insert(lesson.drawing.own, soundLine(lesson, line), 'line');
  },
  editLine: (
    lesson: D,
    { id, line, clear }: { id: string; line: Partial<OwnLine>; clear?: ('areaId' | 'stepId' | 'name')[] },
  ) => {
    const found = find(lesson.drawing.own, id, 'line');
    Object.assign(found, soundLine(lesson, { ...found, ...line, id } as OwnLine));
    for (const field of clear ?? []) delete found[field];
  },
  removeLine: (lesson: D, { id }: { id: string }) => {
    take(lesson.drawing.own, id, 'line');
  },
  /** What is decided about a computed line; what was decided about the same one before is added to. With nothing left it goes. */
  decideLine: (lesson: D, { edit, clear }: { edit: LineEdit; clear?: ('gone' | 'stepId' | 'smoothMm')[] }) => {
    if (edit.stepId) find(lesson.steps, edit.stepId, 'step');
    const { edits } = lesson.drawing;
    const isSame = (other: LineEdit) =>
      other.kind === edit.kind &&
      other.areas.join() === edit.areas.join() &&
      Math.hypot(other.at[0] - edit.at[0], other.at[1] - edit.at[1]) < NEAR_MM;
    const at = edits.findIndex(isSame);
    const next: LineEdit = { ...(at >= 0 ? edits[at] : {}), ...edit } as LineEdit;
    for (const field of clear ?? []) delete next[field];
    const says = next.gone || next.stepId !== undefined || next.smoothMm !== undefined;
    if (at >= 0) edits.splice(at, 1, ...(says ? [next] : []));
    else if (says) edits.push(next);
  },
  /** All computed lines as they come. */
  forgetLineEdits: (lesson: D, _: Record<string, never>) => {
    lesson.drawing.edits = [];
  },
  addConstruction: (lesson: D, { construction }: { construction: Construction }) => {
    insert(lesson.drawing.constructions, soundConstruction(lesson, construction), 'construction');
  },
  setConstruction: (lesson: D, { construction }: { construction: Construction }) => {
    find(lesson.drawing.constructions, construction.id, 'construction');
    const at = lesson.drawing.constructions.findIndex((one) => one.id === construction.id);
    lesson.drawing.constructions[at] = soundConstruction(lesson, construction);
  },
  removeConstruction: (lesson: D, { id }: { id: string }) => {
    take(lesson.drawing.constructions, id, 'construction');
  },
  addLandmark: (lesson: D, { landmark }: { landmark: Landmark }) => {
    insert(lesson.drawing.landmarks, { ...landmark, name: named(landmark.name, 'landmark') }, 'landmark');
  },
  editLandmark: (lesson: D, { id, landmark }: { id: string; landmark: Partial<Landmark> }) => {
    const found = find(lesson.drawing.landmarks, id, 'landmark');
    Object.assign(found, { ...landmark, ...(landmark.name !== undefined && { name: named(landmark.name, 'landmark') }), id });
  },
  removeLandmark: (lesson: D, { id }: { id: string }) => {
    take(lesson.drawing.landmarks, id, 'landmark');
  },
  /** A thing that follows another one. Its areas are made and kept by the lesson itself, after every change. */
  addTwin: (lesson: D, { id, name, twinOf }: { id: string; name: string; twinOf: TwinOf }) => {
    const source = find(lesson.things, twinOf.thingId, 'thing');
    if (source.twinOf) throw new CommandError(commandErrors.reflectionOfReflection);
    insert(lesson.things, { id, name: named(name, 'thing'), fate: 'added', twinOf } as Thing, 'thing');
  },
  editTwin: (lesson: D, { id, twinOf }: { id: string; twinOf: Partial<Omit<TwinOf, 'thingId'>> }) => {
    const thing = find(lesson.things, id, 'thing');
    if (!thing.twinOf) throw new CommandError(commandErrors.noTwin);
    Object.assign(thing.twinOf, twinOf);
  },
  removeTwin: (lesson: D, { id }: { id: string }) => {
    find(lesson.things, id, 'thing');
    lesson.things = lesson.things.filter((thing) => thing.id !== id);
  },
};
