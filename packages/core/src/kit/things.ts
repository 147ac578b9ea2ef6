import type { Bringer, Lesson, Shelf } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { type Brush, brushInMetric, brushInWords } from '../brush/index.js';
import { brushPlan } from '../brush-plan/index.js';
import { colourOf, laysPaint, marksOf, toolOf } from '../derived/index.js';
import { layingsOf } from '../heap/index.js';
import type { LessonPlan } from '../plan/index.js';
import { GESSO_L, LEAST_CONTRAST, lineLightness, momentsOf, papers, tileSheets } from '../transfer/index.js';
import { counted, sizeInWords, volumeInWords } from '../units/index.js';
import { type Group, type GroupPart, groupOf, groupParts, supportsOf } from './parts.js';

/** Something besides paint that the lesson needs: how many for the group, and for each of them where it is each one's own. */
export type KitThing = {
  key: string;
  name: string;
  shelf: Shelf;
  count: number;
  perHead: number | null;
  note?: string;
  extraId?: string;
};

const supportWords: Record<Lesson['support']['kind'], string> = worded({
  canvas: 'canvas|canvas',
  board: 'canvas|board',
  paper: 'canvas|paper',
});

/** A brush in the kit. */
export type KitBrush = {
  brush: Brush;
  name: string;
  metric: string;
  /** Each painter's, and the group's with the sharing as it is. */
  perHead: number;
  count: number;
  isShared: boolean;
  /** Why two may not share it; null where they may. */
  mayNot: string | null;
  /** Minutes that sharing by two adds to the class. */
  extraMin: number;
  substitutes: string[];
  stepIds: string[];
  /** The variants whose painters alone need it; empty where all do. */
  onlyFor: string[];
};

/** Brushes each painter holds, which may be shared by two, and what that costs in minutes. */
export function kitBrushes(lesson: Lesson, plan: LessonPlan): { brushes: KitBrush[]; washes: number; waterChanges: number } {
  const parts = groupParts(lesson).filter(({ heads, teaching }) => heads + teaching > 0);
  const found = parts.map((part) => partBrushes(part, part.plan ?? plan));
  const byId = new Map<string, KitBrush>();
  parts.forEach(({ variant }, k) => {
    for (const one of found[k]?.brushes ?? []) {
      const there = byId.get(one.brush.id);
      const { widthMm, heightMm } = lesson.support;
      const name = variant?.name ?? sizeInWords(widthMm, heightMm, lesson.units);
      byId.set(
        one.brush.id,
        there
          ? {
              ...there,
              count: there.count + one.count,
              perHead: Math.max(there.perHead, one.perHead),
              isShared: there.isShared && one.isShared,
              mayNot: there.mayNot ?? one.mayNot,
              extraMin: Math.max(there.extraMin, one.extraMin),
              stepIds: [...new Set([...there.stepIds, ...one.stepIds])],
              onlyFor: [...there.onlyFor, name],
            }
          : { ...one, onlyFor: [name] },
      );
    }
  });
  return {
    brushes: [...byId.values()].map((one) => (one.onlyFor.length === parts.length ? { ...one, onlyFor: [] } : one)),
    washes: Math.max(0, ...found.map(({ washes }) => washes)),
    waterChanges: Math.max(0, ...found.map(({ waterChanges }) => waterChanges)),
  };
}

function partBrushes({ lesson, heads, teaching }: GroupPart, plan: LessonPlan): ReturnType<typeof kitBrushes> {
  const planned = brushPlan(lesson, plan);
  const shared = new Set(lesson.kit?.sharedBrushes ?? []);
  const byId = new Map<string, typeof planned.brushes>();
  for (const one of planned.brushes) byId.set(one.brush.id, [...(byId.get(one.brush.id) ?? []), one]);
  const brushes = [...byId.values()].map((chains): KitBrush => {
    const [first] = chains as [(typeof planned.brushes)[number]];
    const { brush } = first;
    const stepIds = [...new Set(chains.flatMap(({ uses }) => uses.map(({ stepId }) => stepId)))];
    const steps = lesson.steps.filter(({ id }) => stepIds.includes(id));
    const tied = steps.find(
      (step) =>
        step.technique === 'blend' ||
        step.passageId !== undefined ||
        step.needs === 'wet' ||
        step.needs === 'damp' ||
        step.medium === 'retarder' ||
        step.medium === 'mist',
    );
    const perHead = chains.length;
    const isShared = shared.has(brush.id) && !tied;
    return {
      brush,
      name: brushInWords(brush),
      metric: brushInMetric(brush),
      perHead,
      count: (isShared ? Math.ceil(heads / 2) * perHead : heads * perHead) + teaching * perHead,
      isShared,
      mayNot: tied ? say`“${tied.title}” is worked while it is wet` : null,
      extraMin: tied ? 0 : sharedMinutes(plan, stepIds),
      substitutes: first.substitutes.map((one) => brushInWords(one)),
      stepIds,
      onlyFor: [],
    };
  });
  return { brushes, washes: planned.washes, waterChanges: planned.freshWater.length };
}

/** What the second of two who share a brush waits: as long as the first paints, less the pause that follows. */
function sharedMinutes({ plan }: LessonPlan, stepIds: readonly string[]): number {
  let sum = 0;
  plan.items.forEach((item, k) => {
    if (!item.stepId || !stepIds.includes(item.stepId)) return;
    const doMin = item.endMin - item.startMin - item.showMin;
    const next = plan.items[k + 1];
    const slack = next && next.kind !== 'step' ? next.endMin - next.startMin : 0;
    sum += Math.max(0, doMin - slack);
  });
  return Math.round(sum);
}

/** Litres of water in one painter's two pots, half full; filled, changed, and once more at the end. */
const POTS_L = 0.6;
/** More painters than this at a sink: a bucket goes round. */
const HEADS_A_SINK = 6;
const DRAWINGS_A_SHEET = 8;
/** Seconds at the pot for a wash; common practice, no published source. */
export const WASH_S = 25;
const DRY_TECHNIQUES = new Set(['dry-brush', 'scumble']);
const TAPE_A_DRAWING_MM = 4 * 40;
const PRINT_MARGIN_MM = 8;
const OVERLAP_MM = 10;

/** One at each corner of a sheet (common practice, no published source). */
const CLIPS = 4;

/** Everything besides paint and brushes, in the order of a shop's shelves. Numbers are common practice and judged. */
export function kitThings(lesson: Lesson, plan: LessonPlan, sinks = 1): KitThing[] {
  const group = groupOf(lesson);
  const { heads, teaching, tableOf } = group;
  const painters = heads + teaching;
  const tables = Math.ceil(heads / tableOf);
  const { washes, waterChanges } = kitBrushes(lesson, plan);
  const things: KitThing[] = [];
  const add = (key: string, name: string, shelf: Shelf, count: number, perHead: number | null, note?: string) => {
    if (count > 0) things.push({ key, name, shelf, count: Math.ceil(count), perHead, ...(note && { note }) });
  };
  mediums(lesson, group, add);
  const parts = groupParts(lesson);
  const sizes = new Map<string, number>();
  for (const part of parts) {
    const { kind, widthMm, heightMm } = part.lesson.support;
    const name = `${supportWords[kind]} ${sizeInWords(widthMm, heightMm, lesson.units)}`;
    sizes.set(name, (sizes.get(name) ?? 0) + supportsOf(part));
  }
  for (const [k, [name, count]] of [...sizes].entries())
    add(
      k === 0 ? 'support' : `support ${name}`,
      name,
      'supports',
      count,
      1,
      say`${sizes.size > 1 ? say('one of the sizes each; ') : ''}one in ten to spare`,
    );
  add('easel', say('tabletop easel'), 'supports', painters, 1);
  if (lesson.support.kind === 'paper') {
    add('under-board', say('stiff board under the paper'), 'supports', painters, 1);
    add('clips', say('clips that hold the paper'), 'sundries', painters * CLIPS, CLIPS);
  }
  drawingThings(lesson, group, parts, add);
  const wipes = lesson.steps.filter((step) => step.technique && DRY_TECHNIQUES.has(step.technique)).length;
  const towels = Math.ceil(2 + washes / 2 + wipes);
  add('towels', say('sheets of kitchen towel'), 'sundries', painters * towels, towels);
  if (lesson.support.marginMm) {
    const metres = parts.map((part) => (2 * (part.lesson.support.widthMm + part.lesson.support.heightMm) * 1.05) / 1000);
    const all = parts.reduce((sum, part, k) => sum + (part.heads + part.teaching) * (metres[k] as number), 0);
    add('margin-tape', say('masking tape for the margin, m'), 'paper', all, Math.ceil(Math.max(...metres)));
  }
  add('apron', 'apron', 'sundries', painters, 1);
  add('pots', say('water pots of 0.3 l'), 'sundries', painters * 2, 2);
  add('palette', 'palette', 'sundries', painters, 1);
  add('palette-knife', say('palette knife'), 'sundries', painters, 1);
  const litres = painters * POTS_L * (2 + waterChanges);
  add(
    'water',
    say('litres of water'),
    'sundries',
    litres,
    null,
    say`${counted(waterChanges, 'change')} in class, and one at the end`,
  );
  if (heads > sinks * HEADS_A_SINK)
    add('bucket', say('buckets, fresh and used'), 'sundries', 2, null, say`${heads} at ${counted(sinks, 'sink')} wait too long`);
  tools(lesson, group, tables, add);
  for (const { id, name, shelf, count, per } of lesson.kit?.extras ?? [])
    things.push({
      key: `extra ${id}`,
      extraId: id,
      name,
      shelf,
      count: per === 'head' ? count * heads : count,
      perHead: per === 'head' ? count : null,
    });
  return things;
}

type Add = (key: string, name: string, shelf: Shelf, count: number, perHead: number | null, note?: string) => void;

/** Glazes take medium by the lesson's parts; retarder goes into a tenth of the paint. */
const RETARDER_SHARE = 0.1;
function mediums(lesson: Lesson, { heads, teaching, tableOf }: Group, add: Add): void {
  const used = new Set(lesson.steps.flatMap((step) => step.medium ?? []));
  const glazes = lesson.steps.some((step) => step.technique === 'glaze');
  const painters = heads + teaching;
  if (glazes || used.has('glazing-medium'))
    add(
      'glazing-medium',
      say`glazing medium, ${volumeInWords(50)}`,
      'mediums',
      Math.ceil(painters / 4),
      null,
      say('a bottle for four'),
    );
  if (used.has('gel'))
    add('gel', say`clear gel, ${volumeInWords(50)}`, 'mediums', Math.ceil(painters / 4), null, say('a pot for four'));
  if (used.has('retarder')) {
    const laid = layingsOf(lesson).reduce((sum, { step, ml }) => (step?.medium === 'retarder' ? sum + ml : sum), 0);
    add(
      'retarder',
      say`retarder, ${volumeInWords(50)}`,
      'mediums',
      Math.max(1, Math.ceil((painters * laid * RETARDER_SHARE) / 50)),
      null,
      say('a tenth of the paint'),
    );
  }
  if (used.has('mist')) add('mist', say('mist bottle'), 'mediums', Math.ceil(heads / tableOf) + 1, null, say('one a table'));
  if (lesson.school.varnish !== 'none')
    add(
      'varnish',
      say`varnish, ${lesson.school.varnish}`,
      'mediums',
      1,
      null,
      say('after it has cured; see the record of the last step'),
    );
}

function drawingThings(lesson: Lesson, { heads, teaching }: Group, parts: readonly GroupPart[], add: Add): void {
  const painters = heads + teaching;
  const { drawing, transferMedium } = lesson.school;
  const moments = momentsOf(lesson).length;
  if (moments === 0 || drawing === 'none') return;
  if (drawing === 'tracing') {
    const ahead = lesson.steps.filter((step) => step.kind === 'transfer').every((step) => step.ahead);
    const sets = ahead ? 1 : Math.ceil(painters / 2);
    const each = parts.map(
      (part) => tileSheets(part.lesson.support, { ...papers.A4, marginMm: PRINT_MARGIN_MM }, OVERLAP_MM).sheets.length,
    );
    const all = parts.reduce((sum, part, k) => sum + (part.heads + part.teaching) * (each[k] as number), 0);
    const [least, most] = [Math.min(...each), Math.max(...each)];
    const note = least === most ? counted(most, 'sheet') : say`${least} to ${counted(most, 'sheet')}`;
    add('prints', say('sheets A4 with the drawing'), 'paper', all, most, say`${note} each, at true size`);
    add(
      'drawing-tape',
      say('masking tape for the drawing, m'),
      'paper',
      Math.ceil((painters * moments * TAPE_A_DRAWING_MM) / 1000),
      null,
    );
    if (transferMedium === 'transfer-paper' || transferMedium === 'light-paper') {
      const isDark = transferMedium === 'transfer-paper' && groundL(lesson) >= lineLightness['transfer-paper'] + LEAST_CONTRAST;
      const name = isDark ? say('dark transfer paper') : say('light transfer paper');
      const note = isDark ? undefined : say('dark lines would not show on this ground');
      add(
        'transfer-paper',
        name,
        'paper',
        Math.ceil((sets * moments) / (ahead ? DRAWINGS_A_SHEET : 1)),
        null,
        note ?? say('two share a sheet'),
      );
    }
  }
  if (transferMedium === 'graphite' || drawing === 'direct' || drawing === 'grid')
    add('graphite', say('soft graphite stick'), 'paper', painters, 1);
  if (transferMedium === 'chalk' || Math.abs(groundL(lesson) - lineLightness.graphite) < LEAST_CONTRAST)
    add('chalk', say('white chalk'), 'paper', painters, 1);
  if (transferMedium === 'charcoal') add('charcoal', say('stick of charcoal'), 'paper', painters, 1);
}
/** How light the ground is on which is drawn. */
function groundL(lesson: Lesson): number {
  const first = lesson.steps.find((step) => step.wholeCanvas && laysPaint(step));
  const coat = lesson.support.groundCoats.at(-1);
  return (first && colourOf(lesson, first)?.[0]) ?? (coat && colourOf(lesson, { mixIds: [coat.mixId] })?.[0]) ?? GESSO_L;
}

const toolNames = worded({
  sponge: ['natural sponge', 'a piece each'],
  knife: ['painting knife', ''],
  flick: ['old toothbrush', 'to flick with'],
  handle: ['brush handle or cotton bud', 'for dots'],
} as const);
function tools(lesson: Lesson, { heads, teaching }: Group, tables: number, add: Add): void {
  const painters = heads + teaching;
  const used = new Set(lesson.steps.flatMap((step) => marksOf(lesson, step).map(toolOf)));
  for (const [tool, [name, note]] of Object.entries(toolNames))
    if (used.has(tool as keyof typeof toolNames)) add(tool, name, 'sundries', painters, 1, note || undefined);
  const kinds = new Set(lesson.drawing.constructions.map(({ kind }) => kind));
  if (kinds.size > 0) add('ruler', say('ruler of 30 cm'), 'sundries', painters, 1);
  if (kinds.has('motif')) add('card', say('stiff card for the unit'), 'paper', painters, 1);
  if (kinds.has('radial') || kinds.has('motif') || kinds.has('ellipse'))
    add('compass', say('string with a pin, or a pair of compasses'), 'sundries', painters, 1);
  if (lesson.steps.some((step) => step.dryer))
    add('dryer', say('hair dryer'), 'sundries', Math.max(1, lesson.room.dryers?.count ?? tables), null);
  const isFine = lesson.steps.some((step) => step.brushId?.startsWith('rigger') || step.brushId === 'round-0');
  if (isFine) add('bridge', say('bridge to rest the hand on'), 'sundries', tables, null, say('one a table'));
}

/** Who brings a thing, as the lesson says or by its rule. */
const STUDENTS_OWN = new Set(['apron', 'towels', 'palette', 'palette-knife', 'easel']);
const ALWAYS_STUDIO = new Set([
  'water',
  'bucket',
  'dryer',
  'bridge',
  'prints',
  'drawing-tape',
  'transfer-paper',
  'varnish',
  'mist',
]);
export function bringerOf(lesson: Lesson, key: string): Bringer {
  const said = lesson.kit?.who?.find(({ what }) => what === key)?.by;
  if (said) return said;
  const rule = lesson.kit?.by ?? 'studio';
  if (rule === 'studio' || ALWAYS_STUDIO.has(key)) return 'studio';
  if (rule === 'students') return 'student';
  return key.startsWith('brush ') || STUDENTS_OWN.has(key) ? 'student' : 'studio';
}
