import type { Area, AreaRole, Surface } from '@viaticum/contract';
import { guessByName, namesOfThings, type ToldThing } from '@viaticum/core/picture';
import type { ProposedThing, ThingMark } from '@viaticum/kernels/things';
import { useMemo, useState } from 'react';
import { thingWords as w } from '../words/things.js';
import type { Marked } from '../workers/picture-jobs.js';

/** A thing as it is told: its name (as far as it has one), what it is, what it is made of, and which of the first proposal it was. */
export type Telling = { name: string; role: AreaRole; surface: Surface | null; hint: number | null; isRoleChosen: boolean };
export type MarkTool = 'stroke' | 'ring';
type State = { things: readonly Telling[]; marks: readonly ThingMark[]; chosen: number | null };
type Share = readonly [number, number];

const roleOfKind: Record<ProposedThing['kind'], AreaRole> = {
  sky: 'sky',
  water: 'water',
  ground: 'ground',
  background: 'background',
  subject: 'subject',
};
const surfaceOfKind: Partial<Record<ProposedThing['kind'], Surface>> = { water: 'ripples' };

const MOST_THINGS = 24;

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

/** Things told apart by marks: what was said of them so far, each act to be taken back. `start` stays the same while nothing else is begun. */
export function useThings(start: readonly Telling[]) {
  const first = useMemo((): State => ({ things: start, marks: [], chosen: null }), [start]);
  // What was said of another crop is forgotten.
  const [told, setTold] = useState<{ of: State; now: State; past: readonly State[] }>({ of: first, now: first, past: [] });
  const { now: state, past } = told.of === first ? told : { now: first, past: [] };
  const change = (next: Partial<State>, isKept = true) =>
    setTold({ of: first, now: { ...state, ...next }, past: isKept ? [...past, state] : past });
  const changeThing = (at: number, next: Partial<Telling>) =>
    change({ things: state.things.map((one, i) => (i === at ? { ...one, ...next } : one)) }, false);
  const called = state.things.map(({ name, role }) => ({ name, called: w.roles[role] }));
  const names = namesOfThings(called);
  const marked: Marked | null =
    state.things.length > 1
      ? { marks: [...state.marks], things: state.things.length, hints: state.things.map(({ hint }) => hint) }
      : null;
  return {
    ...state,
    names,
    marked,
    isTouched: past.length > 0,
    told: state.things.map(
      ({ role, surface }, i): ToldThing => ({ name: names[i] as string, role, ...(surface ? { surface } : {}) }),
    ),
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
      setTold({ of: first, now: { ...before, things }, past: past.slice(0, -1) });
    },
    choose: (chosen: number | null) => change({ chosen }, false),
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
