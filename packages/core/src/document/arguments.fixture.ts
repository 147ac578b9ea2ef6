import { areaRoles, type Lesson, proposedCuts, surfaceKinds } from '@viaticum/contract';
import { testMark, testStep } from '../fixtures/lessons.js';
import type { CommandArgs, CommandName } from './index.js';

export type Draw = { random: () => number; pick: <T>(list: readonly T[]) => T; id: () => string; lesson: Lesson };

/** For every command a way to draw arguments; a command without one fails the test that lists them. */
export const argumentsOf: { [N in CommandName]: (draw: Draw) => CommandArgs<N> } = {
  setTitle: ({ random }) => ({ title: `Lesson ${Math.floor(random() * 1000)}` }),
  takeVersion: ({ lesson, pick, random }) => ({
    version: { ...lesson, units: pick(['in', 'cm']), title: `Version ${Math.floor(random() * 9)}` },
  }),
  setLevel: ({ pick }) => ({ level: pick(['beginner', 'improver', 'experienced']) }),
  setUnits: ({ pick }) => ({ units: pick(['in', 'cm']) }),
  setSchool: ({ pick }) => ({
    school: { order: pick(['background-first', 'subject-first']), detail: pick(['suggest', 'render']) },
  }),
  setMethod: ({ random }) => ({
    method: random() < 0.3 ? null : { name: 'my way', coats: 2, breakEveryMin: 30 + Math.floor(random() * 30) },
  }),
  setRoom: ({ random }) => ({ room: { airC: 10 + random() * 20, humidity: random() } }),
  editKit: ({ random }) => ({ kit: { heads: 1 + Math.floor(random() * 40), feeMinor: 100 * Math.floor(random() * 90) } }),
  setPremix: ({ lesson, pick }) => ({ mixId: pick(lesson.mixes).id, how: pick(['batch', 'palette', null]) }),
  setSharing: ({ lesson, pick }) => ({ tubeId: pick(lesson.tubes).id, how: pick(['handed-round', 'a-table', 'each', null]) }),
  shareBrush: ({ pick }) => ({ brush: pick(['rigger-2', 'flat-1-in']), isShared: pick([true, false]) }),
  setBringer: ({ pick }) => ({ what: pick(['towels', 'apron']), by: pick(['studio', 'student', null]) }),
  addExtra: ({ id, pick }) => ({
    extra: { id: id(), name: 'string', shelf: 'sundries', count: 2, per: pick(['head', 'group']) },
  }),
  editExtra: ({ lesson, pick }) => ({ id: pick(lesson.kit?.extras ?? []).id, extra: { count: 3 } }),
  removeExtra: ({ lesson, pick }) => ({ id: pick(lesson.kit?.extras ?? []).id }),
  takeDraft: ({ id, lesson, pick }) => {
    const stage = { id: id(), name: 'drafted' };
    return {
      stages: [stage],
      steps: lesson.steps.slice(0, 4).map((step) => ({ ...step, id: id(), stageId: stage.id, needs: pick(['any', 'wet']) })),
    };
  },
  takeRedone: ({ id, lesson, pick, random }) => {
    const stage = { id: id(), name: 'redone' };
    const areas = lesson.areas.filter(() => random() < 0.8).map((area) => ({ ...area }));
    const gone = lesson.mixes.filter(
      (mix) => random() < 0.3 && !lesson.mixes.some((other) => other.mixedFrom?.some((part) => part.mixId === mix.id)),
    );
    const mixes = lesson.mixes.filter((mix) => !gone.includes(mix));
    const isThere = (ids: readonly string[], among: readonly { id: string }[]) =>
      ids.filter((one) => among.some((other) => other.id === one));
    return {
      areas,
      heirs: {},
      subjectAreaId: areas.length > 0 && random() < 0.7 ? pick(areas).id : null,
      tubes: lesson.tubes,
      mixes,
      draft: {
        stages: [stage],
        steps: lesson.steps.slice(0, 4).map((step) => ({
          ...step,
          stageId: stage.id,
          areaIds: isThere(step.areaIds, areas),
          mixIds: isThere(step.mixIds, mixes),
          markIds: [],
        })),
      },
    };
  },
  makePassage: ({ lesson, pick, id }) => {
    const [one, other] = [pick(lesson.areas).id, pick(lesson.areas).id];
    const mixId = pick(lesson.mixes).id;
    const old = pick(lesson.steps);
    return {
      passage: {
        id: id(),
        name: 'dusk',
        areaIds: [...new Set([one, other])],
        places: [{ mixId, areaId: one }],
        order: pick(['light-out', 'dark-in', 'top-down', 'by-hand']),
        soften: pick(['seams', 'whole']),
      },
      step: { ...old, id: id(), areaIds: [...new Set([one, other])], mixIds: [mixId], markIds: [] },
      instead: [old.id],
    };
  },
  partPassage: ({ lesson, pick, id }) => ({ id: pick(lesson.passages).id, ids: Array.from({ length: 60 }, () => id()) }),
  leaveOut: ({ lesson, pick }) => ({ ids: [pick(lesson.steps).id] }),
  takeRoom: ({ random, lesson }) => ({ room: { ...lesson.room, name: `room ${Math.floor(random() * 9)}`, seats: 8 } }),
  pinStep: ({ lesson, pick, random }) => ({ id: pick(lesson.steps).id, startMin: random() * 200 }),
  pinAt: ({ lesson, pick, random }) => ({
    id: pick(lesson.steps).id,
    startMin: random() * 200,
    to: Math.floor(random() * lesson.steps.length),
  }),
  unpin: ({ lesson, pick }) => ({ id: pick(lesson.steps).id }),
  pinOrder: ({ lesson, pick }) => ({ firstId: pick(lesson.steps).id, thenId: pick(lesson.steps).id }),
  unpinOrder: ({ lesson, pick }) => ({ firstId: pick(lesson.steps).id, thenId: pick(lesson.steps).id }),
  waiveContact: ({ lesson, pick, random }) => ({
    contacts: [
      {
        fromStepId: pick(lesson.steps).id,
        toStepId: pick(lesson.steps).id,
        ...(random() < 0.5 && { areaId: pick(lesson.areas).id }),
      },
    ],
    ...(random() < 0.5 && { why: 'a soft border' }),
  }),
  unwaiveContact: ({ lesson, pick }) => ({
    contacts: [{ fromStepId: pick(lesson.steps).id, toStepId: pick(lesson.steps).id }],
  }),
  meetWaits: ({ lesson, pick }) => ({ keep: [{ stepId: pick(lesson.steps).id, startMin: 30 }] }),
  setPlanning: ({ random, lesson, pick }) => ({
    breaks: random() < 0.3 ? null : { lengthMin: 10, everyMin: 50 + random() * 40 },
    sessions: random() < 0.5 ? null : { most: 2, limitMin: 120 },
    cutsBefore: random() < 0.5 ? [] : [pick(lesson.steps).id],
    cautious: random() < 0.5,
    slackShare: random() < 0.5 ? 0 : random(),
  }),
  divideStep: ({ lesson, pick, id }) => ({
    id: pick(lesson.steps).id,
    parts: 2,
    places: ['3 in from the top'],
    doMin: 8,
    ids: [id()],
  }),
  setSupport: ({ random }) => ({ support: { widthMm: 100 + random() * 400 } }),
  addReference: ({ id }) => ({
    reference: {
      id: id(),
      pictureSha256: 'a'.repeat(64),
      widthPx: 10,
      heightPx: 10,
      role: 'whole',
      permission: { kind: 'unset' },
      placement: { mmPerPx: 1, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
    },
  }),
  placeReference: ({ lesson, pick, random }) => ({
    id: pick(lesson.references).id,
    placement: { mmPerPx: 0.1 + random(), xMm: 0, yMm: 0, rotationDeg: 0, flip: random() < 0.5 },
  }),
  setPermission: ({ lesson, pick }) => ({ id: pick(lesson.references).id, permission: { kind: pick(['own', 'permission']) } }),
  setReferenceRole: ({ lesson, pick }) => ({ id: pick(lesson.references).id, role: pick(['whole', 'detail', 'light']) }),
  setTaken: ({ lesson, pick }) => ({ id: pick(lesson.references).id, taken: pick(['daylight', 'screen']) }),
  setCorrection: ({ lesson, pick, random }) => ({
    id: pick(lesson.references).id,
    correction: random() < 0.3 ? null : { neutral: { xPx: 4, yPx: 5, rgb: [random() * 255, 120, 110] } },
  }),
  setExtended: ({ lesson, pick, random }) => ({ id: pick(lesson.references).id, extend: random() < 0.5 }),
  replaceAreas: ({ lesson, random }) => {
    const areas = lesson.areas.filter((_, i) => i === 0 || random() < 0.9);
    const lines = lesson.marks.filter((mark) => mark.along && areas.some((area) => area.id === mark.areaId) && random() < 0.6);
    return { areas, ...(random() < 0.5 ? { lines } : {}) };
  },
  mergeAreas: ({ lesson, pick }) => ({ id: pick(lesson.areas).id, into: pick(lesson.areas).id }),
  splitArea: ({ lesson, pick, id, random }) => ({
    id: pick(lesson.areas).id,
    line: [
      [random() * 400, 0],
      [random() * 400, 500],
    ],
    area: { id: id(), name: 'piece' },
  }),
  setEdge: ({ lesson, pick }) => ({
    id: pick(lesson.areas).id,
    with: pick(lesson.areas).id,
    kind: pick(['hard', 'soft', 'lost', null]),
  }),
  setWish: ({ lesson, pick }) => ({
    id: pick(lesson.areas).id,
    with: pick(lesson.areas).id,
    wish: pick(['clean', 'may-soften', 'soft', null]),
  }),
  setOwnWay: ({ lesson, pick, random }) => ({
    ids: [pick(lesson.areas).id],
    ownWay: random() < 0.3 ? null : { layers: pick(['dry-layers', 'one-wet-session', 'glazes']), detail: 'render' },
  }),
  setPassage: ({ lesson, pick }) => {
    const passage = pick(lesson.passages);
    const { id } = passage;
    return {
      id,
      places: passage.areaIds.map((areaId) => ({ mixId: pick(lesson.mixes).id, areaId, at: pick(['top', 'corners']) })),
      order: pick(['light-out', 'dark-in']),
    };
  },
  bringBack: ({ lesson, pick }) => ({ ids: [pick(lesson.leftOut.map((one) => one.step)).id] }),
  removeSteps: ({ lesson, pick }) => ({ ids: [pick(lesson.steps).id] }),
  fitToLength: ({ lesson, pick, random }) => ({
    minutes: 60 + random() * 60,
    leaveOut: [pick(lesson.steps).id],
    bringBack: lesson.leftOut.slice(0, 1).map(({ step }) => step.id),
    ...(random() < 0.5 ? { edits: [{ id: pick(lesson.steps).id, step: { load: 'thin' as const } }] } : {}),
    ...(random() < 0.5 && lesson.leftOut.length === 0 ? { order: lesson.steps.map((step) => step.id).reverse() } : {}),
  }),
  forgetLeftOut: ({ lesson, pick }) => ({ ids: [pick(lesson.leftOut.map((one) => one.step)).id] }),
  setWanted: ({ random }) => ({ minutes: random() < 0.3 ? null : 30 + random() * 200 }),
  setStopTest: ({ random }) => ({ questions: random() < 0.3 ? [] : ['Would another hour make it better?'] }),
  setCoats: ({ id, lesson, pick, random }) => ({
    id: pick(lesson.steps).id,
    coats: 1 + Math.floor(random() * 4),
    ids: [id(), id(), id()],
  }),
  setRole: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    role: random() < 0.3 ? null : pick(areaRoles),
  }),
  setSurface: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    surface: random() < 0.3 ? null : pick(surfaceKinds),
  }),
  setForm: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    form:
      random() < 0.3
        ? null
        : pick([
            { kind: 'round' },
            { kind: 'cylinder', axisDeg: random() * 180 - 90 },
            { kind: 'box', edge: [random() * 200, random() * 200] },
          ] as const),
  }),
  setCombed: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    combed:
      random() < 0.3
        ? []
        : [
            [
              [random() * 100, random() * 100],
              [random() * 100, random() * 100],
            ],
          ],
  }),
  setDirection: ({ lesson, pick, random }) => ({ id: pick(lesson.areas).id, deg: random() < 0.3 ? null : random() * 180 }),
  setOverlap: ({ random }) => ({ mm: random() * 10 }),
  setSubject: ({ lesson, pick, random }) => ({ id: random() < 0.3 ? null : pick(lesson.areas).id }),
  setLight: ({ random }) => ({ light: random() < 0.3 ? null : { azimuthDeg: random() * 360, elevationDeg: random() * 90 } }),
  addThing: ({ lesson, pick, id }) => ({
    thing: { id: id(), name: 'thing', fate: 'kept' },
    areaIds: [pick(lesson.areas).id, pick(lesson.areas).id],
  }),
  renameThing: ({ lesson, pick, random }) => ({ id: pick(lesson.things).id, name: `thing ${random()}` }),
  setFate: ({ lesson, pick }) => ({ id: pick(lesson.things).id, fate: pick(['kept', 'dropped']) }),
  setFacing: ({ lesson, pick }) => ({ id: pick(lesson.things).id, facing: pick(['left', 'right', null]) }),
  moveThing: ({ lesson, pick, random }) => ({
    id: pick(lesson.things).id,
    dxMm: random() * 20 - 10,
    dyMm: random() * 20 - 10,
    scale: 0.8 + random() * 0.4,
  }),
  removeThing: ({ lesson, pick }) => ({ id: pick(lesson.things).id }),
  removeReference: ({ lesson, pick }) => ({ id: pick(lesson.references).id }),
  addArea: ({ id, random }) => ({
    area: {
      id: id(),
      name: 'new',
      outline: [
        [
          [
            [0, 0],
            [50 + random() * 50, 0],
            [0, 60],
          ],
        ],
      ],
    },
    at: 0,
  }),
  renameArea: ({ lesson, pick, random }) => ({ id: pick(lesson.areas).id, name: `area ${random()}` }),
  setOutline: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    outline: [
      [
        [
          [0, 0],
          [90, random() * 40],
          [30, 80],
        ],
      ],
    ],
  }),
  moveArea: ({ lesson, pick, random }) => ({ id: pick(lesson.areas).id, to: Math.floor(random() * 9) }),
  setAreaTarget: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    lab: random() < 0.5 ? null : [random() * 100, 5, -5],
  }),
  setKeepFree: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    untilStepId: random() < 0.3 ? null : pick(lesson.steps).id,
  }),
  setFlow: ({ lesson, pick, random }) => ({
    id: pick(lesson.areas).id,
    flow: random() < 0.3 ? null : { kind: pick(['towards', 'round'] as const), at: [random() * 400, random() * 500] },
  }),
  addMark: ({ id, lesson, pick, random }) => ({
    mark: testMark(
      id(),
      pick(lesson.areas).id,
      random() < 0.4 ? { kind: 'lines', along: [aLine(random), aLine(random)] } : { count: 1 + Math.floor(random() * 40) },
    ),
    ...(random() < 0.5 ? { stepId: pick(lesson.steps).id } : {}),
  }),
  editMark: ({ lesson, pick, random }) => ({
    id: pick(lesson.marks).id,
    mark: { lengthMm: 1 + random() * 40, areaId: pick(lesson.areas).id },
    ...(random() < 0.3 ? { clear: ['directionDeg' as const] } : {}),
  }),
  removeMark: ({ lesson, pick }) => ({ id: pick(lesson.marks).id }),
  splitStep: ({ id, lesson, pick }) => ({ id: pick(lesson.steps).id, newId: id() }),
  joinSteps: ({ lesson, pick }) => ({ ids: [pick(lesson.steps).id, pick(lesson.steps).id] }),
  copySteps: ({ id, lesson, pick }) => ({ ids: [pick(lesson.steps).id, pick(lesson.steps).id], newIds: [id(), id()] }),
  moveSteps: ({ lesson, pick, random }) => ({
    ids: [pick(lesson.steps).id, pick(lesson.steps).id],
    by: random() < 0.5 ? 1 : -1,
  }),
  insertSteps: ({ id, lesson, pick, random }) => ({
    steps: [{ ...pick(lesson.steps), id: id(), areaIds: ['gone'] }],
    afterId: random() < 0.3 ? null : pick(lesson.steps).id,
    ...(random() < 0.3 ? { stage: { id: id(), name: 'brought along' } } : {}),
  }),
  simplify: ({ lesson, pick }) => ({
    merge: [{ id: pick(lesson.areas).id, into: pick(lesson.areas).id }],
    join: [{ keep: pick(lesson.mixes).id, drop: pick(lesson.mixes).id }],
    remove: [pick(lesson.steps).id],
    brushes: [],
  }),
  setHanded: ({ pick }) => ({ handed: pick(['right', 'left']) }),
  addSample: ({ id, lesson, pick }) => ({ sample: { id: id(), name: 'sample', afterStepId: pick(lesson.steps).id } }),
  removeSample: ({ lesson, pick }) => ({ id: pick(lesson.samples).id }),
  setVariant: ({ id, lesson, pick }) => ({
    variant: {
      id: lesson.variants[0]?.id ?? id(),
      name: 'other kit',
      leaveOutStepIds: [pick(lesson.steps).id],
      changes: [{ stepId: pick(lesson.steps).id, step: { doMin: 3 } }],
    },
  }),
  removeVariant: ({ lesson, pick }) => ({ id: pick(lesson.variants).id }),
  removeArea: ({ lesson, pick }) => ({ id: pick(lesson.areas).id }),
  addTube: ({ id, pick }) => ({
    tube: { id: id(), pigment: pick(['PW6', 'PB29', 'sap green']), grade: 'artist' },
  }),
  setFinish: ({ pick }) => ({ finish: pick(['gloss', 'satin', 'matt']) }),
  setKeeping: ({ pick }) => ({ kept: pick(['plate', 'film', 'wet-palette', 'bag']) }),
  meetPaint: ({ lesson }) => ({ recipes: lesson.mixes.slice(0, 2).map(({ id, recipe }) => ({ id, recipe })) }),
  setTube: ({ lesson, pick }) => ({ id: pick(lesson.tubes).id, tube: { grade: pick(['artist', 'student']) } }),
  removeTube: ({ lesson, pick }) => ({ id: pick(lesson.tubes).id }),
  addMix: ({ id, lesson, pick }) => ({
    mix: { id: id(), name: 'mix', recipe: [{ tubeId: pick(lesson.tubes).id, parts: pick([1, 2, 'touch'] as const) }] },
  }),
  renameMix: ({ lesson, pick, random }) => ({ id: pick(lesson.mixes).id, name: `mix ${random()}` }),
  setRecipe: ({ lesson, pick, random }) => ({
    id: pick(lesson.mixes).id,
    recipe: [{ tubeId: pick(lesson.tubes).id, parts: 1 + Math.floor(random() * 9) }],
  }),
  takePalette: ({ lesson, pick, random }) => ({
    tubes: lesson.tubes.filter((_, i) => i === 0 || random() < 0.8),
    recipes: [{ id: pick(lesson.mixes).id, recipe: [{ tubeId: (lesson.tubes[0] as { id: string }).id, parts: 2 }] }],
  }),
  addMixes: ({ id, lesson, pick }) => {
    const first = id();
    return {
      mixes: [
        { id: first, name: 'pale', recipe: [{ tubeId: pick(lesson.tubes).id, parts: 3 }] },
        {
          id: id(),
          name: 'deep',
          recipe: [],
          mixedFrom: [
            { mixId: first, parts: 2 },
            { mixId: pick(lesson.mixes).id, parts: 'touch' },
          ],
        },
      ],
    };
  },
  setThinning: ({ lesson, pick, random }) => ({
    id: pick(lesson.mixes).id,
    waterShareOfMix: random() < 0.3 ? null : random() * 0.5,
    mediumParts: random() < 0.5 ? null : 4,
  }),
  setLetDown: ({ lesson, pick, random }) => ({ id: pick(lesson.mixes).id, letDown: random() < 0.5 }),
  joinMixes: ({ lesson, pick }) => ({ keep: pick(lesson.mixes).id, drop: pick(lesson.mixes).id }),
  setMixTarget: ({ lesson, pick, random }) => ({
    id: pick(lesson.mixes).id,
    lab: random() < 0.3 ? null : [50, random() * 20, 3],
  }),
  moveMix: ({ lesson, pick, random }) => ({ id: pick(lesson.mixes).id, to: Math.floor(random() * 9) }),
  removeMix: ({ lesson, pick }) => ({ id: pick(lesson.mixes).id }),
  addStage: ({ id }) => ({ stage: { id: id(), name: 'stage' } }),
  renameStage: ({ lesson, pick, random }) => ({ id: pick(lesson.stages).id, name: `stage ${random()}` }),
  moveStage: ({ lesson, pick, random }) => ({ id: pick(lesson.stages).id, to: Math.floor(random() * 5) }),
  removeStage: ({ lesson, pick }) => ({ id: pick(lesson.stages).id }),
  addStep: ({ id, lesson, pick, random }) => ({
    step: testStep(id(), { stageId: pick(lesson.stages).id, areaIds: [], mixIds: [] }),
    at: Math.floor(random() * 9),
  }),
  editStep: ({ lesson, pick, random }) =>
    random() < 0.5
      ? { id: pick(lesson.steps).id, step: { title: `step ${random()}`, doMin: random() * 20, stageId: pick(lesson.stages).id } }
      : { id: pick(lesson.steps).id, step: { needs: pick(['any', 'paintOver']) }, clear: ['doMin', 'brushId'] },
  moveStep: ({ lesson, pick, random }) => ({ id: pick(lesson.steps).id, to: Math.floor(random() * 20) }),
  orderSteps: ({ lesson, random }) => ({ ids: lesson.steps.map((step) => step.id).sort(() => random() - 0.5) }),
  removeStep: ({ lesson, pick }) => ({ id: pick(lesson.steps).id }),
  setAmount: ({ random }) => ({ amount: random() }),
  setTolerance: ({ random }) => ({ mm: 1 + random() * 9 }),
  setEye: ({ random }) => ({ eye: random() < 0.3 ? null : { xMm: 200, horizonMm: 100 + random() * 100, distanceMm: 600 } }),
  addLines: ({ id, random }) => ({
    lines: [
      {
        id: id(),
        curve: [0, 1, 2, 3].map((k): [number, number] => [20 + k * 10, 30 + random() * 50]),
      },
    ],
  }),
  editLine: ({ lesson, pick, random }) => ({
    id: pick(lesson.drawing.own).id,
    line: { areaId: pick(lesson.areas).id, name: `line ${Math.floor(random() * 9)}` },
    clear: random() < 0.3 ? ['stepId'] : [],
  }),
  removeLine: ({ lesson, pick }) => ({ id: pick(lesson.drawing.own).id }),
  decideLine: ({ lesson, pick, random }) => ({
    edit: {
      kind: 'border',
      areas: [pick(lesson.areas).id, pick(lesson.areas).id],
      at: [Math.floor(random() * 3) * 100, 50],
      ...(random() < 0.5 ? { gone: true } : { stepId: pick(lesson.steps).id }),
    },
    clear: random() < 0.3 ? ['gone', 'stepId', 'smoothMm'] : [],
  }),
  forgetLineEdits: () => ({}),
  addConstruction: ({ id, lesson, pick, random }) => ({
    construction:
      random() < 0.5
        ? { id: id(), kind: 'grid', columns: 4, rows: 5, ratio: 2 }
        : { id: id(), kind: 'envelope', areaIds: [pick(lesson.areas).id], shadowIds: [], sides: 6, thinMm: 5 },
  }),
  setConstruction: ({ lesson, pick }) => ({
    construction: { ...pick(lesson.drawing.constructions), stepId: pick(lesson.steps).id },
  }),
  removeConstruction: ({ lesson, pick }) => ({ id: pick(lesson.drawing.constructions).id }),
  addLandmark: ({ id, random }) => ({ landmark: { id: id(), name: 'corner', at: [random() * 300, random() * 300] } }),
  editLandmark: ({ lesson, pick, random }) => ({
    id: pick(lesson.drawing.landmarks).id,
    landmark: { at: [random() * 300, 40] },
  }),
  removeLandmark: ({ lesson, pick }) => ({ id: pick(lesson.drawing.landmarks).id }),
  addTwin: ({ id, lesson, pick, random }) => ({
    id: id(),
    name: 'reflection',
    twinOf: {
      thingId: pick(lesson.things).id,
      kind: random() < 0.5 ? 'reflection' : 'pull',
      baseMm: 200 + random() * 100,
      bankM: 0.5,
      eyeM: 2,
      horizonMm: 150,
    },
  }),
  editTwin: ({ lesson, pick, random }) => ({
    id: pick(lesson.things.filter((thing) => thing.twinOf)).id,
    twinOf: { baseMm: 200 + random() * 100 },
  }),
  removeTwin: ({ lesson, pick }) => ({ id: pick(lesson.things.filter((thing) => thing.twinOf)).id }),
  editFilm: ({ random }) =>
    random() < 0.8 ? { film: { wordsPerMinute: 100 + Math.floor(random() * 80) } } : { film: {}, clear: ['wordsPerMinute'] },
  setFilmLight: ({ random }) => ({ place: 'palette', light: random() < 0.7 ? 'window' : null }),
  setTake: ({ lesson, pick, random }) => ({
    takeId: `${pick(lesson.steps).id}/canvas`,
    edit: { rawSec: 10 + Math.floor(random() * 200) },
    ...(random() < 0.3 && { clear: ['rawSec'] }),
  }),
  joinTake: ({ lesson, pick }) => ({
    takeId: lesson.film?.takeEdits?.[0]?.takeId ?? 'gone/canvas',
    toTakeId: `${pick(lesson.steps).id}/canvas`,
  }),
  addOwnTake: ({ id }) => ({ take: { id: id(), title: 'The studio', place: 'wide', rawSec: 20 } }),
  removeOwnTake: ({ lesson, pick }) => ({ id: pick(lesson.film?.ownTakes ?? []).id }),
  pinFilming: ({ lesson, random }) => ({ order: random() < 0.7 ? lesson.steps.map(({ id }) => `${id}/canvas`) : null }),
  addCut: ({ id }) => ({ cut: { id: id(), name: 'Teaser', isShort: true, lengthSec: 30 } }),
  editCut: ({ lesson, pick, random }) => ({
    id: pick(lesson.film?.cuts ?? proposedCuts).id,
    cut: { lengthSec: 60 + Math.floor(random() * 900) },
    ...(random() < 0.3 && { clear: ['partSec'] }),
  }),
  removeCut: ({ lesson, pick }) => ({ id: pick(lesson.film?.cuts ?? proposedCuts).id }),
  dragPieces: ({ lesson, pick, random }) => ({
    cutId: pick(lesson.film?.cuts ?? proposedCuts).id,
    pieces: [{ pieceId: `${pick(lesson.steps).id}/rest`, sec: random() < 0.7 ? 5 + random() * 20 : null }],
  }),
  leaveOutTake: ({ lesson, pick, random }) => ({
    cutId: pick(lesson.film?.cuts ?? proposedCuts).id,
    takeId: `${pick(lesson.steps).id}/canvas`,
    isOut: random() < 0.6,
  }),
  editCaption: ({ lesson, pick, random }) => ({
    cutId: pick(lesson.film?.cuts ?? proposedCuts).id,
    key: `${pick(lesson.steps).id}/canvas/0`,
    text: random() < 0.7 ? 'Long strokes.' : null,
  }),
  editCard: ({ lesson, pick, random }) => ({
    cutId: pick(lesson.film?.cuts ?? proposedCuts).id,
    key: `${pick(lesson.steps).id}/canvas/step`,
    card: random() < 0.7 ? { hidden: true } : null,
  }),
  joinFilm: ({ id, lesson, pick }) => ({
    film: {
      id: id(),
      name: 'The whole lesson',
      fileSha256: 'a'.repeat(64),
      type: 'video/webm',
      bytes: 1000,
      durationMs: 60_000,
      widthPx: 1280,
      heightPx: 720,
      chapters: [{ stepId: pick(lesson.steps).id, fromMs: 0, toMs: 20_000 }],
      strokes: [{ stepId: pick(lesson.steps).id, atMs: 5000 }],
    },
  }),
  editFilmFile: ({ lesson, pick, random }) => ({
    id: pick(lesson.film?.films ?? []).id,
    film: { chapters: [{ stepId: pick(lesson.steps).id, fromMs: 0, toMs: 1000 + Math.floor(random() * 50_000) }] },
  }),
  takeHeard: ({ id, lesson, pick }) => {
    const stage = { id: id(), name: 'heard' };
    const mix = { id: id(), name: 'heard mix', recipe: [{ tubeId: pick(lesson.tubes).id, parts: 1 }] };
    const step = testStep(id(), { areaIds: [pick(lesson.areas).id], mixIds: [mix.id] });
    return { stage, steps: [step], mixes: [mix] };
  },
  removeFilm: ({ lesson, pick }) => ({ id: pick(lesson.film?.films ?? []).id }),
  takeLearnt: ({ random, pick }) => ({
    learnt: {
      ...{ key: pick(['drying technique glaze', 'pace technique block-in', 'pace level beginner', 'help', 'paint']) },
      ...{ factor: 0.7 + random(), from: 0.6, to: 1.9, observations: 12, classes: 3, on: '2026-11-02' },
    },
  }),
  dropLearnt: ({ lesson, pick }) => ({ key: lesson.learnt?.length ? pick(lesson.learnt).key : 'help' }),
  setTarget: ({ random }) => ({ minutes: random() < 0.3 ? null : 30 + Math.floor(random() * 200) }),
  setAside: ({ random }) => ({ finding: `rule/${Math.floor(random() * 3)}`, why: random() < 0.3 ? null : 'they know' }),
};

/** A seeded source of everything that arguments are drawn from. */
export function drawing(seed: number): Omit<Draw, 'lesson'> {
  let state = seed;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  return {
    random,
    pick: (list) => list[Math.floor(random() * list.length)] as never,
    id: () => `n${Math.floor(random() * 1e9)}`,
  };
}

/** A document as text, whatever the order in which its fields were set. */
export const sortedText = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    inner && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );

const aLine = (random: () => number): [number, number][] => [
  [random() * 200, random() * 200],
  [random() * 200, random() * 200],
];
