import type { Lesson, Mix, Step, StepPass, Surface } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { coatsToHide, schoolOn } from '../derived/index.js';
import { isWhite } from '../mix/index.js';
import { surfacePass, surfaces } from '../surface/index.js';
import { type AreaFacts, brushFor, draftGround } from './facts.js';
import { detailRules, plainBelow } from './rules/detail.js';
import { layersRules } from './rules/layers.js';
import { valuesRules } from './rules/values.js';

/** One coat of an area as a school lays it. */
export type Coat = Pick<Step, 'mixIds' | 'needs'> &
  Partial<Pick<Step, 'medium' | 'coverShare' | 'partByPart' | 'pass'>> & {
    technique: NonNullable<Step['technique']>;
    why: string;
    isLater: boolean;
    /** The same paint once more over the first coat. */
    isAgain?: true;
  };
export type AreaCoats = { facts: AreaFacts; coats: Coat[]; lights: Coat | null };

/** A passage of at least this share of the canvas is blended, where it has two values. */
const BLEND_SHARE = 0.1;
const LIGHT = 78;
/** What lies on more of an area than this is no light but its colour. */
const MOST_LIGHTS = 0.45;
const MOST_BLENDED = 3;
const SHAPE_SHARE = 0.12;

/**
 * The coats of one area by the school's values and layers; its lightest lights kept for the end where the school says so. Paint that
 * does not cover the ground in one coat is laid again.
 */
export function coatsOf(
  lesson: Lesson,
  facts: AreaFacts,
  all: readonly AreaFacts[],
  shares: readonly { mixId: string; share: number }[] = [],
  isGradual = facts.share >= BLEND_SHARE,
): AreaCoats {
  const found = valueCoats(lesson, facts, all, shares, isGradual);
  const [base, ...rest] = found.coats;
  if (base?.technique !== 'block-in' || isTooSmall(lesson, facts)) return found;
  const needed = Math.min(
    lesson.method?.coats ?? MOST_COATS,
    MOST_COATS,
    coatsToHide(lesson, base.mixIds[0] ?? '', base, schoolOn(lesson, facts.area.id).detail, draftGround(lesson)),
  );
  const again = Array.from({ length: needed - 1 }, (): Coat => ({ ...base, why: NOT_COVERING(), isLater: true, isAgain: true }));
  return { ...found, coats: [base, ...again, ...rest] };
}

/** So small that one coat has to do, unless it is what one looks at. */
const isTooSmall = ({ method, level }: Lesson, { area, share, isSubject }: AreaFacts): boolean =>
  !area.feature && !(isSubject && area.role !== undefined) && share < (method?.plainBelowShare ?? plainBelow[level]);

const MOST_COATS = 3;
const NOT_COVERING = () => say('One coat of it does not cover: the ground would show through.');

function valueCoats(
  lesson: Lesson,
  facts: AreaFacts,
  all: readonly AreaFacts[],
  shares: readonly { mixId: string; share: number }[],
  isGradual: boolean,
): AreaCoats {
  const school = schoolOn(lesson, facts.area.id);
  const values = valuesRules[school.values];
  const { reason } = layersRules[school.layers];
  const detail = detailRules[school.detail];
  const shareOf = new Map(shares.map((one) => [one.mixId, one.share]));
  const cover = (mixIds: readonly string[], otherwise: number): number => {
    const known = mixIds.flatMap((id) => shareOf.get(id) ?? []);
    if (known.length === 0) return otherwise;
    const sum = known.reduce((total, share) => total + share, 0);
    return Math.min(0.95, Math.max(0.05, Math.round(sum * 105) / 100));
  };
  // What the ground is toned in already needs no coat.
  const grounds = lesson.support.groundCoats.map((coat) => coat.mixId);
  if (facts.mixes.length > 0 && facts.mixes.every(({ mix }) => grounds.includes(mix.id)))
    return { facts, coats: [], lights: null };
  const mixes = [...facts.mixes];
  const { method } = lesson;
  const isPlain = isTooSmall(lesson, facts);
  const lightest = Math.max(...all.flatMap((one) => one.mixes.map((mix) => mix.lightness)));
  const top = mixes.at(-1);
  const hasLights =
    values.lightsLast &&
    mixes.length > 1 &&
    top !== undefined &&
    (shareOf.get(top.mix.id) ?? 0) < MOST_LIGHTS &&
    (top.lightness >= LIGHT || (facts.isSubject && top.lightness === lightest));
  if (hasLights) mixes.pop();
  // Glazes darken: lights are set again on top of them, but for the background.
  const isRelit = school.layers === 'glazes' && facts.depth > 0 && mixes.length > 1 && top !== undefined;
  const lights: Coat | null =
    (hasLights || isRelit) && top
      ? {
          technique: 'loaded',
          mixIds: [top.mix.id],
          needs: 'auto',
          coverShare: cover([top.mix.id], 0.1),
          why: values.reason,
          isLater: true,
        }
      : null;
  const laid = values.sequence(mixes);
  // Transparent darks first: no white in the paint before all is covered.
  const ordered =
    school.values === 'transparent-darks' ? [...laid].sort((a, b) => whiteIn(lesson, a.mix) - whiteIn(lesson, b.mix)) : laid;
  const sequence = massFirst(
    ordered.map((one) => one.mix.id),
    school.values === 'transparent-darks' ? new Map() : shareOf,
  );
  if (isPlain || sequence.length < 2) {
    const only: Coat = { technique: 'block-in', mixIds: sequence, needs: 'auto', why: values.reason, isLater: false };
    return { facts, coats: [only], lights };
  }
  const { surface } = facts.area;
  if (surface && sequence.length > 1) return { facts, coats: overSurface(lesson, facts, surface, shareOf), lights: null };
  if (facts.area.role === 'feature' && sequence.length > 1)
    return { facts, coats: [{ technique: 'block-in', mixIds: sequence, needs: 'auto', why: FEATURE(), isLater: false }], lights };
  // Where the picture was looked at it says what the inside is like; otherwise soft borders tell of it.
  const isBlend = isGradual || (facts.isSoft && shares.length === 0);
  if (school.layers === 'glazes' && !facts.area.feature) return { facts, coats: glazed(facts, sequence, isBlend), lights };
  // Where the picture was looked at, all values that pass into each other are blended at once.
  // In a thing that was told they are its shapes, side by side.
  const isTold = facts.area.role !== undefined;
  const most = isTold ? mostInBase[lesson.level] : shareOf.size > 0 ? MOST_BLENDED : 2;
  const taken = isBlend || isTold ? Math.min(most, sequence.length) : 1;
  const base: Coat = {
    technique: isBlend ? 'blend' : 'block-in',
    mixIds: sequence.slice(0, taken),
    needs: 'auto',
    why: isBlend ? say('Soft passages must be made while both colours are wet.') : values.reason,
    isLater: false,
  };
  const rest = sequence.slice(taken);
  const coats = [base];
  // More mixes than coats: those that are left share the last one.
  const mostLater = Math.max(1, (method?.coats ?? detail.coats) - 1);
  if (method?.coats === 1) {
    const one: Coat = { ...base, mixIds: sequence };
    return { facts, coats: [one], lights };
  }
  for (let k = 0; k < Math.min(mostLater, rest.length); k++) {
    const ids = k === mostLater - 1 ? rest.slice(k) : [rest[k] as string];
    const coverShare = cover(ids, method?.laterShare ?? detail.share);
    coats.push({
      ...laterCoat(school, coverShare, shareOf.size > 0),
      ...(method?.laterTechnique ? { technique: method.laterTechnique } : {}),
      mixIds: ids,
      coverShare,
      why: method?.laterTechnique ? OWN_METHOD() : reason,
      isLater: true,
    });
  }
  if (layersRules[school.layers].later.needs === 'wet' && coats.length > 1) base.medium = 'retarder';
  return { facts, coats, lights };
}

/** So many values at once a hand can keep wet over a surface (our judgement). */
const mostInBase: Record<Lesson['level'], number> = { beginner: 3, improver: 4, experienced: 5 };
/** A pass covers about so much of its surface. */
const PASS_COVER: Record<StepPass, number> = { darks: 0.3, middles: 0.4, lights: 0.2 };
/** A surface is laid in its large values, blended, then gone over: its darks, its own colour, its lights. */
function overSurface(
  { school, level }: Lesson,
  { mixes }: AreaFacts,
  surface: Surface,
  shareOf: ReadonlyMap<string, number>,
): Coat[] {
  const ids = mixes.map(({ mix }) => mix.id);
  // The values that take most of it; the others come with the strokes over them.
  const most = new Set([...ids].sort((a, b) => (shareOf.get(b) ?? 0) - (shareOf.get(a) ?? 0)).slice(0, mostInBase[level]));
  const half = Math.ceil(ids.length / 2);
  const of: Record<StepPass, string[]> = { darks: ids.slice(0, half), middles: ids, lights: ids.slice(-half) };
  const base: Coat = {
    technique: surfaces[surface].base.technique ?? 'blend',
    mixIds: ids.filter((id) => most.has(id)),
    needs: 'auto',
    why: say('Its large values first: what lies over them is only as good as they are.'),
    isLater: false,
  };
  const over = surfaces[surface].passes.map(
    ({ pass, technique }): Coat => ({
      technique,
      pass,
      mixIds: of[pass],
      needs: school.layers === 'one-wet-session' ? 'damp' : 'auto',
      coverShare: PASS_COVER[pass],
      why: say('A surface is made by strokes that run as it does, darks before lights.'),
      isLater: true,
    }),
  );
  return [base, ...over];
}

/** 1 where a mix holds white. */
const whiteIn = (lesson: Lesson, mix: Mix): number =>
  mix.recipe.some((part) => lesson.tubes.some((tube) => tube.id === part.tubeId && isWhite(tube))) ? 1 : 0;

const SUBJECT_GLAZES = 2;
/** One opaque coat in all values of an area, then glazes over it when it is dry: two on the subject, one elsewhere. */
function glazed({ isSubject }: AreaFacts, sequence: readonly string[], isBlend: boolean): Coat[] {
  const { reason, later } = layersRules.glazes;
  const opaque: Coat = {
    technique: isBlend ? 'blend' : 'block-in',
    mixIds: [...sequence],
    needs: 'auto',
    why: reason,
    isLater: false,
  };
  const count = Math.min(isSubject ? SUBJECT_GLAZES : 1, sequence.length);
  const films = sequence.slice(0, count).map(
    (mixId): Coat => ({
      technique: later.technique,
      mixIds: [mixId],
      needs: 'auto',
      ...(later.medium === 'glazing-medium' ? { medium: later.medium } : {}),
      why: reason,
      isLater: true,
    }),
  );
  return [opaque, ...films];
}

const OWN_METHOD = () => say('Your own method.');
const MASS_SHARE = 0.25;
/** The first value that takes a good part of the area covers it; slivers of other values are cut in over it. */
function massFirst(sequence: string[], shareOf: ReadonlyMap<string, number>): string[] {
  if (shareOf.size === 0) return sequence;
  const most = Math.max(...sequence.map((id) => shareOf.get(id) ?? 0));
  const mass = sequence.find((id) => (shareOf.get(id) ?? 0) >= Math.min(MASS_SHARE, most));
  return mass ? [mass, ...sequence.filter((id) => id !== mass)] : sequence;
}

/** How a later coat is laid: by the school's layers; a value on a large part of an area is a shape of its own, not a veil over it. */
function laterCoat(
  school: Lesson['school'],
  coverShare: number,
  isKnown: boolean,
): Pick<Coat, 'technique' | 'needs' | 'partByPart' | 'medium'> {
  const { later } = layersRules[school.layers];
  const isShape = isKnown && school.layers === 'dry-layers' && coverShare >= SHAPE_SHARE;
  if (isShape) return { technique: 'block-in', needs: 'auto' };
  return {
    technique: later.technique,
    needs: later.needs === 'wet' ? 'wet' : 'auto',
    ...(later.partByPart ? { partByPart: true } : {}),
    ...(later.medium === 'glazing-medium' ? { medium: later.medium } : {}),
  };
}

const FEATURE = () => say('Small and looked at first: its shapes are set side by side, none of them blended.');
/** A feature is painted with a brush of so much of its width. */
const FEATURE_BRUSH = 0.22;
/** A round brush of such a width makes strokes of one. */
const STROKE_TO_BRUSH = 1.6;

/** Brushes step down: wide for the first coat, half as wide for what follows, a rigger or small round for lights. */
export function brushOfCoat(facts: AreaFacts, coat: Coat): string {
  const pass = surfacePass(facts.area.surface, coat.pass);
  if (pass) return brushFor(pass.widthMm * STROKE_TO_BRUSH, pass.brush).id;
  if (facts.area.feature) return brushFor(Math.max(2, facts.widthMm * FEATURE_BRUSH), ['round']).id;
  if (coat.technique === 'loaded') return brushFor(Math.max(1.6, facts.widthMm * 0.08), ['rigger', 'round']).id;
  if (coat.isLater && !coat.isAgain) return brushFor(facts.widthMm * 0.35, ['filbert', 'round']).id;
  return brushFor(facts.widthMm * 0.7, facts.widthMm > 25 ? ['flat'] : ['flat', 'filbert', 'round']).id;
}

/** A wet passage holds so many colours at once (common practice, no published source). */
const MOST_IN_PASSAGE = 5;
/**
 * Which mixes of its areas a passage takes: the mass of each, then further values as long as there is room; what has none is laid over
 * it as a later coat.
 */
export function inPassages(lesson: Lesson, group: readonly AreaFacts[], coats: Map<string, AreaCoats>): Map<string, string[]> {
  const taken = new Map<string, string[]>();
  const bases = group.map(({ area }) => coats.get(area.id)?.coats[0]?.mixIds ?? []);
  let room = Math.max(MOST_IN_PASSAGE, group.length) - bases.filter((ids) => ids.length > 0).length;
  group.forEach((facts, k) => {
    const ids = bases[k] ?? [];
    const own = [...ids.slice(0, 1), ...ids.slice(1, 1 + Math.max(0, room))];
    room -= Math.max(0, own.length - 1);
    taken.set(facts.area.id, own);
    const known = coats.get(facts.area.id);
    const left = ids.slice(own.length);
    const [base, ...later] = known?.coats ?? [];
    if (!known || !base || left.length === 0) return;
    const cover = 0.6 / (left.length + 1);
    const over = left.map(
      (mixId): Coat => ({
        ...laterCoat(schoolOn(lesson, facts.area.id), cover, true),
        mixIds: [mixId],
        coverShare: cover,
        why: say('It would be one colour too many in the wet: it is laid over it.'),
        isLater: true,
      }),
    );
    coats.set(facts.area.id, { ...known, coats: [{ ...base, mixIds: own }, ...over, ...later] });
  });
  return taken;
}
