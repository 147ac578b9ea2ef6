import type { Lesson, Mark, Step, Surface } from '@viaticum/contract';
import { languages, say, speaking, worded } from '@viaticum/contract';
import { brushInWords, brushOf } from '../brush/index.js';
import { surfacePass, surfaces } from '../surface/index.js';
import { called, capital, listInWords, uncapital, verb } from '../units/index.js';
import { litWords } from './light-words.js';

export type StepWords = Pick<Step, 'title' | 'say' | 'watch' | 'checkpoint' | 'finish'>;
type Technique = NonNullable<Step['technique']>;

type Said = { say: string; watch: string; checkpoint: string; finish: string };
/** What is said of a technique; `it` is what is painted ("the far hill"), `It` the same at the beginning of a sentence. */
const how: Record<Technique, (it: string, It: string) => Said> = {
  wash: (it, It) => ({
    say: say('Thin it until it runs a little and cover everything in long strokes, edges too.'),
    watch: say('A wash that runs has too much water.'),
    checkpoint: say`Tilt it to the light: is any white left on ${it}?`,
    finish: say`${It}: one even tone, through which the weave still shows.`,
  }),
  'block-in': (it, It) => ({
    say: say`Find the outline of ${it} first, a little past the edge, then fill the middle: flat, no modelling yet.`,
    watch: say`Painting round ${it} with a line, and leaving it pale inside.`,
    checkpoint: say`Half close your eyes and look at ${it}: is there one shape?`,
    finish: say`${It}: flat, and right in value beside what lies round.`,
  }),
  blend: (it, It) => ({
    say: say`Lay all colours of ${it} first, each from its own side, then stroke across until no seam is left, briskly, while it is wet.`,
    watch: say`Going back into ${it} when the paint begins to drag.`,
    checkpoint: say`Can you see where one colour of ${it} ends?`,
    finish: say`${It}: no seam anywhere.`,
  }),
  'dry-brush': (it, It) => ({
    say: say`Wipe the brush nearly dry and drag it lightly over ${it}, so that what is beneath shows through.`,
    watch: say`Too much paint in the brush: it covers ${it} instead of breaking over it.`,
    checkpoint: say`Can you still see the first colour of ${it} in between?`,
    finish: say`${It}: broken colour over the first layer.`,
  }),
  scumble: (it, It) => ({
    say: say`Hardly any paint, small circles over ${it}, and stop while you still want more.`,
    watch: say`Wet paint in the brush makes a cloud of ${it}.`,
    checkpoint: say`Does the veil on ${it} fade without an edge?`,
    finish: say`${It}: a veil that thins out to nothing.`,
  }),
  glaze: (it, It) => ({
    say: say`Thin it with medium, not water, and lay it over ${it} in one go, on dry paint.`,
    watch: say`Going over ${it} twice while the glaze sets.`,
    checkpoint: say`Does the layer beneath still shine through ${it}?`,
    finish: say`${It}: the same form, deeper in colour.`,
  }),
  loaded: (it, It) => ({
    say: say`Load the brush; touch ${it} where the light falls, pull, lift, and do not go back.`,
    watch: say`Lights on both sides of ${it}: there is only one light.`,
    checkpoint: say`Where on ${it} does your eye go first?`,
    finish: say`${It}: a few clear lights.`,
  }),
  gesso: (it, It) => ({
    say: say('Even strokes one way, then across.'),
    watch: say('Ridges that stay when it is dry.'),
    checkpoint: say`Hold ${it} against the light: is every stroke gone?`,
    finish: say`${It}: an even white ground.`,
  }),
  impasto: (it, It) => ({
    say: say`Lay ${it} on thick with the knife and leave it.`,
    watch: say`Scraping over ${it} until all is flat.`,
    checkpoint: say`Look along ${it}: does the paint stand up from the canvas?`,
    finish: say`${It}: ridges of paint.`,
  }),
  'under-film': (it, It) => ({
    say: say('A thin film, just enough to glide on.'),
    watch: 'Puddles.',
    checkpoint: say`Look along ${it}: is the shine even?`,
    finish: say`${It}: a wet sheen to paint into.`,
  }),
  spatter: (it, It) => ({
    say: say`Thin the paint, cover what must stay clean beside ${it}, and flick from the wrist.`,
    watch: say('Drops on your neighbours, and eyes.'),
    checkpoint: say`Are the drops on ${it} of different sizes?`,
    finish: say`${It}: fine drops where they are wanted.`,
  }),
};

/** A value of its own on a part of something. */
const onPart = (it: string, It: string): Said => ({
  say: say`Cut its shapes into ${it} with clean edges, each where it stands in the picture, and no more of them than you can count.`,
  watch: say`Nibbling: many small shapes make ${it} restless.`,
  checkpoint: say`Squint: do the new shapes on ${it} belong to the light, or to the shade?`,
  finish: say`${It}: two clear values that do not run into each other.`,
});

/** Several values at once, none of them blended. */
const sideBySide = (it: string, It: string, values: number): Said => ({
  say: say`Set the ${countWord(values)} values of ${it} side by side as shapes, the largest first, the smallest last, and let their borders stand.`,
  watch: say`Blending where two values of ${it} meet.`,
  checkpoint: say`Squint at ${it}: are there shapes, or is there a mixture?`,
  finish: say`${It}: clear shapes in ${countWord(values)} values.`,
});
const counts = worded(['no', 'one', 'two', 'three', 'four', 'five', 'six']);
const countWord = (count: number): string => counts[count] ?? String(count);

/** Once more with the same paint. */
const again = (it: string, It: string): Said => ({
  say: say`The same paint once more over ${it}, crosswise to the first coat, which must be dry.`,
  watch: say`Rubbing: it lifts the first coat of ${it}.`,
  checkpoint: say`Hold it to the window: does light come through ${it} anywhere?`,
  finish: say`${It}: covered.`,
});

/** What was said of another thing of the same surface, which lies behind. */
const alike = (it: string, It: string, other: string, what: string): Said => ({
  say: say`The ${what} of ${it} go as those of ${other}; only the way they run is another.`,
  watch: say`Hurrying over the ${what} of ${it}, because it is the second time.`,
  checkpoint: say`Compare the ${what} of ${it} with ${other}: made of the same, but in a light of their own?`,
  finish: say`${It}: the ${what} as on ${other}, and yet not the same.`,
});

/** What an area of the same surface is called that lies behind these. */
function likeBefore(lesson: Lesson, surface: Surface, areaIds: readonly string[]): string | null {
  const first = lesson.areas.findIndex((area) => areaIds.includes(area.id));
  const other = lesson.areas.slice(0, Math.max(0, first)).find((area) => area.surface === surface);
  return other ? called(other.name) : null;
}

/** Something small that is looked at first. */
const feature = (it: string, It: string): Said => ({
  say: say`The dark shape of ${it} and its rim first, a little beyond the line. Then the colours inside, each set down once, and last of all one light in ${it}, pure, and left alone.`,
  watch: say`Outlining ${it} all round: some of the rim is always lost.`,
  checkpoint: say`Hold the picture upside down beside ${it}: is every shape where it should be?`,
  finish: say`${It}: few clear shapes, right in their place, and one light.`,
});

/** Lines drawn one by one over what lies there. */
const drawnLines = (it: string, It: string, count: number): Said => ({
  say: say`Thin the paint like ink, so that it runs off the hairs. ${count === 1 ? say`Set down where ${it} begins` : say`One line at a time, ${count} in all: set down at the root`}, pull from the shoulder in one movement, and lift as it thins out.`,
  watch: say`Correcting ${it}: a line gone over twice turns into a cord. Wipe it off wet, and draw it again.`,
  checkpoint: say`Dry run first: can you follow ${it} with the handle of the brush in one go?`,
  finish: say`${It}: ${count === 1 ? say('one line') : say('lines')} drawn and not filled in, of uneven strength.`,
});

/** Lines drawn as others were before. */
const likeLines = (it: string, It: string, other: string, count: number): Said => ({
  say: say`${count === 1 ? say('One line') : say`${count} lines`}, drawn as ${other} ${verb(other, 'was', 'were')}: ink-thin, from the shoulder.`,
  watch: say`Making ${it} as strong as ${other}: one of the two lies farther off.`,
  checkpoint: say`Step back: which is seen first, ${it} or ${other}?`,
  finish: say`${It}: drawn once, and left.`,
});

/** A first wording of a step that draws lines one by one. */
export function lineWords(lesson: Lesson, mark: Mark, { mixIds, brushId }: Pick<Step, 'mixIds' | 'brushId'>): StepWords {
  const [it, brush] = [called(mark.name), brushOf(brushId)];
  const mixes = mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []);
  const at = lesson.marks.findIndex((one) => one.id === mark.id);
  const before = lesson.marks.slice(0, Math.max(0, at)).find((one) => one.along);
  const words = before ? likeLines(it, capital(it), called(before.name), mark.count) : drawnLines(it, capital(it), mark.count);
  const colours =
    mixes.length > 0 ? `${capital(listInWords(mixes))}${brush ? say`, with the ${brushInWords(brush)}` : ''}. ` : '';
  return { ...words, title: capital(mark.name).slice(0, 120), say: `${colours}${words.say}` };
}

const verbs: Partial<Record<Technique, string>> = worded({
  blend: 'blended',
  'dry-brush': 'broken colour',
  scumble: 'a veil of light',
  glaze: 'a glaze',
  loaded: 'the lights',
});

/** A first wording of a painting step from its data, in plain studio English. */
export function paintingWords(
  lesson: Lesson,
  step: Pick<Step, 'technique' | 'areaIds' | 'wholeCanvas' | 'mixIds' | 'brushId' | 'needs'> &
    Partial<Pick<Step, 'coverShare' | 'pass' | 'coatOf'>>,
): StepWords {
  const technique = step.technique ?? 'block-in';
  const areas = step.areaIds.flatMap((id) => lesson.areas.find((area) => area.id === id)?.name ?? []);
  const mixes = step.mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []);
  const brush = brushOf(step.brushId);
  const isWhole = step.wholeCanvas === true || areas.length === 0;
  const name = isWhole ? say('The whole canvas') : capital(listInWords(areas));
  const { title: extra, words } = saidOf(lesson, step, technique, isWhole ? say('the canvas') : listInWords(areas.map(called)));
  const own = lesson.method?.says?.find((one) => one.technique === technique)?.say;
  // A value on a part of its area is called by its colour, so that it is not called as the first coat is.
  const isPart = technique === 'block-in' && (step.coverShare ?? 1) < 1 && mixes.length > 0;
  const after = extra ?? (isPart ? listInWords(mixes.map((mix) => withoutName(mix, areas))) : verbs[technique]);
  const title = technique === 'wash' && step.wholeCanvas ? say('Tone the whole canvas') : after ? `${name}: ${after}` : name;
  const into = step.needs === 'wet' ? say('Straight on, while it is wet. ') : '';
  const colours =
    mixes.length > 0 ? `${capital(listInWords(mixes))}${brush ? say`, with the ${brushInWords(brush)}` : ''}. ` : '';
  const alone = step.areaIds.length === 1 ? lesson.areas.find((area) => area.id === step.areaIds[0]) : undefined;
  const isFirst = !step.pass && step.coatOf === undefined && (technique === 'block-in' || technique === 'blend');
  const lit = alone && isFirst ? litWords(lesson, alone) : null;
  return {
    title: title.slice(0, 120),
    say: [`${into}${colours}${own ?? words.say}`, lit].filter(Boolean).join(' '),
    watch: words.watch,
    checkpoint: words.checkpoint,
    finish: words.finish,
  };
}

/** What is said of a step: by its pass over a surface, by what it is on, or by its technique; with the title that goes with it, if any ('' for none). */
function saidOf(
  lesson: Lesson,
  { areaIds, pass, coatOf, coverShare, mixIds }: Partial<Step>,
  technique: Technique,
  it: string,
): { title: string | undefined; words: Said } {
  const on = (areaIds ?? []).flatMap((id) => lesson.areas.find((area) => area.id === id) ?? []);
  const alone = on.length === 1 ? on[0] : undefined;
  const surface = on.every((area) => area.surface === on[0]?.surface) ? on[0]?.surface : undefined;
  // A surface is called by what it is on, so that two of a kind do not read alike.
  const named = (words: Said): Said => ({
    ...words,
    checkpoint: withName(it, words.checkpoint),
    finish: withName(it, words.finish),
  });
  const isPart = technique === 'block-in' && (coverShare ?? 1) < 1;
  const over = surfacePass(surface, pass);
  const before = surface && likeBefore(lesson, surface, areaIds ?? []);
  if (over) return { title: over.title, words: before ? alike(it, capital(it), before, over.title) : named(over) };
  if (coatOf !== undefined) return { title: undefined, words: again(it, capital(it)) };
  if (surface && alone && !isPart && technique === (surfaces[surface].base.technique ?? 'blend'))
    return { title: '', words: before ? alike(it, capital(it), before, say('large values')) : named(surfaces[surface].base) };
  const values = technique === 'block-in' ? (mixIds?.length ?? 0) : 0;
  if (values > 1 && !isPart && !alone?.feature) return { title: undefined, words: sideBySide(it, capital(it), values) };
  const told = alone?.feature && technique === 'block-in' ? feature : isPart ? onPart : how[technique];
  return { title: undefined, words: told(it, capital(it)) };
}
const withName = (it: string, sentence: string): string => `${capital(it)}: ${uncapital(sentence)}`;

/** "middle" for the mix "pot, middle" on the pot, and "grey" for "grey (pot)". */
function withoutName(mix: string, areas: readonly string[]): string {
  const behind = areas.find((area) => mix.toLowerCase().endsWith(` (${area.toLowerCase()})`));
  if (behind) return mix.slice(0, -behind.length - 3);
  const own = areas.find((area) => mix.toLowerCase().startsWith(area.toLowerCase()));
  const rest = own ? mix.slice(own.length).replace(/^[\s,:]+/, '') : mix;
  return rest || mix;
}

/** Words of the steps that lay no paint. */
export const otherWords: Record<'opening' | 'drawing' | 'break' | 'look', Omit<StepWords, 'title'>> = worded({
  opening: {
    say: 'This is the picture, these are its three large shapes, and this is what lies on your palette.',
    watch: '',
    checkpoint: 'Does everybody see the board and reach the water?',
    finish: '',
  },
  drawing: {
    say: 'The large shapes first, and only what the first layers need. Press lightly.',
    watch: 'Pressing so hard that the canvas dents.',
    checkpoint: 'Step back: does everything fit onto the canvas?',
    finish: 'A pale drawing that can just be seen.',
  },
  break: {
    say: 'Change the water, put the canvas by the wall and look at it from the door.',
    watch: 'Brushes left standing without water.',
    checkpoint: 'From the door: which is the darkest place?',
    finish: '',
  },
  look: {
    say: 'Turn it upside down and look once more. If nothing jumps out, it is finished. Sign low in a corner.',
    watch: 'One more stroke, and another.',
    checkpoint: 'Would you miss anything if you stopped now?',
    finish: '',
  },
});

/** Sentences that are added to a step's words where the plan asks for them. */
export const careWords = worded({ rinse: 'Rinse the brush and lay it flat.', water: 'Change the water first.' });
/** A sentence that announces a rough stage. */
export const announcement = (name: string): string =>
  say`Now comes the rough part: at the end of “${name}” the picture looks its worst, and it is meant to. Do not mend it yet.`;
/** What announces the rough stage, whatever it is called: from its first words to its last sentence. */
const announced = (): RegExp => {
  const text = announcement('');
  const plain = (part: string) => part.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const [first = '', last = ''] = [text.slice(0, text.indexOf(':') + 1), text.slice(text.lastIndexOf('. ') + 2)];
  return new RegExp(`^${plain(first)} .*? ${plain(last)} ?`);
};
/** What is said in a step without the sentences that the plan added. */
export const plainSay = (text: string): string =>
  languages
    .reduce(
      (rest, language) =>
        speaking(language, () => rest.replace(announced(), '').replaceAll(careWords.rinse, '').replaceAll(careWords.water, '')),
      text,
    )
    .trim();

/** Minutes that words take to be read aloud, at 130 a minute (common practice, no published source). */
export const readingMinutes = (text: string): number => text.split(/\s+/).filter(Boolean).length / 130;
