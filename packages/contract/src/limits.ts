import { say, sayBy, worded } from './language.js';

/** How many of each a lesson holds: the schemas, the commands and the sentences all take them from here. */
export const limits = {
  references: 20,
  things: 60,
  areas: 60,
  marks: 200,
  tubes: 60,
  mixes: 200,
  recipe: 8,
  mixedFrom: 4,
  stages: 60,
  steps: 400,
  pins: 200,
  waived: 400,
  passages: 20,
  places: 8,
  leftOut: 200,
  stopTest: 6,
  samples: 40,
  variants: 40,
  extras: 60,
  setAside: 400,
  learnt: 60,
  own: 400,
  edits: 400,
  constructions: 60,
  landmarks: 60,
  groundCoats: 10,
  areaIds: 60,
  markIds: 60,
  mixIds: 30,
  along: 60,
  linePoints: 40,
  combed: 12,
  combedPoints: 40,
  takes: 1200,
  pieces: 4000,
  ownTakes: 60,
  cuts: 12,
  captions: 4000,
  films: 20,
  strokeMarks: 2000,
} as const;

/** How many letters a name and a text have. */
export const letters = { name: 120, words: 20_000 } as const;

/** What lists hold, in the words of the interface, and how there is room again. */
const lists: Record<string, [what: string, how: string]> = worded({
  references: ['pictures', 'Take one away first.'],
  things: ['things', 'Join some, or take one away first.'],
  areas: ['areas', 'Join some, or take one away first.'],
  marks: ['marks', 'Take one away first.'],
  tubes: ['tubes', 'Take one away first.'],
  mixes: ['mixes', 'Join some, or take one away first.'],
  stages: ['stages', 'Take one away first.'],
  steps: ['steps', 'Join some, or take one away first.'],
  extras: ['extra things', 'Take one away first.'],
  pins: ['pins', 'Take one away first.'],
  waived: ['places to paint on all the same', 'Take one back first.'],
  passages: ['wet passages', 'Part one first.'],
  leftOut: ['steps left out', 'Take some away for good first.'],
  stopTest: ['questions before going on', 'Take one away first.'],
  samples: ['canvases ahead', 'Take one away first.'],
  variants: ['versions for others', 'Take one away first.'],
  setAside: ['findings set aside', 'Take some up again first.'],
  learnt: ['things learnt from classes', 'Take one back first.'],
  own: ['lines of your own', 'Bring fewer, or remove some first.'],
  edits: ['lines changed by hand', 'Draw fewer instead.'],
  constructions: ['constructions', 'Remove one first.'],
  landmarks: ['landmarks', 'Remove one first.'],
  ownTakes: ['takes of your own', 'Take one away first.'],
  cuts: ['cuts', 'Take one away first.'],
  films: ['films', 'Take one away first.'],
  strokes: ['marked strokes', 'Take one away first.'],
});
/** What one thing holds of others. */
const parts: Record<string, [whose: string, what: string]> = worded({
  recipe: ['A mix', 'tubes'],
  mixedFrom: ['A mix', 'other mixes'],
  groundCoats: ['A canvas', 'coats of ground'],
  areaIds: ['A step', 'areas'],
  places: ['A passage', 'places'],
  markIds: ['A step', 'marks'],
  along: ['One kind of line', 'lines'],
  mixIds: ['A step', 'mixes'],
});

/** Sentences for fields whose bounds people run into; the rest are worded from the schema. */
const fields: [RegExp, string][] = worded([
  [/\/room\/humidity$/, 'Humidity must lie between 0 and 100 %. Enter what the room’s hygrometer shows.'],
  [/\/room\/airC$/, 'The air must be between −20 and 60 °C (−4 and 140 °F). Enter the temperature of the room.'],
  [/\/room\/airSpeed$/, 'The draught must lie between 0 and 20 m/s. A quiet room has 0.1.'],
  [/\/(showMin|doMin)$/, 'Minutes cannot be negative or above 600. Enter how long this takes.'],
  [/\/recipe\/\d+(\/parts)?$/, 'Every tube of a recipe needs whole parts, “a touch” or “a speck”.'],
  [/\/support\/(width|height)Mm$/, 'A canvas measures between 1 cm and 5 m each way. Enter its painted face.'],
  [/\/support\/marginMm$/, 'A margin lies between 0 and 50 cm. Enter a narrower one.'],
  [/\/support\/wrapMm$/, 'What is turned over the edge lies between 0 and 20 cm. Enter less.'],
  [/\/(say|watch|checkpoint|finish)$/, 'Words of a step may hold 20 000 letters. Split the step, or shorten what you say.'],
  [/firstName$/, 'A first name has 1 to 40 letters. Give a shorter one.'],
  [/\/(title|name)$/, 'A name has 1 to {0} letters. Give a shorter one.'],
]);

/** What a validator says of one place (as Ajv and TypeBox do). */
export type Problem = { instancePath: string; keyword?: string; message?: string; params?: unknown };

/** One sentence for what validators found: the deepest place, worded by hand where it is known. */
export function sentenceFor(problems: readonly Problem[]): string {
  const depth = ({ instancePath }: Problem) => instancePath.split('/').length;
  const [deepest, ...others] = [...problems].sort((a, b) => depth(b) - depth(a));
  if (!deepest) return say('Something in this request cannot be. Look at what you entered and send it again.');
  for (const problem of [deepest, ...others]) {
    const known = fullList(problem) ?? fields.find(([place]) => place.test(problem.instancePath))?.[1];
    if (known) return sayBy(known, letters.name);
  }
  const place = deepest.instancePath.split('/').filter(Boolean).join(' › ') || say('this request');
  return say`Something is wrong with “${place}”: it ${deepest.message ?? say('cannot be so')}. Nothing was stored.`;
}

function fullList({ instancePath, keyword }: Problem): string | null {
  if (keyword !== 'maxItems') return null;
  const name = instancePath.split('/').at(-1) as keyof typeof limits;
  if (lists[name]) return say`A lesson holds ${limits[name]} ${lists[name][0]} at most. ${lists[name][1]}`;
  return parts[name] ? say`${parts[name][0]} holds ${limits[name]} ${parts[name][1]} at most. Take one away first.` : null;
}
