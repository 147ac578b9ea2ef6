import type { CameraPlace, FilmLight, Lesson, Step, TakeEdit, Voice } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { brushInMetric, brushOf } from '../../brush/index.js';
import { countWords, spokenSeconds } from '../../captions/index.js';
import { areasWorkedOn, laysPaint, looksOf } from '../../derived/index.js';
import type { LessonPlan } from '../../plan/index.js';
import { heapMinutes } from '../../step/index.js';
import { plainSay } from '../../text/index.js';
import { capital, counted, listInWords, uncapital } from '../../units/index.js';
import { type Piece, pieceOf } from '../kinds.js';
import { doing, LEAST_S } from './doing.js';
import { filmedLesson, filmPlan } from './film-plan.js';
import { saidIn, seenIn } from './see-and-say.js';

export type TakeKind = 'opening' | 'reference' | 'palette' | 'tool' | 'tracing' | 'canvas' | 'own' | 'close';

/** A take of a lesson that is filmed. Its slate counts in the order of the lesson, whatever the order of filming. */
export type Take = {
  id: string;
  slate: string;
  kind: TakeKind;
  title: string;
  place: CameraPlace;
  light: FilmLight;
  /** The steps that it shows; several where wet paint joins them, so that nothing may come between. */
  stepIds: string[];
  mixId?: string;
  /** The canvas as it must stand when the camera runs: after this step, or bare (null). */
  afterStepId: string | null;
  mustSee: string[];
  mustSay: string[];
  say: string;
  voice: Voice;
  voiceS: number;
  pieces: Piece[];
  /** Seconds that filming it takes once; as noted where it was filmed, as typed, or by the plan. */
  rawS: number;
  rawFrom: 'noted' | 'typed' | 'plan';
  /** What to mind: glare, a brush too small for a wide view. */
  notes: string[];
  isLeftOut: boolean;
};

export const filmDefaults = { fps: 25, wordsPerMinute: 140, bitRateMbps: 50, takesPerGood: 1.4 } as const;
export const placeNames: Readonly<Record<CameraPlace, string>> = worded({
  canvas: 'Canvas',
  palette: 'Palette',
  wide: 'Wide',
  hands: 'Hands, close',
});
const usualPlaces: Readonly<Record<TakeKind, CameraPlace>> = {
  opening: 'wide',
  reference: 'wide',
  palette: 'palette',
  tool: 'hands',
  tracing: 'hands',
  canvas: 'canvas',
  own: 'canvas',
  close: 'wide',
};

/** Seconds (our judgement): a tool or sheet turned in the hand, the canvas at rest, the stroke shown once, the least that a take runs. */
const SHOWN_S = 4;
const REST_S = 4;
/** Films wetter than this mirror a single lamp (our judgement). */
const SHINES_UM = 60;
/** Brushes finer than this are filmed close. */
const FINE_MM = 4;

/** Seconds of the good take of each slate, as they were noted while filming. */
export type Noted = ReadonlyMap<string, number>;
const nothingNoted: Noted = new Map();

type Draft = Omit<Take, 'slate' | 'light' | 'voice' | 'voiceS' | 'rawS' | 'rawFrom' | 'isLeftOut' | 'place'> & {
  place?: CameraPlace;
};

/** The takes that a lesson needs, in the order of the lesson. `noted` are seconds of takes that were filmed. */
export function takesOf(lesson: Lesson, noted: Noted = nothingNoted): Take[] {
  const plan = filmPlan(lesson);
  const film = lesson.film ?? {};
  const drafts = withOwn(lesson, [...before(lesson), ...byStep(lesson, plan), ...after(lesson)]);
  const edits = new Map((film.takeEdits ?? []).map((edit) => [edit.takeId, edit]));
  return drafts.map((draft, i) => {
    const edit: Partial<TakeEdit> = edits.get(draft.id) ?? {};
    const place = edit.place ?? draft.place ?? usualPlaces[draft.kind];
    const light = film.lights?.find((one) => one.place === place)?.light ?? 'lamp';
    const voice = edit.voice ?? (draft.say ? 'live' : 'none');
    const spokenS = spokenSeconds(countWords(draft.say), film.wordsPerMinute ?? filmDefaults.wordsPerMinute);
    const silent = draft.pieces.filter(({ kind }) => kind !== 'speech');
    const real = noted.get(draft.id) ?? edit.rawSec;
    const pieces = [
      ...(voice === 'live' && draft.say ? [pieceOf(`${draft.id}/speech`, draft.stepIds[0] ?? null, 'speech', spokenS)] : []),
      ...(real === undefined ? silent : scaled(silent, Math.max(1, real - (voice === 'live' ? spokenS : 0)))),
    ];
    return {
      ...draft,
      slate: `S${String(i + 1).padStart(3, '0')}`,
      place,
      light,
      voice,
      voiceS: voice === 'after' ? spokenS : 0,
      pieces,
      rawS: pieces.reduce((sum, { rawS }) => sum + rawS, 0),
      rawFrom: noted.has(draft.id) ? 'noted' : edit.rawSec === undefined ? 'plan' : 'typed',
      mustSee: edit.mustSee ? [edit.mustSee] : draft.mustSee,
      mustSay: edit.mustSay ? [edit.mustSay] : draft.mustSay,
      notes: [...draft.notes, ...glare(plan, draft, light)],
      isLeftOut: edit.leftOut ?? false,
    };
  });
}

/** Pieces of a take that took another time than planned: all but the canvas at rest give or take in proportion. */
function scaled(pieces: readonly Piece[], seconds: number): Piece[] {
  const rest = pieces.filter(({ kind }) => kind === 'result').reduce((sum, { rawS }) => sum + rawS, 0);
  const moving = pieces.reduce((sum, { rawS }) => sum + rawS, 0) - rest;
  if (moving <= 0) return pieces.map((one) => pieceOf(one.id, one.stepId, one.kind, seconds / pieces.length));
  const by = Math.max(0.05, (seconds - rest) / moving);
  return pieces.map((one) =>
    one.kind === 'result' ? one : pieceOf(one.id, one.stepId, one.kind, one.rawS * by, Math.min(one.lowS, one.rawS * by)),
  );
}

const still = (id: string, stepId: string | null, seconds = SHOWN_S): Piece => pieceOf(`${id}/result`, stepId, 'result', seconds);
const base = { mustSee: [], mustSay: [], say: '', notes: [], stepIds: [], afterStepId: null };

function before(lesson: Lesson): Draft[] {
  const last = lesson.steps.at(-1)?.id ?? null;
  const opening: Draft = {
    ...base,
    id: 'opening',
    kind: 'opening',
    title: say('Opening: the finished picture'),
    afterStepId: last,
    mustSee: [say('the finished picture, whole')],
    mustSay: [say`what is painted: ${uncapital(lesson.title)}`],
    pieces: [still('opening', null, REST_S)],
  };
  if (lesson.references.length === 0) return [opening];
  const reference: Draft = {
    ...base,
    id: 'reference',
    kind: 'reference',
    title: say('The reference beside the bare canvas'),
    mustSee: [say('reference and canvas side by side, of one size')],
    pieces: [still('reference', null)],
  };
  return [opening, reference];
}

const after = (lesson: Lesson): Draft[] => [
  {
    ...base,
    id: 'close',
    kind: 'close',
    title: say('Close: the finished picture'),
    afterStepId: lesson.steps.at(-1)?.id ?? null,
    mustSee: [say('the finished picture, then the signature')],
    pieces: [still('close', null, REST_S)],
  },
];

/** Steps that are filmed; breaks and drying are not. */
const isFilmed = (step: Step): boolean => step.kind !== 'break' && step.kind !== 'dry' && !step.ahead;

function byStep(lesson: Lesson, plan: LessonPlan): Draft[] {
  const steps = lesson.steps.filter(isFilmed);
  const out: Draft[] = [];
  const seen = new Set<string>();
  const isNew = (key: string): boolean => {
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  };
  let last: string | null = null;
  for (const group of wetGroups(lesson, steps)) {
    for (const step of group) {
      for (const mixId of step.mixIds) if (isNew(say`mix ${mixId}`)) out.push(...paletteTake(lesson, step, mixId, last));
      const brush = brushOf(step.brushId);
      if (brush && isNew(say`brush ${brush.id}`))
        out.push({
          ...base,
          id: `${step.id}/tool/${brush.id}`,
          kind: 'tool',
          title: say`The ${brushInMetric(brush)}`,
          stepIds: [step.id],
          afterStepId: last,
          mustSee: [say('its width against a finger, then how it is loaded')],
          pieces: [still(`${step.id}/tool/${brush.id}`, step.id)],
        });
      if (step.kind === 'transfer')
        out.push({
          ...base,
          id: `${step.id}/tracing`,
          kind: 'tracing',
          title: say`The drawing on paper, before “${step.title}”`,
          stepIds: [step.id],
          afterStepId: last,
          mustSee: [say('the sheet and its marks, held against the canvas')],
          pieces: [still(`${step.id}/tracing`, step.id)],
        });
    }
    out.push(canvasTake(lesson, plan, group, last));
    last = (group.at(-1) as Step).id;
  }
  return out;
}

/** Steps in a row that wet paint joins: from the one that laid it to the one that goes into it, no camera is moved. */
function wetGroups(lesson: Lesson, steps: readonly Step[]): Step[][] {
  const joinedTo = steps.map((_, i) => i);
  steps.forEach((step, i) => {
    if (step.needs !== 'wet' && step.needs !== 'damp') return;
    const areas = new Set(areasWorkedOn(lesson, step));
    for (let j = i - 1; j >= 0; j--) {
      const below = steps[j] as Step;
      if (!laysPaint(below) || !areasWorkedOn(lesson, below).some((id) => areas.has(id))) continue;
      for (let k = j + 1; k <= i; k++) joinedTo[k] = Math.min(joinedTo[k] as number, joinedTo[j] as number);
      return;
    }
  });
  const groups: Step[][] = [];
  steps.forEach((step, i) => {
    if (joinedTo[i] === i || groups.length === 0) groups.push([step]);
    else groups.at(-1)?.push(step);
  });
  return groups;
}

function paletteTake(lesson: Lesson, step: Step, mixId: string, last: string | null): Draft[] {
  const look = looksOf(lesson).get(mixId);
  if (!look) return [];
  const id = `${step.id}/mix/${mixId}`;
  const tubes = look.parts.length;
  const mixS = heapMinutes(filmedLesson(lesson), step, [mixId]) * 60;
  const lastIn = look.parts.at(-1)?.name;
  const isMixed = tubes > 1;
  return [
    {
      ...base,
      id,
      kind: 'palette',
      title: isMixed ? say`Mixing ${uncapital(look.mix.name)}` : say`${capital(look.mix.name)} on the palette`,
      stepIds: [step.id],
      mixId,
      afterStepId: last,
      mustSee: [isMixed && lastIn ? say`the heap turning when the ${lastIn} goes in` : say('the heap beside the others')],
      mustSay: [`${look.mix.name}: ${look.words}`],
      pieces: [
        pieceOf(`${id}/mixing`, step.id, 'mixing', isMixed ? Math.max(LEAST_S, mixS) : LEAST_S, 4 + Math.max(0, tubes - 2)),
        still(id, step.id, 2),
      ],
    },
  ];
}

function canvasTake(lesson: Lesson, plan: LessonPlan, group: readonly Step[], last: string | null): Draft {
  const first = group[0] as Step;
  const id = `${first.id}/canvas`;
  const fresh = newAreas(lesson, group, plan);
  const pieces = group.flatMap((step) => doing(lesson, step, plan.minutes.get(step.id)));
  const brush = brushOf(first.brushId);
  const isFine = group.every((step) => step.kind === 'transfer' || (brush !== null && brush.widthMm < FINE_MM));
  const titles = [...new Set(group.map(({ title }) => title))];
  return {
    id,
    kind: 'canvas',
    title:
      titles.length > 2
        ? say`${titles[0]} to ${uncapital(titles.at(-1) as string)}`
        : listInWords(titles.map((one, i) => (i > 0 ? uncapital(one) : one))),
    stepIds: group.map((step) => step.id),
    afterStepId: last,
    mustSee: [...new Set(group.flatMap((step) => seenIn(lesson, step)))].slice(0, 4),
    mustSay: [...new Set(group.flatMap((step) => saidIn(step, plan)))].slice(0, 4),
    say: group
      .map(({ say }) => plainSay(say))
      .filter(Boolean)
      .join(' '),
    notes:
      group.length > 1 ? [say`${counted(group.length, 'step')} in one take: the paint stays wet. Do not touch the tripod.`] : [],
    pieces: [...pieces, still(id, (group.at(-1) as Step).id, Math.min(5, 2 + fresh))],
    ...(isFine && { place: 'hands' as const }),
  };
}

/** Areas that are painted here for the first time. */
function newAreas(lesson: Lesson, group: readonly Step[], { plan }: LessonPlan): number {
  const first = new Map<string, string>();
  for (const coat of plan.coats) if (!first.has(coat.areaId)) first.set(coat.areaId, coat.stepId);
  const own = new Set(group.map(({ id }) => id));
  return [...new Set(group.flatMap((step) => areasWorkedOn(lesson, step)))].filter((id) => own.has(first.get(id) ?? '')).length;
}

function glare({ plan }: LessonPlan, { kind, stepIds }: Draft, light: FilmLight): string[] {
  if (kind !== 'canvas' || light !== 'lamp') return [];
  const wettest = Math.max(0, ...plan.coats.filter((coat) => stepIds.includes(coat.stepId)).map(({ wetUm }) => wetUm));
  return wettest > SHINES_UM ? [say('Wet paint will shine: cross the lamps, or tilt the canvas a little.')] : [];
}

/** Takes of one's own put after those they follow. */
function withOwn(lesson: Lesson, drafts: Draft[]): Draft[] {
  const out = [...drafts];
  for (const own of lesson.film?.ownTakes ?? []) {
    const at = own.afterTakeId === undefined ? -1 : out.findIndex(({ id }) => id === own.afterTakeId);
    const before = out[at];
    const index = at < 0 ? out.length - 1 : at + 1;
    out.splice(index, 0, {
      ...base,
      id: own.id,
      kind: 'own',
      title: own.title,
      place: own.place,
      afterStepId: before?.stepIds.at(-1) ?? before?.afterStepId ?? null,
      pieces: [pieceOf(`${own.id}/rest`, null, 'filling', own.rawSec)],
    });
  }
  return out;
}

/** Edits of takes that no longer follow from any step. */
export function lostEdits(lesson: Lesson): TakeEdit[] {
  const known = new Set(takesOf(lesson).map(({ id }) => id));
  return (lesson.film?.takeEdits ?? []).filter(({ takeId }) => !known.has(takeId));
}

/** Gigabytes that some takes fill on a card, filmed as often as it usually takes. */
export const cardGb = (seconds: number, { film }: Pick<Lesson, 'film'>): number =>
  ((film?.bitRateMbps ?? filmDefaults.bitRateMbps) * seconds * (film?.takesPerGood ?? filmDefaults.takesPerGood)) / 8000;
/** Minutes of battery: filming, and a quarter more for framing and waiting with the camera on. */
export const batteryMin = (seconds: number, { film }: Pick<Lesson, 'film'>): number =>
  (seconds * (film?.takesPerGood ?? filmDefaults.takesPerGood) * 1.25) / 60;
