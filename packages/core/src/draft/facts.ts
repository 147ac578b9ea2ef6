import type { Area, Lab, Lesson, Mix } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { outlineLength } from '../area/index.js';
import { type Brush, brushes } from '../brush/index.js';
import { GESSO, isSubject, looksOf, visibleOf } from '../derived/index.js';

/** What a draft needs to know of an area. */
export type AreaFacts = {
  area: Area;
  /** Its place from back (0) to front, among those that are seen. */
  depth: number;
  areaCm2: number;
  share: number;
  /** Its mean width in mm: of a long strip the width of the strip. */
  widthMm: number;
  isSubject: boolean;
  /** Whether most of its neighbours meet it softly. */
  isSoft: boolean;
  /** Its mixes from dark to light, each with its lightness. */
  mixes: { mix: Mix; lightness: number; lab: Lab | null }[];
};

/** The areas that are seen, back to front, each with the mixes that belong to it; and the mixes kept for the ground. */
export function areaFacts(lesson: Lesson): { areas: AreaFacts[]; ground: Mix | null } {
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
  const canvasCm2 = (lesson.support.widthMm * lesson.support.heightMm) / 100;
  const seen = lesson.areas.filter((area) => (parts.get(area.id)?.areaCm2 ?? 0) > 0);
  const ground = groundMix(lesson);
  const owners = ownersOf(lesson, seen, ground);
  const looks = looksOf(lesson);
  const toned = (mix: Mix) => {
    const lab = looks.get(mix.id)?.colour?.lab ?? mix.targetLab ?? null;
    return { mix, lab, lightness: lab?.[0] ?? 50 };
  };
  const areas = seen.map((area, depth): AreaFacts => {
    const part = parts.get(area.id) as { outline: Area['outline']; areaCm2: number };
    const edges = area.edges ?? [];
    const mixes = lesson.mixes
      .filter((mix) => owners.get(mix.id) === area.id || mix.alsoAreaIds?.includes(area.id))
      .map(toned)
      .sort((a, b) => a.lightness - b.lightness);
    if (mixes.length === 0) mixes.push(...borrowed(area, lesson.mixes).map(toned));
    return {
      area,
      depth,
      areaCm2: part.areaCm2,
      share: part.areaCm2 / canvasCm2,
      widthMm: (200 * part.areaCm2) / Math.max(1, outlineLength(part.outline)),
      isSubject: isSubject(lesson, area),
      isSoft: edges.length > 0 && edges.filter((edge) => edge.kind !== 'hard').length * 2 >= edges.length,
      mixes,
    };
  });
  return { areas, ground };
}

/** What a draft is painted on: the ground it tones itself, the one that lies there already, or bare gesso. */
export function draftGround(lesson: Lesson): Lab {
  const laid = lesson.support.groundCoats[0]?.mixId;
  const mixId = laid ?? groundMix(lesson)?.id;
  return looksOf(lesson).get(mixId ?? '')?.colour?.lab ?? GESSO;
}

/** The mix for a toned ground: one that says so, or one that belongs to no area and lies in the middle of the scale. */
function groundMix(lesson: Lesson): Mix | null {
  if (lesson.school.ground === 'white' || lesson.mixes.length === 0) return null;
  const named = lesson.mixes.find((mix) => /ground|tone|imprimatura|grund|ton/i.test(mix.name));
  if (named) return named;
  const looks = looksOf(lesson);
  const off = (mix: Mix) => Math.abs((looks.get(mix.id)?.colour?.lab[0] ?? mix.targetLab?.[0] ?? 50) - 60);
  const free = lesson.mixes.filter((mix) => mix.areaId === undefined);
  const choice = free.length > 1 ? free : lesson.mixes;
  return choice.reduce((best, mix) => (off(mix) < off(best) ? mix : best));
}

/** Which area each mix is for: the one it was taken from, otherwise the one whose colour it comes nearest to, otherwise turn by turn. */
function ownersOf(lesson: Lesson, seen: readonly Area[], ground: Mix | null): Map<string, string> {
  const owners = new Map<string, string>();
  if (seen.length === 0) return owners;
  const looks = looksOf(lesson);
  let turn = 0;
  for (const mix of lesson.mixes) {
    // A ground made for itself belongs to no area; one that is an area's own colour stays with it too.
    if (mix === ground && mix.areaId === undefined && lesson.mixes.length > 1) continue;
    const own = seen.find((area) => area.id === mix.areaId) ?? named(seen, mix);
    if (own) {
      owners.set(mix.id, own.id);
      continue;
    }
    const lab = mix.targetLab ?? looks.get(mix.id)?.colour?.lab;
    const aims = seen.flatMap((area) => (area.targetLab && lab ? [{ area, off: deltaE00(area.targetLab, lab) }] : []));
    const nearest = aims.sort((a, b) => a.off - b.off)[0]?.area ?? (seen[turn++ % seen.length] as Area);
    owners.set(mix.id, nearest.id);
  }
  return owners;
}

/** For an area that no mix is for: the one nearest to its colour, or with a word in common, or from the middle of the list. */
function borrowed(area: Area, mixes: readonly Mix[]): Mix[] {
  const { targetLab } = area;
  const near = targetLab
    ? mixes
        .flatMap((mix) => (mix.targetLab ? [{ mix, off: deltaE00(targetLab, mix.targetLab) }] : []))
        .sort((a, b) => a.off - b.off)[0]?.mix
    : undefined;
  const alike = mixes.find((mix) => shareWord(mix.name, area.name));
  const found = near ?? alike ?? mixes[Math.floor(mixes.length / 2)];
  return found ? [found] : [];
}

const wordsOf = (name: string) =>
  name
    .toLowerCase()
    .split(/[^\p{L}]+/u)
    .map((word) => word.replace(/(e?s)$/, ''))
    .filter((word) => word.length > 2);
const shareWord = (one: string, other: string) => wordsOf(one).some((word) => wordsOf(other).includes(word));

/** An area that a mix is named after: "near ridge" for "near ridge", "sky" for "high sky". */
function named(seen: readonly Area[], mix: Mix): Area | undefined {
  const name = mix.name.toLowerCase();
  return (
    seen.find((area) => area.name.toLowerCase() === name) ??
    [...seen].sort((a, b) => b.name.length - a.name.length).find((area) => name.includes(area.name.toLowerCase())) ??
    seen.find((area) => shareWord(area.name, name))
  );
}

/** The largest brush of some types that fits a width; the smallest of them where none does. */
export function brushFor(widthMm: number, types: readonly Brush['type'][]): Brush {
  const fitting = brushes.filter((brush) => types.includes(brush.type)).sort((a, b) => b.widthMm - a.widthMm);
  return fitting.find((brush) => brush.widthMm <= widthMm) ?? (fitting.at(-1) as Brush);
}
