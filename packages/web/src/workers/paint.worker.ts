import type { Lab, Lesson, RecipePart, Tube } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { filmOf, groundUnder, mixesWithin, paintsOf, substitutes } from '@viaticum/core/derived';
import { lookOtherwise } from '@viaticum/core/former';
import {
  gradient,
  mixedPaint,
  type Paint,
  paintOf,
  paletteSearch,
  recipeParts,
  shadowAndLight,
  stockOf,
  suggest,
  tableOf,
  tableTubeId,
  twoGreys,
  valueLadder,
  whatWouldReach,
} from '@viaticum/core/mix';
import type { RecipeTable } from '@viaticum/kernels/mixing';
import { pigmentTable } from '@viaticum/kernels/pigment';
import type { PaintJobs } from './paint-jobs.js';
import { breathe, runJob, serveJobs } from './serve-jobs.js';

/** The tubes from which a palette is chosen besides the lesson's: one of each kind that is common in studios. */
const USUAL = [
  'PW6',
  'PB29',
  'PB15:3',
  'PB28',
  'PG7',
  'PG17',
  'PY3',
  'PY74',
  'PY83',
  'PY42',
  'PR254',
  'PR101',
  'PR122',
  'PV19',
  'PV23',
  'PBr7-BU',
  'PBr7-BS',
  'PBr7-RU',
  'PBk9',
  'PO20',
];
const MOST = 20;

/** Tubes come by message and are other objects each time: the same ones are kept, so that a table of recipes is kept too. */
let kept: { key: string; lesson: Lesson } | null = null;
function known(lesson: Lesson): Lesson {
  const key = JSON.stringify([lesson.tubes, mixesWithin(lesson, (mix) => mix.letDown === true)]);
  if (kept?.key !== key) kept = { key, lesson };
  const { tubes } = kept.lesson;
  return { ...lesson, tubes };
}
const stocks = new Map<string, Paint[]>();
function stock(lesson: Lesson) {
  const { key } = kept as { key: string };
  const found = stocks.get(key);
  if (found) return found as ReturnType<typeof paintsOf>;
  const fresh = paintsOf(lesson);
  stocks.clear();
  stocks.set(key, fresh);
  return fresh;
}

/** A table that a cancelled job left half built: the next one that needs it goes on from there. */
let half: { paints: readonly Paint[]; finish: string; work: ReturnType<typeof tableOf> } | null = null;

async function table(id: number, paints: readonly Paint[], lesson: Lesson, upTo = 1): Promise<RecipeTable> {
  const { finish } = lesson;
  if (half?.paints !== paints || half.finish !== finish) half = { paints, finish, work: tableOf(paints, { finish }) };
  const done = await runJob(id, half.work, ({ share }) => share * upTo);
  half = null;
  return done;
}

const isStudio = (tube: Tube) => tube.own === undefined && tube.grade === 'artist';

/** The lesson's tubes, then the usual ones that it does not have, as tubes of artist grade. */
function choiceOf(lesson: Lesson, wide: boolean): Tube[] {
  const more = USUAL.filter((pigment) => !lesson.tubes.some((tube) => tube.pigment === pigment && isStudio(tube))).map(
    (pigment): Tube => ({
      id: tableTubeId(pigment),
      pigment,
      grade: 'artist',
    }),
  );
  return wide ? [...lesson.tubes, ...more].slice(0, MOST) : lesson.tubes;
}

const jobs: {
  [N in keyof PaintJobs]: (id: number, args: PaintJobs[N]['args']) => PaintJobs[N]['answer'] | Promise<PaintJobs[N]['answer']>;
} = {
  async suggest(id, { lesson: sent, mixId, quick }) {
    const lesson = known(sent);
    const mix = lesson.mixes.find((one) => one.id === mixId);
    if (!mix?.targetLab) return { found: [], isWhole: false };
    // A mix let down beforehand may be part of other mixes, not of itself.
    const paints = mix.letDown ? stock(lesson).filter((paint) => paint.id !== mix.id) : stock(lesson);
    const { dryUm } = filmOf(lesson, mixId);
    const options = {
      finish: lesson.finish,
      film: { dryUm },
      ground: groundUnder(lesson, mixId),
      state: mix.targetState ?? ('dry' as const),
    };
    // A tube that another mix uses is on the palette already.
    const open = new Set(lesson.mixes.flatMap((one) => (one.id === mixId ? [] : one.recipe.map((part) => part.tubeId))));
    const tubeIds = new Set(lesson.tubes.map((tube) => tube.id));
    const onPalette = paints.map((paint) => ({
      ...paint,
      isOpen: open.size === 0 || open.has(paint.id) || !tubeIds.has(paint.id),
    }));
    if (quick) {
      const whole = await runJob(id, tableOf(paints, { finish: options.finish, smalls: 0 }), ({ share }) => share);
      return { found: suggest(mix.targetLab, onPalette, whole, options), isWhole: true };
    }
    return { found: suggest(mix.targetLab, onPalette, await table(id, paints, lesson), options), isWhole: false };
  },
  async reach(id, { lesson: sent, target }) {
    const lesson = known(sent);
    const here = new Set(lesson.tubes.map((tube) => tube.pigment));
    const others = [...pigmentTable.values()].filter((pigment) => !here.has(pigment.id));
    const work = whatWouldReach(target, stock(lesson), others, lesson.finish);
    const found = await runJob(id, work, (share) => share);
    return found.map(({ id: pigment, deltaE, lab }) => ({ pigment, deltaE, lab }));
  },
  async palette(id, { lesson, tolerance, from, must, mustNot }) {
    const tubes = choiceOf(lesson, from === 'table').filter((tube) => !mustNot.includes(tube.id));
    const aims = lesson.mixes.filter((mix) => mix.targetLab);
    const work = paletteSearch(
      aims.map((mix) => mix.targetLab as Lab),
      tubes.map((tube) => ({ id: tube.id, ...spectra(tube) })),
      {
        tolerance,
        must: must.filter((one) => tubes.some((tube) => tube.id === one)),
        kinds: ['touch'],
        finish: lesson.finish,
      },
    );
    return { ...(await runJob(id, work, (share) => share)), targets: aims.map((mix) => mix.id) };
  },
  async recipes(id, { lesson, tubes }) {
    const changed = { ...lesson, tubes, mixes: [] };
    const paints = stockOf(changed);
    const all = await table(id, paints, changed, 0.9);
    const out: PaintJobs['recipes']['answer'] = [];
    for (const [i, mix] of lesson.mixes.entries()) {
      if (!mix.targetLab) continue;
      const options = {
        finish: lesson.finish,
        film: { dryUm: filmOf(lesson, mix.id).dryUm },
        ground: groundUnder(lesson, mix.id),
      };
      const [best] = suggest(mix.targetLab, paints, all, options);
      if (best) {
        const recipe = best.parts.map(({ id: tubeId, parts }): RecipePart => ({ tubeId, parts }));
        out.push({ id: mix.id, recipe, deltaE: best.deltaE });
      }
      await breathe(id, 0.9 + (0.1 * i) / lesson.mixes.length);
    }
    return out;
  },
  former: (_, { lesson }) => lookOtherwise(lesson),
  without: (id, { lesson, lacking }) => runJob(id, substitutes(known(lesson), lacking), (share) => share),
  family(_, { lesson, kind, mixId, otherId, steps, lightness }) {
    const { finish } = lesson;
    const paintOfMix = (wanted: string | null): Paint => {
      const mix = lesson.mixes.find((one) => one.id === wanted);
      const parts = mix && recipeParts(mix, lesson);
      if (!mix || !parts) throw new Error(say('This mix has no recipe yet. Give it one, then ask for its family.'));
      return mixedPaint(mix.id, parts);
    };
    const tubes = lesson.tubes.map((tube): Paint => ({ id: tube.id, ...spectra(tube) }));
    const white =
      tubes.find((_tube, i) => lesson.tubes[i]?.pigment === 'PW6') ??
      tubes.find((_tube, i) => lesson.tubes[i]?.pigment === 'PW4');
    if (kind !== 'gradient' && !white)
      throw new Error(say('A family is carried towards white, and there is none among the tubes. Add one.'));
    if (kind === 'gradient') return { members: gradient(paintOfMix(mixId), paintOfMix(otherId), steps, finish), parents: [] };
    if (kind === 'ladder') {
      const dark = otherId ? paintOfMix(otherId) : darkest(tubes);
      return { members: valueLadder(paintOfMix(mixId), white as Paint, dark, steps, finish), parents: [dark.id] };
    }
    if (kind === 'greys') {
      const { greys, parents } = twoGreys(tubes, white as Paint, lightness, finish);
      return { members: greys, parents };
    }
    const helpers = [
      white as Paint,
      darkest(tubes),
      ...tubes.filter((_tube, i) => ['PY42', 'PB29', 'PBr7-BU'].includes(lesson.tubes[i]?.pigment ?? '')),
    ];
    return { members: shadowAndLight(paintOfMix(mixId), [...new Set(helpers)], finish), parents: [] };
  },
};

const spectra = (tube: Tube) => {
  const { K, S, film } = paintOf(tube);
  return { K, S, film };
};

/** The paint that makes the darkest dark. */
function darkest(paints: readonly Paint[]): Paint {
  const power = (paint: Paint) =>
    Array.from(paint.K).reduce((least, K, i) => Math.min(least, K / (paint.S[i] as number)), Number.POSITIVE_INFINITY);
  return paints.reduce((best, one) => (power(one) > power(best) ? one : best));
}

serveJobs(jobs as never);
