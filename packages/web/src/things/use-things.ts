import { type Area, type AreaRole, limits, type Mark, type Surface } from '@viaticum/contract';
import type { ToldLines } from '@viaticum/core/lesson-from-picture';
import { guessByName, namesOfThings, type ToldThing } from '@viaticum/core/picture';
import type { ProposedThing, ThingMark } from '@viaticum/kernels/things';
import { useMemo, useState } from 'react';
import { thingWords as w } from '../words/things.js';
import type { Marked } from '../workers/picture-jobs.js';

/** A thing as it is told: its name (as far as it has one), what it is, what it is made of, and which of the first proposal it was. */
export type Telling = { name: string; role: AreaRole; surface: Surface | null; hint: number | null; isRoleChosen: boolean };
/** A thing of lines as it is told: points in mm of the canvas; `id` names the mark that it is already. */
export type Lining = { id?: string; name: string; along: Share[][]; widthMm: number; taper: number };
export type MarkTool = 'stroke' | 'ring' | 'line';
type Share = readonly [number, number];
type State = {
  things: readonly Telling[];
  marks: readonly ThingMark[];
  lines: readonly Lining[];
  chosen: number | null;
  /** The thing of lines that is drawn on. */
  chosenLine: number | null;
};

const roleOfKind: Record<ProposedThing['kind'], AreaRole> = {
  sky: 'sky',
  water: 'water',
  ground: 'ground',
  background: 'background',
  subject: 'subject',
};
const surfaceOfKind: Partial<Record<ProposedThing['kind'], Surface>> = { water: 'ripples' };

const MOST_THINGS = 24;
const MOST_LINES = 20;
/** How wide a line is to begin with, and how it ends: most are hairs. */
const LINE_MM = 1.2;
export const THINNING = 0.7;

/** What a first proposal is called and what it may be, to begin with. */
export const tellingsOf = (proposed: readonly ProposedThing[]): Telling[] =>
  proposed.map(({ kind }, i) => ({
    name: '',
    role: roleOfKind[kind],
    surface: surfaceOfKind[kind] ?? null,
    hint: i,
    isRoleChosen: false,
  }));

/** Areas that stand already, as things to be put right. */
export const tellingsOfAreas = (areas: readonly Area[]): Telling[] =>
  areas.map(({ name, role, surface }, i) => ({
    name,
    role: role ?? 'made',
    surface: surface ?? null,
    hint: i,
    isRoleChosen: role !== undefined,
  }));

/** Lines that are drawn already, to be gone on with. */
export const liningsOf = (marks: readonly Mark[]): Lining[] =>
  marks.flatMap(({ id, name, along, widthMm, taper }) => (along ? [{ id, name, along, widthMm, taper }] : []));

const noLines: readonly Lining[] = [];
/**
 * Things told apart by marks, and things of lines: what was said of them so far, each act to be taken back. `start` and `drawn` stay the same
 * while nothing else is begun.
 */
export function useThings(start: readonly Telling[], drawn: readonly Lining[] = noLines) {
  const first = useMemo(
    (): State => ({ things: start, marks: [], lines: drawn, chosen: null, chosenLine: null }),
    [start, drawn],
  );
  // What was said of another crop is forgotten.
  const [told, setTold] = useState<{ of: State; now: State; past: readonly State[] }>({ of: first, now: first, past: [] });
  const { now: state, past } = told.of === first ? told : { now: first, past: [] };
  const change = (next: Partial<State>, isKept = true) =>
    setTold({ of: first, now: { ...state, ...next }, past: isKept ? [...past, state] : past });
  const changeThing = (at: number, next: Partial<Telling>) =>
    change({ things: state.things.map((one, i) => (i === at ? { ...one, ...next } : one)) }, false);
  const changeLine = (at: number, next: Partial<Lining>, isKept = false) =>
    change({ lines: state.lines.map((one, i) => (i === at ? { ...one, ...next } : one)) }, isKept);
  const called = [
    ...state.things.map(({ name, role }) => ({ name, called: w.roles[role] })),
    ...state.lines.map(({ name }) => ({ name, called: w.line.called })),
  ];
  const allNames = namesOfThings(called);
  const names = allNames.slice(0, state.things.length);
  const lineNames = allNames.slice(state.things.length);
  const marked: Marked | null =
    state.things.length > 1
      ? { marks: [...state.marks], things: state.things.length, hints: state.things.map(({ hint }) => hint) }
      : null;
  return {
    ...state,
    names,
    lineNames,
    marked,
    isTouched: past.length > 0,
    told: state.things.map(
      ({ role, surface }, i): ToldThing => ({ name: names[i] as string, role, ...(surface ? { surface } : {}) }),
    ),
    toldLines: state.lines.map(
      ({ along, ...line }, i): ToldLines => ({
        ...line,
        along: along.map((points) => points.map(([x, y]): [number, number] => [x, y])),
        name: lineNames[i] as string,
      }),
    ),
    /** A line of the chosen thing of lines, or of a new one; in mm, no more points than a line may have. */
    addLine(points: readonly Share[]) {
      const line = thinned(points, limits.linePoints).map(([x, y]): Share => [tenth(x), tenth(y)]);
      if (line.length < 2) return;
      const own = state.chosenLine === null ? undefined : state.lines[state.chosenLine];
      if (own) {
        if (own.along.length < limits.along) changeLine(state.chosenLine as number, { along: [...own.along, line] }, true);
        return;
      }
      if (state.lines.length >= MOST_LINES) return;
      const fresh: Lining = { name: '', along: [line], widthMm: LINE_MM, taper: THINNING };
      change({ lines: [...state.lines, fresh], chosen: null, chosenLine: state.lines.length });
    },
    chooseLine: (at: number | null) => change({ chosenLine: at, chosen: null }, false),
    changeLine,
    removeLine: (at: number) => change({ lines: state.lines.filter((_, i) => i !== at), chosenLine: null }),
    /** A mark of the chosen thing, or of a new one. */
    add(kind: ThingMark['kind'], points: readonly Share[]) {
      const thing = state.chosen ?? state.things.length;
      if (thing >= MOST_THINGS) return;
      const marks = [...state.marks, { thing, kind, points }];
      if (state.chosen !== null) return change({ marks });
      const role: AreaRole =
        kind === 'ring' ? 'feature' : state.things.some((one) => one.role === 'subject') ? 'made' : 'subject';
      const fresh: Telling = { name: '', role, surface: null, hint: null, isRoleChosen: false };
      change({ marks, things: [...state.things, fresh], chosen: thing });
    },
    takeBack() {
      const before = past.at(-1);
      if (!before) return;
      // Names that were typed since stay.
      const isSame = before.things.length <= state.things.length;
      const things = before.things.map((one, i) => (isSame ? { ...one, ...state.things[i], hint: one.hint } : one));
      const lines = before.lines.map((one, i) => ({ ...one, name: state.lines[i]?.name ?? one.name }));
      setTold({ of: first, now: { ...before, things, lines }, past: past.slice(0, -1) });
    },
    choose: (chosen: number | null) => change({ chosen, chosenLine: null }, false),
    /** A name says what a thing is, as long as nobody said otherwise. */
    rename(at: number, name: string) {
      const guess = guessByName(name);
      const own = state.things[at];
      const isFree = own && !own.isRoleChosen;
      changeThing(at, {
        name,
        ...(isFree && guess.role ? { role: guess.role } : {}),
        ...(isFree && guess.surface ? { surface: guess.surface } : {}),
      });
    },
    setRole: (at: number, role: AreaRole) => changeThing(at, { role, isRoleChosen: true }),
    setSurface: (at: number, surface: Surface | null) => changeThing(at, { surface, isRoleChosen: true }),
    /** Takes a thing away: its places go to the others. */
    remove(at: number) {
      const marks = state.marks.flatMap((mark) =>
        mark.thing === at ? [] : [{ ...mark, thing: mark.thing > at ? mark.thing - 1 : mark.thing }],
      );
      change({ marks, things: state.things.filter((_, i) => i !== at), chosen: null });
    },
  };
}
export type Things = ReturnType<typeof useThings>;

const tenth = (mm: number): number => Math.round(mm * 10) / 10;
/** At most so many of some points, evenly taken, both ends kept. */
function thinned(points: readonly Share[], most: number): Share[] {
  if (points.length <= most) return [...points];
  return Array.from({ length: most }, (_, i) => points[Math.round((i * (points.length - 1)) / (most - 1))] as Share);
}
