import type { Lesson, Mix, Step, Technique } from '@viaticum/contract';
import { type Coat, composition, density, films, markFilmUm, wetFilm } from '../coat/index.js';
import {
  areasWorkedOn,
  coverOf,
  extentsOf,
  isOnlyMarks,
  laysPaint,
  loadFactor,
  markAreaCm2,
  marksOf,
  memo,
  mixesOn,
  toolOf,
} from '../derived/index.js';

/** One laying of a mix: where it goes, how thick, and what it takes from the tubes. */
export type Laying = {
  /** Null for a coat of the ground. */
  step: Step | null;
  mixId: string;
  technique: Technique;
  what: 'area' | 'marks';
  cm2: number;
  /** Film of tube paint for one coat, and what the weave takes besides (µm = ml/m²). */
  um: number;
  toothUm: number;
  coats: number;
  ml: number;
};

/** What the bare support's weave or fibre takes up of the first coat, µm (judged). */
const toothUm = { canvas: 10, paper: 5, board: 3 } as const;
/** A coat over less than this of a place leaves its weave to the next. */
const FILLS_FROM = 0.5;
const ON_EDGE_MM = 0.5;

type Laid = { technique: Technique; step: Step | null; mix: Mix | undefined; mark?: { wetUm: number } };

/** Tube paint in one film, µm (ml a square metre): water, retarder and medium are taken out. */
function tubePaintUm({ technique, step, mix, mark }: Laid): number {
  const water = step?.waterShareOfMix ?? mix?.waterShareOfMix;
  const base = mark?.wetUm ?? films[technique].wetUm;
  const coat: Coat = {
    technique,
    wetUm: base * loadFactor[step?.load ?? 'normal'],
    ...(water !== undefined && { waterShareOfMix: water }),
    ...(step?.medium === 'retarder' && { retarder: true }),
    ...(step?.medium === 'gel' && { gel: true }),
    ...(step?.paint && step.paint !== 'ordinary' && { paint: step.paint }),
  };
  const um = wetFilm(coat).solids / (composition.ordinary.solids * density.wetGPerUm);
  return technique === 'glaze' ? um / (1 + (mix?.mediumParts ?? 0)) : um;
}

/** Length of an outline along the canvas's edges, mm: there paint goes round the side. */
function alongEdgesMm(outline: readonly (readonly (readonly [number, number])[])[][], widthMm: number, heightMm: number): number {
  const on = (at: number, edge: number) => Math.abs(at - edge) < ON_EDGE_MM;
  let length = 0;
  for (const polygon of outline)
    for (const ring of polygon)
      ring.forEach(([x, y], i) => {
        const [nextX, nextY] = ring[(i + 1) % ring.length] as readonly [number, number];
        const isOn =
          (on(x, 0) && on(nextX, 0)) ||
          (on(x, widthMm) && on(nextX, widthMm)) ||
          (on(y, 0) && on(nextY, 0)) ||
          (on(y, heightMm) && on(nextY, heightMm));
        if (isOn) length += Math.hypot(nextX - x, nextY - y);
      });
  return length;
}

/** Painted cm² of each area, with what runs under its neighbours and round the canvas's sides. */
function paintedCm2(lesson: Lesson): Map<string, number> {
  const { widthMm, heightMm, wrapMm = 0 } = lesson.support;
  return new Map(
    extentsOf(lesson).map(({ id, areaCm2, seen }) => [
      id,
      areaCm2 + (wrapMm > 0 ? (alongEdgesMm(seen, widthMm, heightMm) * wrapMm) / 100 : 0),
    ]),
  );
}

/** The whole canvas in cm²: with its sides, without a margin under tape. */
function canvasCm2({ support: { widthMm, heightMm, marginMm = 0, wrapMm = 0 } }: Lesson): number {
  const [width, height] = [Math.max(0, widthMm - 2 * marginMm), Math.max(0, heightMm - 2 * marginMm)];
  return (width * height + (marginMm > 0 ? 0 : 2 * (widthMm + heightMm) * wrapMm)) / 100;
}

/**
 * Every laying of paint in a lesson for one painter, in the order of its steps: painted extent × (film × coats + weave). Several mixes of
 * one step share a place evenly; those of a passage lie where they have their place. Before any loss, so that their sum is area × film.
 * Films are those of the drying model, weave and shares are judged.
 */
export const layingsOf: (lesson: Lesson) => readonly Laying[] = memo(layings, 3);

function layings(lesson: Lesson): Laying[] {
  const extents = paintedCm2(lesson);
  const whole = canvasCm2(lesson);
  const weave = toothUm[lesson.support.kind];
  const mixes = new Map(lesson.mixes.map((mix) => [mix.id, mix]));
  const filled = new Set<string>();
  const fill = (ids: Iterable<string>) => {
    for (const id of ids) filled.add(id);
  };
  const all = lesson.areas.map((area) => area.id);
  const out: Laying[] = [];
  const lay = (laid: Laid & { mixId: string; what: Laying['what'] }, cm2: number, coats: number, tooth: number): void => {
    if (!(cm2 > 0)) return;
    const um = tubePaintUm(laid);
    const { step, mixId, technique, what } = laid;
    out.push({ step, mixId, technique, what, cm2, um, toothUm: tooth, coats, ml: (cm2 * (um * coats + tooth)) / 10_000 });
  };
  lesson.support.groundCoats.forEach(({ mixId, technique }, k) => {
    lay({ step: null, mixId, technique, mix: mixes.get(mixId), what: 'area' }, whole, 1, k === 0 ? weave : 0);
  });
  const bare = (id: string) => !filled.has(id) && lesson.support.groundCoats.length === 0;
  let isWholeFilled = lesson.support.groundCoats.length > 0;
  for (const step of lesson.steps) {
    if (!laysPaint(step) || step.mixIds.length === 0) continue;
    const technique = step.technique as Technique;
    const cover = isOnlyMarks(step) ? 0 : coverOf(lesson, step);
    const coats = step.repeat?.expected ?? 1;
    const fills = cover >= FILLS_FROM;
    if (step.wholeCanvas) {
      for (const mixId of step.mixIds)
        lay(
          { step, mixId, technique, mix: mixes.get(mixId), what: 'area' },
          (whole * cover) / step.mixIds.length,
          coats,
          fills && !isWholeFilled ? weave : 0,
        );
      if (fills) isWholeFilled = true;
      if (fills) fill(all);
    } else if (cover > 0) {
      const byMix = new Map<string, { cm2: number; bareCm2: number }>();
      for (const id of areasWorkedOn(lesson, step)) {
        const here = mixesOn(lesson, step, id);
        const cm2 = ((extents.get(id) ?? 0) * cover) / here.length;
        for (const mixId of here) {
          const own = byMix.get(mixId) ?? { cm2: 0, bareCm2: 0 };
          byMix.set(mixId, {
            cm2: own.cm2 + cm2,
            bareCm2: own.bareCm2 + (fills && bare(id) && !isWholeFilled ? cm2 : 0),
          });
        }
      }
      for (const [mixId, { cm2, bareCm2 }] of byMix)
        lay({ step, mixId, technique, mix: mixes.get(mixId), what: 'area' }, cm2, coats, cm2 > 0 ? (weave * bareCm2) / cm2 : 0);
      if (fills) fill(areasWorkedOn(lesson, step));
    }
    for (const mark of marksOf(lesson, step)) {
      const wetUm = Math.min(films[technique].wetUm, markFilmUm(mark.kind, mark.widthMm, toolOf(mark)));
      for (const mixId of step.mixIds)
        lay(
          { step, mixId, technique, mix: mixes.get(mixId), what: 'marks', mark: { wetUm } },
          markAreaCm2(mark) / step.mixIds.length,
          mark.coats ?? coats,
          0,
        );
    }
  }
  return out;
}
