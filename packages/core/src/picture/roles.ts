import type { Area, AreaRole, Surface } from '@viaticum/contract';
import { languageNow } from '@viaticum/contract';
import type { ToldThing } from './propose.js';

/** What a thing may be by its name, and what it may be made of; null where a name tells nothing. */
export type Guess = { role: AreaRole | null; surface: Surface | null };

const rows: readonly [words: string, role: AreaRole | null, surface: Surface | null][] = [
  ['eye eyes nose mouth beak pupil iris ear ears window windows door handle button', 'feature', null],
  ['sky heaven dawn dusk sunset sunrise', 'sky', null],
  ['cloud clouds', 'sky', 'clouds'],
  ['sea lake river pond water canal stream bay harbour ocean', 'water', 'ripples'],
  ['foam surf wave waves', 'water', 'foam'],
  ['background backdrop behind bokeh distance haze mist', 'background', null],
  ['meadow grass lawn reeds straw', 'ground', 'grass'],
  ['field ground beach sand road path earth soil', 'ground', null],
  ['table floor boards planks deck jetty fence crate shed', 'ground', 'boards'],
  ['tree trees bush bushes hedge leaf leaves foliage ivy fern shrub', 'foliage', 'leaves'],
  ['trunk bark branch branches stump', 'foliage', 'bark'],
  ['stone stones rock rocks wall cliff boulder pebbles', 'made', 'stone'],
  ['snow ice slope', 'ground', 'snow'],
  ['flower flowers bloom blossom petal petals rose tulip poppy daisy', 'subject', 'petals'],
  ['cat kitten dog puppy fox hare rabbit squirrel mouse bear badger deer fur coat', 'subject', 'short-fur'],
  ['horse pony mane hair beard tail', 'subject', 'long-hair'],
  ['bird owl hen cock duck goose wing feathers feather plumage', 'subject', 'feathers'],
  ['fish lizard snake scales', 'subject', 'scales'],
  ['face skin hand hands arm arms cheek portrait', 'subject', 'skin'],
  ['wool yarn rope basket wicker twine knitting', 'subject', 'strands'],
  ['glass bottle vase cup jug bowl kettle teapot spoon knife metal silver mirror', 'made', 'glass'],
  ['house houses temple church tower castle barn mill bridge boat ship rocket car wagon train bicycle clock', 'made', 'built'],
  ['cloth curtain dress shirt towel sail blanket scarf sleeve', 'made', 'cloth'],
];
/** The same in German; of a compound its last part counts. */
const germanRows: typeof rows = [
  ['auge augen nase mund schnabel pupille iris ohr ohren fenster tür türe griff knopf', 'feature', null],
  ['himmel morgen abend dämmerung sonnenuntergang sonnenaufgang', 'sky', null],
  ['wolke wolken', 'sky', 'clouds'],
  ['meer see fluss teich wasser kanal bach bucht hafen', 'water', 'ripples'],
  ['schaum brandung welle wellen', 'water', 'foam'],
  ['hintergrund ferne dunst nebel', 'background', null],
  ['wiese gras rasen schilf stroh', 'ground', 'grass'],
  ['feld boden strand sand straße weg erde acker', 'ground', null],
  ['tisch fußboden bretter planken deck steg zaun kiste schuppen', 'ground', 'boards'],
  ['baum bäume busch büsche hecke blatt blätter laub efeu farn strauch sträucher', 'foliage', 'leaves'],
  ['stamm rinde ast äste zweig zweige baumstumpf', 'foliage', 'bark'],
  ['stein steine fels felsen mauer wand klippe kiesel', 'made', 'stone'],
  ['schnee eis hang', 'ground', 'snow'],
  ['blume blumen blüte blüten rose tulpe mohn margerite', 'subject', 'petals'],
  ['katze kätzchen hund welpe fuchs hase kaninchen eichhörnchen maus bär dachs reh hirsch fell', 'subject', 'short-fur'],
  ['pferd pony mähne haar haare bart schweif', 'subject', 'long-hair'],
  ['vogel eule henne hahn ente gans flügel feder federn gefieder', 'subject', 'feathers'],
  ['fisch eidechse schlange schuppen', 'subject', 'scales'],
  ['gesicht haut hand hände arm arme wange porträt', 'subject', 'skin'],
  ['wolle garn seil korb geflecht bindfaden gestrick', 'subject', 'strands'],
  ['glas flasche vase tasse krug schale schüssel kessel kanne teekanne löffel messer metall silber spiegel', 'made', 'glass'],
  [
    'haus häuser tempel kirche turm burg schloss scheune mühle brücke boot schiff rakete auto wagen zug fahrrad uhr',
    'made',
    'built',
  ],
  ['stoff vorhang kleid hemd handtuch segel decke schal ärmel tuch', 'made', 'cloth'],
];
const table = new Map(
  [...germanRows, ...rows].flatMap(([words, role, surface]) =>
    words.split(' ').map((word) => [word, { role, surface }] as const),
  ),
);

const LEAST_PART = 4;
/** What the end of a compound tells: “Apfelbaum” is a tree. */
function compound(word: string): Guess[] {
  const end = germanRows
    .flatMap(([words]) => words.split(' '))
    .filter((part) => part.length >= LEAST_PART && word.endsWith(part))
    .sort((one, other) => other.length - one.length)[0];
  return end === undefined ? [] : [table.get(end) as Guess];
}

/** A guess from a name: by its last word that tells something ("left eye", "eye, left"). */
export function guessByName(name: string): Guess {
  const known = name
    .toLowerCase()
    .split(/[^\p{L}]+/u)
    .flatMap((word) => table.get(word) ?? (languageNow() === 'de' ? compound(word) : []));
  return known.at(-1) ?? { role: null, surface: null };
}

/** What an area is by the thing that it was told to be: nothing where none was told. */
export const areaOfThing = (told: ToldThing | undefined): Pick<Area, 'role' | 'feature' | 'surface'> =>
  told
    ? {
        role: told.role,
        ...(told.surface ? { surface: told.surface } : {}),
        ...(told.role === 'feature' ? { feature: true as const } : {}),
      }
    : {};

/** Names of things, each told apart from the others; what has no name is called by what it is. */
export function namesOfThings(things: readonly { name: string; called: string }[]): string[] {
  const plain = things.map(({ name, called }) => name.trim() || called);
  return plain.map((name, i) => {
    const isSame = (other: string) => other.toLowerCase() === name.toLowerCase();
    if (plain.filter(isSame).length === 1) return name;
    return `${name} ${plain.slice(0, i + 1).filter(isSame).length}`;
  });
}
