import {
  type CameraPlace,
  type CardCorner,
  type Cut,
  commandErrors,
  type Film,
  type FilmLight,
  type JoinedFilm,
  type Mix,
  type OwnTake,
  proposedCuts,
  type Stage,
  type Step,
  type TakeEdit,
  type Tube,
} from '@viaticum/contract';
import { between, CommandError, type D, find, insert, named, said, setOrClear, take } from './command-tools.js';

/** What may be said of filming by itself; lists have commands of their own. */
type Said = Omit<Film, 'lights' | 'takeEdits' | 'ownTakes' | 'order' | 'cuts' | 'films'>;

const filmOf = (lesson: D): NonNullable<D['film']> => {
  lesson.film ??= {};
  return lesson.film;
};
const cutsIn = (lesson: D): NonNullable<NonNullable<D['film']>['cuts']> => {
  const film = filmOf(lesson);
  film.cuts ??= structuredClone(proposedCuts) as NonNullable<typeof film.cuts>;
  return film.cuts;
};
const cutOf = (lesson: D, id: string) => find(cutsIn(lesson), id, 'cut');
const joinedFilm = (lesson: D, id: string) => find(filmOf(lesson).films ?? [], id, 'film');

function soundFilm(film: Partial<Said>): void {
  if (film.wordsPerMinute !== undefined) between(film.wordsPerMinute, 60, 260, commandErrors.speechOutOfRange);
  if (film.bitRateMbps !== undefined) between(film.bitRateMbps, 1, 400, commandErrors.bitRateOutOfRange);
  if (film.cardGb !== undefined) between(film.cardGb, 1, 4000, commandErrors.cardOutOfRange);
  if (film.batteryMin !== undefined) between(film.batteryMin, 5, 1200, commandErrors.batteryOutOfRange);
  if (film.takesPerGood !== undefined) between(film.takesPerGood, 1, 5, commandErrors.takesPerGoodOutOfRange);
}

/** Chapters in order, none begun before the one before it ends. */
function soundChapters(lesson: D, { chapters, durationMs }: Pick<JoinedFilm, 'chapters' | 'durationMs'>): void {
  const sorted = [...chapters].sort((a, b) => a.fromMs - b.fromMs);
  const number = (stepId: string) => lesson.steps.findIndex(({ id }) => id === stepId) + 1;
  sorted.forEach((chapter, i) => {
    if (!(chapter.toMs > chapter.fromMs) || chapter.toMs > durationMs) throw new CommandError(commandErrors.chapterOutOfFilm);
    const next = sorted[i + 1];
    if (next && next.fromMs < chapter.toMs)
      throw new CommandError(commandErrors.chaptersOverlap(number(next.stepId), number(chapter.stepId), next.fromMs / 1000));
  });
}

/** How a lesson is filmed and cut, and the films that stand beside its steps. */
export const filmCommands = {
  editFilm: (lesson: D, { film, clear = [] }: { film: Partial<Said>; clear?: (keyof Said)[] }) => {
    soundFilm(film);
    Object.assign(filmOf(lesson), film);
    for (const field of clear) delete filmOf(lesson)[field];
  },
  setFilmLight: (lesson: D, { place, light }: { place: CameraPlace; light: FilmLight | null }) => {
    const film = filmOf(lesson);
    setOrClear(
      film,
      'lights',
      said(film.lights, (one) => one.place === place, light && { place, light }),
    );
  },
  /** What is decided about a take; nothing left of it is no decision. */
  setTake: (
    lesson: D,
    { takeId, edit, clear = [] }: { takeId: string; edit: Partial<Omit<TakeEdit, 'takeId'>>; clear?: (keyof TakeEdit)[] },
  ) => {
    if (edit.rawSec !== undefined) between(edit.rawSec, 1, 43_200, commandErrors.filmedOutOfRange);
    const film = filmOf(lesson);
    const next: TakeEdit = { ...film.takeEdits?.find((one) => one.takeId === takeId), ...edit, takeId };
    for (const field of clear) if (field !== 'takeId') delete next[field];
    setOrClear(
      film,
      'takeEdits',
      said(film.takeEdits, (one) => one.takeId === takeId, Object.keys(next).length > 1 ? next : null),
    );
  },
  /** What was decided about a take whose step is gone comes to another. */
  joinTake: (lesson: D, { takeId, toTakeId }: { takeId: string; toTakeId: string }) => {
    const film = filmOf(lesson);
    const lost = film.takeEdits?.find((one) => one.takeId === takeId);
    if (!lost) throw new CommandError(commandErrors.gone('take'));
    const rest = (film.takeEdits ?? []).filter((one) => one.takeId !== takeId && one.takeId !== toTakeId);
    film.takeEdits = [...rest, { ...lost, takeId: toTakeId }];
  },
  addOwnTake: (lesson: D, { take: own }: { take: OwnTake }) => {
    between(own.rawSec, 1, 43_200, commandErrors.filmedOutOfRange);
    const film = filmOf(lesson);
    film.ownTakes ??= [];
    insert(film.ownTakes, { ...own, title: named(own.title, 'take') }, 'take');
  },
  removeOwnTake: (lesson: D, { id }: { id: string }) => {
    const film = filmOf(lesson);
    take(film.ownTakes ?? [], id, 'take');
    if (film.ownTakes?.length === 0) delete film.ownTakes;
  },
  pinFilming: (lesson: D, { order }: { order: string[] | null }) => {
    setOrClear(filmOf(lesson), 'order', order && order.length > 0 ? order : null);
  },
  addCut: (lesson: D, { cut }: { cut: Cut }) => {
    insert(cutsIn(lesson), { ...cut, name: named(cut.name, 'cut') }, 'cut');
  },
  editCut: (
    lesson: D,
    {
      id,
      cut,
      clear = [],
    }: { id: string; cut: Partial<Pick<Cut, 'name' | 'lengthSec' | 'partSec'>>; clear?: ('lengthSec' | 'partSec')[] },
  ) => {
    const own = cutOf(lesson, id);
    if (cut.lengthSec !== undefined) between(cut.lengthSec, 5, 43_200, commandErrors.cutLengthOutOfRange);
    if (cut.partSec !== undefined) between(cut.partSec, 60, 7200, commandErrors.partLengthOutOfRange);
    Object.assign(own, cut, cut.name !== undefined && { name: named(cut.name, 'cut') });
    for (const field of clear) delete own[field];
  },
  removeCut: (lesson: D, { id }: { id: string }) => {
    const cuts = cutsIn(lesson);
    if (cuts.length === 1) throw new CommandError(commandErrors.lastCut);
    take(cuts, id, 'cut');
  },
  /** So long these pieces are shown, whatever the rest does; `null` gives one back to the rest. */
  dragPieces: (lesson: D, { cutId, pieces }: { cutId: string; pieces: { pieceId: string; sec: number | null }[] }) => {
    const own = cutOf(lesson, cutId);
    for (const { pieceId, sec } of pieces) {
      if (sec !== null) between(sec, 0, 43_200, commandErrors.filmedOutOfRange);
      setOrClear(
        own,
        'fixed',
        said(own.fixed, (one) => one.pieceId === pieceId, sec === null ? null : { pieceId, sec }),
      );
    }
  },
  leaveOutTake: (lesson: D, { cutId, takeId, isOut }: { cutId: string; takeId: string; isOut: boolean }) => {
    const own = cutOf(lesson, cutId);
    const rest = (own.leaveOut ?? []).filter((one) => one !== takeId);
    const next = isOut ? [...rest, takeId] : rest;
    setOrClear(own, 'leaveOut', next.length > 0 ? next : null);
  },
  /** A caption in other words; an empty one is not shown, `null` takes the say-line's again. */
  editCaption: (lesson: D, { cutId, key, text }: { cutId: string; key: string; text: string | null }) => {
    const own = cutOf(lesson, cutId);
    if (text !== null && text.length > 84) throw new CommandError(commandErrors.captionTooLong);
    setOrClear(
      own,
      'captions',
      said(own.captions, (one) => one.key === key, text === null ? null : { key, text }),
    );
  },
  editCard: (
    lesson: D,
    { cutId, key, card }: { cutId: string; key: string; card: { text?: string; corner?: CardCorner; hidden?: true } | null },
  ) => {
    const own = cutOf(lesson, cutId);
    const next = card && Object.keys(card).length > 0 ? { key, ...card } : null;
    setOrClear(
      own,
      'cards',
      said(own.cards, (one) => one.key === key, next),
    );
  },
  joinFilm: (lesson: D, { film: joined }: { film: JoinedFilm }) => {
    soundChapters(lesson, joined);
    for (const { stepId } of [...joined.chapters, ...joined.strokes]) find(lesson.steps, stepId, 'step');
    const film = filmOf(lesson);
    film.films ??= [];
    insert(film.films, { ...joined, name: named(joined.name, 'film') }, 'film');
  },
  editFilmFile: (
    lesson: D,
    {
      id,
      film,
      clear = [],
    }: { id: string; film: Partial<Pick<JoinedFilm, 'name' | 'captions' | 'chapters' | 'strokes'>>; clear?: 'captions'[] },
  ) => {
    const own = joinedFilm(lesson, id);
    if (film.chapters) soundChapters(lesson, { chapters: film.chapters, durationMs: own.durationMs });
    for (const { stepId } of [...(film.chapters ?? []), ...(film.strokes ?? [])]) find(lesson.steps, stepId, 'step');
    Object.assign(own, film, film.name !== undefined && { name: named(film.name, 'film') });
    for (const field of clear) delete own[field];
  },
  /** Steps heard in a narration, with the mixes and tubes that they name, in a stage of their own at the end. */
  takeHeard: (lesson: D, { stage, steps, mixes, tubes = [] }: { stage: Stage; steps: Step[]; mixes: Mix[]; tubes?: Tube[] }) => {
    for (const tube of tubes) insert(lesson.tubes, tube, 'tube');
    for (const mix of mixes) {
      for (const { tubeId } of mix.recipe) find(lesson.tubes, tubeId, 'tube');
      insert(lesson.mixes, { ...mix, name: named(mix.name, 'mix') }, 'mix');
    }
    insert(lesson.stages, { ...stage, name: named(stage.name, 'stage') }, 'stage');
    for (const step of steps) {
      for (const id of step.areaIds) find(lesson.areas, id, 'area');
      for (const id of step.mixIds) find(lesson.mixes, id, 'mix');
      insert(lesson.steps, { ...step, stageId: stage.id, title: named(step.title, 'step') }, 'step');
    }
  },
  removeFilm: (lesson: D, { id }: { id: string }) => {
    const film = filmOf(lesson);
    take(film.films ?? [], id, 'film');
    if (film.films?.length === 0) delete film.films;
  },
};
