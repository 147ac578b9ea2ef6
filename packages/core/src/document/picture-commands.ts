import {
  type Area,
  type AreaRole,
  type BodyForm,
  type Correction,
  commandErrors,
  type EdgeKind,
  type EdgeWish,
  type Lab,
  type Lesson,
  type Mark,
  type Outline,
  type OwnChoices,
  type Placement,
  type Reference,
  type Surface,
  type Thing,
} from '@viaticum/contract';
import { current } from 'immer';
import { canvasOutline, common, outlineArea, outlineFault, repaired, united, visibleParts, without } from '../area/index.js';
import { between, CommandError, type D, find, insert, move, named, setOrClear, take } from './command-tools.js';
import { droppedAreas } from './kept.js';
import { drawLinesAnew } from './marks.js';
import { letGo, letGoOfMissing } from './references.js';

function soundOutline(outline: Outline): Outline {
  const fault = outlineFault(outline);
  if (fault) throw new CommandError(commandErrors.impossible(fault));
  return outline;
}

/** What clipping or rounding left, made sound: points that fell together can let an edge touch another. */
const afterClipping = (outline: Outline): Outline => (outlineFault(outline) ? repaired(outline) : outline);

/** A drawn outline on the canvas: crossings are resolved, what lies outside is cut off. Refused where nothing is left. */
function drawnOutline(lesson: D, outline: Outline): Outline {
  if (outline.flat().every((ring) => new Set(ring.map(([x, y]) => `${x},${y}`)).size < 3)) return soundOutline(outline);
  const isCrossing = outlineFault(outline) !== null;
  const face = canvasOutline(lesson.support);
  const isInside = outline
    .flat(2)
    .every(([x, y]) => x >= 0 && y >= 0 && x <= lesson.support.widthMm && y <= lesson.support.heightMm);
  if (!isCrossing && isInside) return outline;
  const clean = common(isCrossing ? repaired(outline) : outline, face);
  if (outlineArea(clean) < 1) throw new CommandError(commandErrors.outlineEmpty);
  return soundOutline(clean);
}

/** Removes things that have no area left. */
const dropEmptyThings = (lesson: D): void => {
  const used = new Set(lesson.areas.map((area) => area.thingId));
  // A twin's areas are made after its object's: it may be without any for a while.
  const gone = lesson.things.filter((thing) => !used.has(thing.id) && !thing.twinOf);
  lesson.things = lesson.things.filter((thing) => !gone.includes(thing));
  for (const { id } of gone) letGo(lesson, 'things', id);
};

const mapped = (outline: Outline, change: (point: [number, number]) => [number, number]): Outline =>
  outline.map((polygon) => polygon.map((ring) => ring.map(change)));

/** Commands on references, areas, things and light. See `commands`. */
export const pictureCommands = {
  addReference: (lesson: D, { reference }: { reference: Reference }) => insert(lesson.references, reference, 'picture'),
  placeReference: (lesson: D, { id, placement }: { id: string; placement: Placement }) => {
    find(lesson.references, id, 'picture').placement = placement;
  },
  setPermission: (lesson: D, { id, permission }: { id: string; permission: Reference['permission'] }) => {
    find(lesson.references, id, 'picture').permission = permission;
  },
  setReferenceRole: (lesson: D, { id, role }: { id: string; role: Reference['role'] }) => {
    find(lesson.references, id, 'picture').role = role;
  },
  setTaken: (lesson: D, { id, taken }: { id: string; taken: NonNullable<Reference['taken']> }) => {
    find(lesson.references, id, 'picture').taken = taken;
  },
  setCorrection: (lesson: D, { id, correction }: { id: string; correction: Correction | null }) => {
    setOrClear<Reference, 'correction'>(find(lesson.references, id, 'picture'), 'correction', correction);
  },
  setExtended: (lesson: D, { id, extend }: { id: string; extend: boolean }) => {
    setOrClear<Reference, 'extend'>(find(lesson.references, id, 'picture'), 'extend', extend || null);
  },
  removeReference: (lesson: D, { id }: { id: string }) => {
    take(lesson.references, id, 'picture');
    letGo(lesson, 'references', id);
  },
  addArea: (lesson: D, { area, at }: { area: Area; at?: number }) => {
    insert(lesson.areas, { ...area, name: named(area.name, 'area'), outline: drawnOutline(lesson, area.outline) }, 'area', at);
  },
  /** Puts areas in the place of all there are. Steps keep the areas whose ids stay; of the others they get the heirs named. */
  replaceAreas: (
    lesson: D,
    { areas, heirs = {}, lines }: { areas: Area[]; heirs?: Record<string, string[]>; lines?: Mark[] },
  ) => {
    // What was dropped is hidden, not gone: it stays and can come back.
    const fresh = new Set(areas.map((area) => area.id));
    const hidden = droppedAreas(lesson).filter((area) => !fresh.has(area.id));
    const kept = new Set([...fresh, ...hidden.map((area) => area.id)]);
    if (fresh.size !== areas.length) throw new CommandError(commandErrors.areaTwice);
    const gone = lesson.areas.flatMap(({ id }) => (kept.has(id) ? [] : [id]));
    const sound = areas.map((area) => ({
      ...area,
      name: named(area.name, 'area'),
      outline: drawnOutline(lesson, area.outline),
    }));
    lesson.areas = [...sound, ...hidden];
    for (const id of gone) letGo(lesson, 'areas', id, heirs[id]);
    if (lines) drawLinesAnew(lesson, lines);
    dropEmptyThings(lesson);
    // They may still name what they lay beside before.
    letGoOfMissing(lesson);
  },
  renameArea: (lesson: D, { id, name }: { id: string; name: string }) => {
    find(lesson.areas, id, 'area').name = named(name, 'area');
  },
  setOutline: (lesson: D, { id, outline }: { id: string; outline: Outline }) => {
    find(lesson.areas, id, 'area').outline = soundOutline(outline);
  },
  moveArea: (lesson: D, { id, to }: { id: string; to: number }) => move(lesson.areas, id, to, 'area'),
  /**
   * One area out of two: what is seen of the one becomes part of the other, which stays at its depth. Sheets that lie between give way, so
   * that nothing else that is seen changes.
   */
  mergeAreas: (lesson: D, { id, into }: { id: string; into: string }) => {
    if (id === into) throw new CommandError(commandErrors.sameArea);
    const kept = find(lesson.areas, into, 'area');
    find(lesson.areas, id, 'area');
    const seen = visibleParts(current(lesson.areas) as Area[], lesson.support).find((part) => part.id === id)?.outline ?? [];
    take(lesson.areas, id, 'area');
    if (seen.length > 0) {
      const at = lesson.areas.findIndex((area) => area.id === into);
      for (const front of lesson.areas.slice(at + 1)) {
        if (outlineArea(common(front.outline, seen)) < 0.01) continue;
        const rest = afterClipping(without(front.outline, seen));
        // What lies wholly beneath the joined piece was not seen there anyway.
        if (rest.length > 0) front.outline = rest;
      }
      kept.outline = afterClipping(united(kept.outline, seen));
    }
    letGo(lesson, 'areas', id, [into]);
    dropEmptyThings(lesson);
  },
  /** Cuts an area along a line across it (mm): what lies to the line's right becomes an area of its own, in front of the rest. */
  splitArea: (
    lesson: D,
    { id, line, area }: { id: string; line: [[number, number], [number, number]]; area: { id: string; name: string } },
  ) => {
    const whole = find(lesson.areas, id, 'area');
    const [[x1, y1], [x2, y2]] = line;
    const length = Math.hypot(x2 - x1, y2 - y1);
    if (length < 1) throw new CommandError(commandErrors.cutTooShort);
    const far = 3 * (lesson.support.widthMm + lesson.support.heightMm);
    const [ux, uy] = [((x2 - x1) / length) * far, ((y2 - y1) / length) * far];
    const half: Outline = [
      [
        [
          [x1 - ux, y1 - uy],
          [x2 + ux, y2 + uy],
          [x2 + ux - uy, y2 + uy + ux],
          [x1 - ux - uy, y1 - uy + ux],
        ],
      ],
    ];
    const piece = afterClipping(common(whole.outline, half));
    const rest = afterClipping(without(whole.outline, half));
    if (outlineArea(piece) < 1 || outlineArea(rest) < 1) throw new CommandError(commandErrors.cutMissesArea);
    const at = lesson.areas.findIndex((one) => one.id === id);
    const fresh: Area = { id: area.id, name: named(area.name, 'area'), outline: piece };
    if (whole.thingId) fresh.thingId = whole.thingId;
    insert(lesson.areas, fresh, 'area', at + 1);
    for (const step of lesson.steps) if (step.areaIds.includes(id)) step.areaIds.push(area.id);
  },
  setAreaTarget: (lesson: D, { id, lab }: { id: string; lab: Lab | null }) => {
    setOrClear(find(lesson.areas, id, 'area'), 'targetLab', lab);
  },
  setEdge: (lesson: D, { id, with: other, kind }: { id: string; with: string; kind: EdgeKind | null }) => {
    const back = find(lesson.areas, other, 'area');
    const area = find(lesson.areas, id, 'area');
    for (const [one, name] of [
      [area, other],
      [back, id],
    ] as const)
      if (one.edges) one.edges = one.edges.filter((edge) => edge.with !== name);
    if (kind) area.edges = [...(area.edges ?? []), { with: other, kind }];
    else if (area.edges?.length === 0) delete area.edges;
  },
  /** What a border shall be on the canvas; null: as its kind says. */
  setWish: (lesson: D, { id, with: other, wish }: { id: string; with: string; wish: EdgeWish | null }) => {
    const area = find(lesson.areas, id, 'area');
    const back = find(lesson.areas, other, 'area');
    const known = [area.edges?.find((edge) => edge.with === other), back.edges?.find((edge) => edge.with === id)].filter(
      (edge) => edge !== undefined,
    );
    if (known.length === 0 && wish) {
      const edge = { with: other, kind: wish === 'clean' ? ('hard' as const) : ('soft' as const), wish };
      area.edges = [...(area.edges ?? []), edge];
    }
    for (const edge of known) setOrClear(edge, 'wish', wish);
  },
  /** What an area is in the picture; null: nothing is said. */
  setRole: (lesson: D, { id, role }: { id: string; role: AreaRole | null }) => {
    const area = find(lesson.areas, id, 'area');
    setOrClear(area, 'role', role);
    setOrClear(area, 'feature', role === 'feature' || null);
  },
  /** What an area is made of, where that asks for strokes of its own; null: nothing. */
  setSurface: (lesson: D, { id, surface }: { id: string; surface: Surface | null }) => {
    setOrClear(find(lesson.areas, id, 'area'), 'surface', surface);
  },
  /** What body an area is, on which light makes shapes; null: nothing is said. */
  setForm: (lesson: D, { id, form }: { id: string; form: BodyForm | null }) => {
    if (form?.axisDeg !== undefined) between(form.axisDeg, -180, 180, commandErrors.directionOutOfRange);
    setOrClear(find(lesson.areas, id, 'area') as Area, 'form', form);
  },
  /** How a surface runs, by some strokes over it; none: as the picture shows it. */
  setCombed: (lesson: D, { id, combed }: { id: string; combed: readonly (readonly [number, number][])[] }) => {
    const kept = combed.map((line) => line.map(([x, y]): [number, number] => [x, y]));
    setOrClear(find(lesson.areas, id, 'area') as Area, 'combed', kept.length > 0 ? kept : null);
  },
  /** How some areas are painted, where it differs from the lesson; null: as the lesson is. */
  setOwnWay: (lesson: D, { ids, ownWay }: { ids: readonly string[]; ownWay: OwnChoices | null }) => {
    const kept = ownWay && Object.keys(ownWay).length > 0 ? ownWay : null;
    for (const id of ids) setOrClear(find(lesson.areas, id, 'area'), 'ownWay', kept);
  },
  setDirection: (lesson: D, { id, deg }: { id: string; deg: number | null }) => {
    if (deg !== null) between(deg, -180, 180, commandErrors.directionOutOfRange);
    setOrClear(find(lesson.areas, id, 'area'), 'directionDeg', deg);
  },
  /** Nothing is painted in an area before a step; null: it is painted when it comes. */
  setKeepFree: (lesson: D, { id, untilStepId }: { id: string; untilStepId: string | null }) => {
    if (untilStepId !== null) find(lesson.steps, untilStepId, 'step');
    setOrClear(find(lesson.areas, id, 'area') as Area, 'keepFreeUntil', untilStepId);
  },
  /** Strokes of an area that run towards a point, or round one; null: they follow its direction. */
  setFlow: (lesson: D, { id, flow }: { id: string; flow: NonNullable<Area['flow']> | null }) => {
    setOrClear(find(lesson.areas, id, 'area') as Area, 'flow', flow);
  },
  removeArea: (lesson: D, { id }: { id: string }) => {
    take(lesson.areas, id, 'area');
    letGo(lesson, 'areas', id);
    dropEmptyThings(lesson);
  },
  setOverlap: (lesson: D, { mm }: { mm: number }) => {
    between(mm, 0, 60, commandErrors.overlapOutOfRange);
    lesson.overlapMm = mm;
  },
  setSubject: (lesson: D, { id }: { id: string | null }) => {
    if (id) find(lesson.areas, id, 'area');
    setOrClear<Lesson, 'subjectAreaId'>(lesson as Lesson, 'subjectAreaId', id);
  },
  setLight: (lesson: D, { light }: { light: NonNullable<Lesson['light']> | null }) => {
    if (light) {
      between(light.azimuthDeg, 0, 360, commandErrors.azimuthOutOfRange);
      between(light.elevationDeg, 0, 90, commandErrors.elevationOutOfRange);
    }
    setOrClear<Lesson, 'light'>(lesson as Lesson, 'light', light);
  },
  /** A thing made of areas that are in the lesson; areas of another thing come over to this one. */
  addThing: (lesson: D, { thing, areaIds }: { thing: Thing; areaIds: string[] }) => {
    if (areaIds.length === 0) throw new CommandError(commandErrors.thingWithoutArea);
    insert(lesson.things, { ...thing, name: named(thing.name, 'thing') }, 'thing');
    for (const id of areaIds) find(lesson.areas, id, 'area').thingId = thing.id;
    dropEmptyThings(lesson);
  },
  renameThing: (lesson: D, { id, name }: { id: string; name: string }) => {
    find(lesson.things, id, 'thing').name = named(name, 'thing');
  },
  /** Keeps a thing, or drops it: its areas stay in the lesson, hidden, so that it can come back. */
  setFate: (lesson: D, { id, fate }: { id: string; fate: 'kept' | 'dropped' }) => {
    const thing = find(lesson.things, id, 'thing');
    thing.fate = fate === 'kept' && thing.move ? 'moved' : fate;
  },
  setFacing: (lesson: D, { id, facing }: { id: string; facing: 'left' | 'right' | null }) => {
    setOrClear<Thing, 'facing'>(find(lesson.things, id, 'thing'), 'facing', facing);
  },
  /** Moves a thing by some mm and resizes it about its middle; its areas go along, the picture under them too. */
  moveThing: (lesson: D, { id, dxMm, dyMm, scale }: { id: string; dxMm: number; dyMm: number; scale: number }) => {
    const thing = find(lesson.things, id, 'thing');
    const old = thing.move ?? { dxMm: 0, dyMm: 0, scale: 1, aboutXMm: 0, aboutYMm: 0 };
    between(old.scale * scale, 0.05, 20, commandErrors.thingScaleOutOfRange);
    const own = lesson.areas.filter((area) => area.thingId === id);
    const points = own.flatMap((area) => area.outline.flat(2));
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const [cx, cy] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
    const round = (value: number) => Math.round(value * 100) / 100;
    for (const area of own)
      area.outline = afterClipping(
        mapped(area.outline, ([x, y]) => [round(cx + scale * (x - cx) + dxMm), round(cy + scale * (y - cy) + dyMm)]),
      );
    if (thing.fate === 'added' && !thing.fromReferenceId) return;
    // canvas = k·picture + t; kept as a shift about the origin.
    const k = old.scale * scale;
    const tx = old.aboutXMm * (1 - old.scale) + old.dxMm;
    const ty = old.aboutYMm * (1 - old.scale) + old.dyMm;
    thing.move = {
      dxMm: scale * tx + cx * (1 - scale) + dxMm,
      dyMm: scale * ty + cy * (1 - scale) + dyMm,
      scale: k,
      aboutXMm: 0,
      aboutYMm: 0,
    };
    if (thing.fate !== 'added') thing.fate = 'moved';
  },
  removeThing: (lesson: D, { id }: { id: string }) => {
    const thing = take(lesson.things, id, 'thing');
    if (thing.move && thing.fate !== 'added') throw new CommandError(commandErrors.thingWasMoved);
    letGo(lesson, 'things', id);
  },
};
