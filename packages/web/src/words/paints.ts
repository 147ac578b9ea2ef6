import type { Keeping } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { counted, volumeInWords, volumeUnit } from '@viaticum/core/units';
import { apart } from './exact.js';

/** In hundredths, never rounded up to what it does not reach. */
const hundredths = (value: number) => (Math.floor(value * 100 + 1e-9) / 100).toFixed(2);

/** Wording of the Paints station beside its mixes. */
export const paintWords = worded({
  found: 'Recipes found',
  seeking: (share: number) => say`Looking through all recipes, ${Math.round(share * 100)} %`,
  wholeOnly: 'So far whole parts only; small amounts are being looked through.',
  reasons: {
    best: 'best on the whole',
    nearest: 'nearest',
    fewest: 'fewest tubes',
    'least-waste': 'least killed colour',
    steady: 'least touchy',
    cheapest: 'cheapest',
    opaque: 'covers best',
    'without-black': 'without black',
  } as const,
  use: 'Use this',
  inUse: 'in use',
  onFilm: (value: number) => say`laid once ${apart(value)}`,
  thick: apart,
  touchy: (name: string, value: number) => say`Touchy: with ${name} doubled it is ${apart(value)}.`,
  killed: 'Its paints kill much of each other’s colour.',
  outOfReach: 'Out of reach of these tubes; above is the nearest.',
  whichTube: 'Which tube would reach it?',
  wouldReach: (name: string, deltaE: number) => `${name}: ${apart(deltaE)}`,
  addIt: (name: string) => say`Add ${name}`,
  order: 'Put together in this order',
  orderWords: (names: string[]) => `${names.join(', then ')}.`,
  onMix: (name: string) => say`the mix ${name}`,
  met: 'Meet the target',
  metDry: 'dry',
  metWet: 'wet',
  typed: 'By numbers',
  typedLab: { L: 'Lightness L*', a: 'a* (green to red)', b: 'b* (blue to yellow)' },
  set: 'Set',
  covering: 'Covering',
  coats: (coats: number | null, technique: string) =>
    coats === null
      ? say`More than 12 ${technique} layers until this ground no longer shows`
      : coats === 1
        ? say`1 ${technique} layer, and this ground no longer shows`
        : say`${coats} ${technique} layers until this ground no longer shows`,
  contrast: (ratio: number, coats: number | null) =>
    coats === 1
      ? say`It hides black beside white as well (contrast ratio of one layer ${hundredths(ratio)})`
      : say`To hide black beside white it takes ${coats === null ? say('more than 12') : coats} (contrast ratio of one layer ${hundredths(ratio)}; 0.98 counts as hiding)`,
  oneCoat: (deltaE: number) =>
    deltaE < 1 ? say('One layer already looks like the mix.') : say`One layer and the mix are ${apart(deltaE)}.`,
  swatchOn: 'one layer on the ground',
  line: (coats: number | null) =>
    coats === null
      ? say('As a thin line on the darkest mix it never quite covers.')
      : say`As a thin line on the darkest mix: ${counted(coats, 'pass', 'passes')}.`,
  glaze: (medium: number) => say`Glazed with ${counted(medium, 'part')} of medium over the ground`,
  finish: 'Surface of the paint when dry',
  finishes: { matt: 'matt', satin: 'satin', gloss: 'gloss' } as const,
  finishAbout: 'All colours are reckoned with it: a matt surface lifts the darks.',
  thinning: 'Water and medium',
  water: 'Water, % of the mix',
  medium: 'Medium, parts to one',
  thinned: (um: number, workable: string, over: string) =>
    say`Dry film ${um} µm, workable ${workable}, painted over after ${over}.`,
  waterNote: (limit: number) => say`More than ${limit} % water: this school thins with medium from there on.`,
  letDown: 'Let down beforehand: recipes may use this mix like a tube',
  addMix: 'Add a mix to the recipe',
  mixesGroup: 'mixes',
  tubesGroup: 'tubes',
  fromAreas: 'A mix for every area without one',
  usedOnce: (names: string[]) => say`Used in one step only: ${names.join(', ')}.`,

  table: {
    tube: 'Tube',
    opacity: 'Covers',
    stains: 'Stains',
    strength: 'Strength',
    light: 'Light',
    grade: 'Grade',
    size: volumeUnit,
    price: 'Price',
    owned: 'I have it',
    students: 'Students',
    hazard: 'Caution',
  },
  stains: { little: 'little', medium: 'some', staining: 'strongly' } as const,
  strengthOf: (value: number) => (value === 0 ? '–' : value.toFixed(1)),
  strengthNote:
    'Strength against ultramarine in tints. Light: as commonly rated, I excellent, II very good. Model estimates; the label holds.',
  grades: { artist: 'artist', student: 'student' } as const,
  gradeOf: (name: string) => say`Grade of ${name}`,
  sizeOf: (name: string) => say`Size of ${name}, ${volumeUnit()}`,
  priceOf: (name: string) => say`Price of ${name}`,
  perUnit: (price: string) => say`${price} a ${volumeUnit()}`,
  ownedOf: (name: string) => say`I have ${name}`,
  studentsOf: (name: string) => say`Students have ${name}`,
  ownTube: 'A tube of your own',
  ownAbout:
    'Paint it out thickly, and one part of it with ten of titanium white; let both dry. Give their colours from a photo in even light, or typed.',
  ownName: 'Name of the tube',
  masstone: 'Mass tone',
  tint: 'Tint with white',
  whiteParts: 'Parts of white to one',
  card: {
    title: 'Card for drawdowns',
    head: 'From two drawdowns on a card',
    about:
      'The truest way: print the card, draw the tube down on it in two films over black and white, put its tint beside them and a grey step card in its place, let all dry, and photograph the whole sheet in shade.',
    print: 'Print the card',
    greys: 'Lay your grey step card here, its light end to the left, so that its steps fill the strip evenly.',
    stripes: {
      thin: ['thin: one layer of tape', 'on either side, scraped once'],
      thick: ['thick: two layers of tape', 'on either side, scraped once'],
      tint: ['tint: 1 part to 10 of', 'titanium white, thick, on white'],
    } as Record<'thin' | 'thick' | 'tint', readonly string[]>,
    steps: [
      'Print at true size, without fitting to the page.',
      'Draw the tube down over black and white with the edge of a stiff card, in two films.',
      'Paint the tint thickly below the black. Leave bare paper round everything.',
      'When all is dry, lay the sheet on a table darker than paper, away from lamps and sun.',
      'Photograph the whole sheet, its four corners in the picture, white not burnt out.',
    ],
    ruler: '50 mm: measure it',
    photo: 'Photograph of the card',
    found: 'The corners of the sheet were found. Move one that is off.',
    pick: 'Put the four handles on the corners of the sheet.',
    greySteps: 'Steps of the grey card, L* from light to dark',
    films: 'Films when dry, µm: thin and thick',
    read: 'Read the card',
    fault: 'Give the L* of at least three steps, lightest first, with blanks between them.',
    uneven: (share: number) => say`The darkest corner had ${Math.round(share * 100)} % of the light; that was taken out.`,
    reads: {
      thinOverBlack: 'thin on black',
      thickOverBlack: 'thick on black',
      thinOverWhite: 'thin on white',
      thickOverWhite: 'thick on white',
      tint: 'tint',
    },
  },
  sure: (deltaE: number) =>
    deltaE < 2.5
      ? say`Known well: likely within ${deltaE.toFixed(1)} of what your tubes give`
      : say`Reckoned from the table of pigments; your own tubes may come out ${deltaE < 4 ? say('a little') : say('clearly')} different (about ${deltaE.toFixed(0)}). Draw them down to know better`,
  fromPhoto: 'From a photo',
  photoPick: (what: string) => say`Click the ${what} in the photo.`,
  fitted: (nearest: string, left: number) =>
    say`Fitted from ${nearest}; ${left < 0.5 ? say('nothing to speak of is left') : say`a difference of ${left.toFixed(1)} is left`}.`,
  addOwn: 'Add this tube',
  badPhoto: 'This file is no picture. Choose a JPEG, PNG or WebP.',

  family: 'Family',
  families: { ladder: 'Value ladder', greys: 'Two greys', gradient: 'Gradient', 'shadow-light': 'Shadow and light' } as const,
  familyAbout: {
    ladder: 'One mix carried towards white and towards a dark, each step mixed from it.',
    greys: 'A warm and a cool grey from the same two parents.',
    gradient: 'Steps between two mixes, each made of the two alone; for skies.',
    'shadow-light': 'A darker and a lighter neighbour of one mix, mixed from it.',
  } as const,
  fromMix: 'From the mix',
  toMix: 'To the mix',
  toDark: 'Towards the dark',
  ownDark: 'the darkest tube',
  steps: 'Steps',
  greyValue: 'Value of the greys',
  parents: (names: string[]) => say`Parents: ${names.join(' and ')}.`,
  takeFamily: (n: number) => say`Put ${counted(n, 'mix', 'mixes')} on the palette`,
  familyName: (base: string, member: string) => `${base}, ${member}`,
  itself: 'the mix itself',
  needsMix: 'Families grow from a mix with a recipe. Mix one first.',

  paletteAbout: 'The fewest tubes that reach every target, searched exactly over recipes of whole parts and one touch.',
  among: 'Choose among',
  amongLesson: 'the lesson’s tubes',
  amongTable: 'these and a studio’s usual ones',
  tolerance: 'Near enough',
  tolerances: { 1.5: 'hardly to be seen (1.5)', 3: 'seen side by side (3)', 5: 'seen at a glance (5)' } as Record<number, string>,
  startFrom: 'Begin with',
  starts: {
    free: 'nothing: the smallest',
    primaries: 'primaries and white',
    earths: 'earths, a blue and white',
    rich: 'a rich palette of ten',
  } as const,
  mustOf: (name: string) => say`${name}: must, may or must not`,
  must: 'must',
  may: 'may',
  mustNot: 'must not',
  answer: (n: number) => say`${counted(n, 'tube reaches', 'tubes reach')} what can be reached`,
  proven: 'No smaller set does: all were tried.',
  others: (n: number) =>
    n === 0 ? '' : say`${n === 10 ? say('10 or more') : n} other ${n === 1 ? say('set') : say('sets')} of as few would do too.`,
  worstMean: (worst: number, mean: number) => say`the worst ${apart(worst)}, on the whole ${apart(mean)}`,
  cost: (money: string) => say`${money} a student in tubes`,
  costUnknown: (n: number) => say`Price unknown for ${counted(n, 'tube', 'tubes')}; enter it under Tubes.`,
  unreachable: (names: string[]) => say`Not reached with whole parts and one touch: ${names.join(', ')}.`,
  isFor: (mix: string, without: number) =>
    Number.isFinite(without)
      ? say`for ${mix}, which without it is ${apart(without)}`
      : say`for ${mix}: without it nothing comes near`,
  takePalette: 'Take this palette and its recipes',
  curve: 'What fewer tubes give up',
  curveAxis: 'tubes',
  curveY: 'how far off (ΔE00)',
  curveWorst: 'worst',
  curveMean: 'mean',
  curveRow: (n: number, worst: number, mean: number) =>
    say`${counted(n, 'tube')}: worst ${worst.toFixed(1)}, mean ${mean.toFixed(1)}`,
  noTargets: 'Give the mixes targets first: a palette is chosen by what it must reach.',
  searching: (share: number) => say`Searching, ${Math.round(share * 100)} %`,

  heaps: 'Heaps',
  heapsAbout: (where: string) =>
    say`Each mix as one painter has it ${where}, in this room: how long it stays fit to use, and what to do where it would not.`,
  keptOn: 'Heaps are kept',
  keepings: {
    plate: 'on an open plate',
    film: 'on a tray under film',
    'wet-palette': 'on a wet palette',
    bag: 'in bags',
  } satisfies Record<Keeping, string>,
  heapColumns: ['Mix', 'About', 'Used', 'Rests at most', 'Keeps', 'So'],
  heapMl: volumeInWords,
  heapUsed: (from: string, until: string) => say`${from} to ${until}`,
  heapPremixed: 'mixed ahead in a pause',
  heapFits: 'nothing to do',
  heapCover: (minutes: number) => say`mist it every ${minutes} min while it rests, or cover it`,
  heapLate: (step: number, deltaE: number) =>
    deltaE > 4
      ? say`mix it only before step ${step}, or cover it; mixed anew it hardly matches`
      : say`mix it anew before step ${step}, or cover it`,
  heapNever: 'for days',
  heapsNone: 'No step uses a mix with paint yet.',
  heapAmounts: 'Amounts are what the painted areas take, with a third more for brush and palette.',

  formerTitle: (count: number) =>
    say`Paint is reckoned more truly now: ${counted(count, 'mix looks', 'mixes look')} different from when this lesson was written.`,
  formerNone: 'Paint is reckoned more truly now; the mixes of this lesson look as they did.',
  formerBefore: 'as it was reckoned',
  formerNow: 'as it is reckoned now',
  formerMix: (count: number) =>
    say`Mix ${count === 1 ? say('it') : say`all ${count}`} again for ${count === 1 ? say('its target') : say('their targets')}`,
  formerTake: (count: number) => say`Take ${count === 1 ? say('the new recipe') : say('the new recipes')}`,
  formerKeep: 'Keep the recipes as they are',

  takesOut: (name: string) => say`Remove ${name}?`,
  needIt: (count: number) =>
    say`${counted(count, 'mix needs', 'mixes need')} it. Without it and mixed from the others they would be:`,
  needItNone: (count: number) => say`${counted(count, 'mix needs', 'mixes need')} it, and no other tube is left to mix from.`,
  breaksWhite: 'It is the white: everything light is made with it.',
  isOff: (off: string) => `, ${off}`,
  mixOthers: 'Remove it and mix these anew',
  stripIt: 'Remove it from the recipes, with nothing in its place',
  keepIt: 'Keep it',

  withoutAbout: 'A student without a tube: every mix that needs it, mixed from the others.',
  lacking: 'The student lacks',
  usual: 'As shown',
  instead: 'Instead',
  difference: 'Difference',
  nothingNeeds: 'No mix needs it. Nothing changes.',
  noneLeft: 'Without these no tube is left.',
  withoutNote: 'On Follow each student is asked what they have, and gets these recipes.',

  sheetPrint: 'Print',
  sheetTitle: (title: string) => say`Palette for ${title}`,
  sheetAbout:
    'Warm mixes lie to the left, cool ones to the right, with a white at either end. The numbers are the order in which they are used.',
  warmEnd: 'warm',
  coolEnd: 'cool',
  sheetMix: 'Mix',
  sheetRecipe: 'Recipe, in the order to mix it',
  sheetFor: 'For',
  withoutColumn: (name: string) => say`Without ${name}`,
  noAlternative: 'No alternative column',
  alternative: 'Alternative column for a student without',
  chart: 'Mixing chart',
  chartAbout: 'Every tube with every other: 3 : 1, 1 : 1 and 1 : 3.',
  cautions:
    'Read the label of each tube. Keep paint from food and mouth; never spray, airbrush or sand tubes marked with a metal.',
  estimate: 'Colours are model estimates; paint out a swatch before class.',
});
