import type { Area, Lesson, Mix, Step, Tube } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import equal from 'fast-deep-equal';
import { amountInWords, shortTubeName } from '../mix/index.js';
import { sizeInWords } from '../units/index.js';

/** What differs of one part, said: “near ridge: 1 part burnt umber more”. */
export type Difference = { field: keyof Lesson; id: string | null; said: string };

type Named = { id: string };
const by = <T extends Named>(list: readonly T[]) => new Map(list.map((one) => [one.id, one]));

/** Fields of which it is only said that they changed. */
const plain: Partial<Record<keyof Lesson, string>> = worded({
  language: 'language',
  school: 'way of working',
  method: 'way of drafting',
  references: 'pictures',
  light: 'light',
  things: 'things in the picture',
  subjectAreaId: 'what the picture is about',
  overlapMm: 'how far paint runs past an edge',
  marks: 'marks',
  handed: 'painting hand',
  drawing: 'drawing',
  finish: 'finish of the paint',
  heapsOn: 'what heaps lie on',
  stages: 'stages',
  passages: 'wet passages',
  leftOut: 'steps left out',
  stopTest: 'stop test',
  planning: 'plan',
  samples: 'canvases prepared ahead',
  variants: 'variants',
  learnt: 'what was learnt from classes',
  kit: 'kit',
  film: 'film',
  setAside: 'findings set aside',
});
const words = ['say', 'watch', 'checkpoint', 'finish'] as const;

/** Positions that stay in order: all others were moved. Patience sorting; the longest increasing run. */
function unmoved(positions: readonly number[]): Set<number> {
  const tails: number[] = [];
  const before: number[] = [];
  positions.forEach((value, at) => {
    let low = 0;
    while (low < tails.length && (positions[tails[low] as number] as number) < value) low += 1;
    before[at] = low > 0 ? (tails[low - 1] as number) : -1;
    tails[low] = at;
  });
  const kept = new Set<number>();
  for (let at = tails.at(-1) ?? -1; at >= 0; at = before[at] as number) kept.add(at);
  return kept;
}

const minutes = (value: number | undefined) => (value === undefined ? say('minutes by themselves') : say`${value} min`);

/** “1 part burnt umber more”, “without white”. */
function recipeDifferences(before: Mix, after: Mix, tubeName: (id: string) => string): string[] {
  const [was, is] = [before, after].map(({ recipe }) => new Map(recipe.map(({ tubeId, parts }) => [tubeId, parts])));
  const said: string[] = [];
  for (const id of new Set([...(is?.keys() ?? []), ...(was?.keys() ?? [])])) {
    const [a, b] = [was?.get(id), is?.get(id)];
    const name = tubeName(id);
    if (a === b) continue;
    if (b === undefined) said.push(say`without ${name}`);
    else if (a === undefined)
      said.push(typeof b === 'number' ? say`${b} ${name} with it` : say`${amountInWords(b)} of ${name} with it`);
    else if (typeof a === 'number' && typeof b === 'number')
      said.push(
        `${Math.abs(b - a)} ${Math.abs(b - a) === 1 ? say('part') : say('parts')} ${name} ${b > a ? say('more') : say('less')}`,
      );
    else said.push(say`${amountInWords(b)} of ${name}, was ${amountInWords(a)}`);
  }
  return said;
}

/**
 * What a lesson has become since an earlier version, in words that its author would use; in the order of the stations. Empty where both
 * are the same. Pure.
 */
export function differences(before: Lesson, after: Lesson): Difference[] {
  const found: Difference[] = [];
  const tell = (field: keyof Lesson, said: string, id: string | null = null) => found.push({ field, id, said });

  if (before.title !== after.title) tell('title', say`called “${after.title}”, was “${before.title}”`);
  const size = ({ support: { widthMm, heightMm }, units }: Lesson) => sizeInWords(widthMm, heightMm, units);
  if (!equal(before.support, after.support))
    tell('support', size(before) === size(after) ? say('another canvas') : say`canvas of ${size(after)}, was ${size(before)}`);
  if (before.level !== after.level)
    tell('level', say`for ${after.level}s, was for ${before.level}s`.replaceAll('experienceds', 'the experienced'));
  if (before.wantedMin !== after.wantedMin)
    tell('wantedMin', say`${minutes(after.wantedMin)} wanted, was ${minutes(before.wantedMin)}`);
  if (before.targetMin !== after.targetMin)
    tell('targetMin', after.targetMin === undefined ? say('no aim for its minutes') : say`an aim of ${after.targetMin} min`);
  if (!equal(before.room, after.room)) tell('room', say('room: other air or things in it'));
  if (before.units !== after.units) tell('units', after.units === 'in' ? say('in inches') : say('in centimetres'));

  /** Those that came, went, or are not what they were. */
  const each = <T extends Named>(
    field: keyof Lesson,
    [was, is]: [readonly T[], readonly T[]],
    nameOf: (one: T) => string,
    changed: (a: T, b: T) => string[],
  ) => {
    const [old, now] = [by(was), by(is)];
    for (const one of is) {
      const former = old.get(one.id);
      if (!former) tell(field, say`${nameOf(one)} is new`, one.id);
      else if (!equal(former, one)) {
        const said = changed(former, one);
        tell(field, `${nameOf(one)}: ${said.length > 0 ? said.join(', ') : say('changed')}`, one.id);
      }
    }
    for (const one of was) if (!now.has(one.id)) tell(field, say`${nameOf(one)} is gone`, one.id);
  };
  const called = (a: { name: string }, b: { name: string }) => (a.name === b.name ? [] : [say`was called ${a.name}`]);

  each<Area>(
    'areas',
    [before.areas, after.areas],
    ({ name }) => say`area ${name}`,
    (a, b) => [...called(a, b), ...(equal(a.outline, b.outline) ? [] : [say('another outline')])],
  );
  each<Tube>('tubes', [before.tubes, after.tubes], shortTubeName, (a, b) => [
    ...(a.priceMinor === b.priceMinor ? [] : [say('another price')]),
    ...(a.sizeMl === b.sizeMl ? [] : [say('another size')]),
    ...(a.grade === b.grade ? [] : [say`${b.grade} grade`]),
  ]);
  const tubes = by([...before.tubes, ...after.tubes]);
  const tubeName = (id: string) => {
    const tube = tubes.get(id);
    return tube ? shortTubeName(tube) : (after.mixes.find((mix) => mix.id === id)?.name ?? say('a tube'));
  };
  each<Mix>(
    'mixes',
    [before.mixes, after.mixes],
    ({ name }) => name,
    (a, b) => [
      ...called(a, b),
      ...recipeDifferences(a, b, tubeName),
      ...(equal(a.targetLab, b.targetLab) ? [] : [say('another target')]),
    ],
  );
  const place = new Map(after.steps.map(({ id }, at) => [id, at + 1]));
  const names = by([...before.mixes, ...after.mixes]);
  const mixNames = ({ mixIds }: Step) => mixIds.map((id) => names.get(id)?.name ?? say('a mix')).join(', ') || say('no mix');
  each<Step>(
    'steps',
    [before.steps, after.steps],
    ({ id, title }) => (place.has(id) ? say`step ${place.get(id)} “${title}”` : say`step “${title}”`),
    (a, b) => [
      ...(a.title === b.title ? [] : [say`was called “${a.title}”`]),
      ...(a.doMin === b.doMin ? [] : [say`${minutes(b.doMin)} to do, was ${minutes(a.doMin)}`]),
      ...(a.showMin === b.showMin ? [] : [say`${minutes(b.showMin)} to show, was ${minutes(a.showMin)}`]),
      ...(equal(a.mixIds, b.mixIds) ? [] : [say`with ${mixNames(b)}, was ${mixNames(a)}`]),
      ...(a.brushId === b.brushId ? [] : [say('another brush')]),
      ...(a.technique === b.technique ? [] : [say('another technique')]),
      ...(equal(a.areaIds, b.areaIds) ? [] : [say('on other areas')]),
      ...(words.every((one) => a[one] === b[one]) ? [] : [say('other words')]),
    ],
  );
  const was = new Map(before.steps.map(({ id }, at) => [id, at]));
  const stood = after.steps.filter(({ id }) => was.has(id));
  const still = unmoved(stood.map(({ id }) => was.get(id) as number));
  stood.forEach((step, at) => {
    if (still.has(at)) return;
    const next = stood.slice(at + 1).find((_, k) => still.has(at + 1 + k));
    const where = next ? say`before “${next.title}”` : say('at the end');
    tell(
      'steps',
      say`step ${place.get(step.id)} “${step.title}” stands ${where}, was number ${(was.get(step.id) as number) + 1}`,
      step.id,
    );
  });

  for (const [field, said] of Object.entries(plain) as [keyof Lesson, string][])
    if (!equal(before[field], after[field])) tell(field, say`${said} changed`);
  return found;
}
