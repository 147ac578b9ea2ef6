import type { Lesson, Room, Studio } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { coatTimes, saturationDensity } from '../coat/index.js';
import { counted } from '../units/index.js';
import { groupOf } from './parts.js';

/** For long use a circuit is loaded to four fifths: a rule common in wiring codes (from memory); local code decides. */
const LONG_USE = 0.8;
export const CODE_DECIDES = () =>
  say(
    'Reckoned as a rule of thumb. Local code and a licensed electrician decide; ask who looks after the building which sockets share a circuit.',
  );

/** How many dryers of so many watts one circuit carries beside what hangs on it already; never less than none. */
export function circuitLoad(volts: number, amps: number, watts: number, otherW = 0): { limitW: number; dryers: number } {
  const limitW = volts * amps * LONG_USE;
  return { limitW, dryers: watts > 0 ? Math.max(0, Math.floor((limitW - otherW) / watts)) : 0 };
}

/** People give off about 50 g of water an hour (a textbook's order of size, from memory). */
const WATER_G_PER_HOUR = 50;
/** Fresh air, litres a second: for each person and each m² of an art room (from memory). */
const FRESH_L_PER_S = { person: 5, m2: 0.9 };
const TABLE_M2 = 0.9 * 0.6;
/** Light on the canvases: EN 12464-1 names 500 lx for art rooms in schools, 750 in art schools, rendering of 80 and 90 (from memory). */
const LIGHT_LX = { school: 500, art: 750 };
/** What a white lamp gives by the watt, and how much of it reaches a table (judged). */
const LAMP = { lmPerW: 100, reaches: 0.5 };

/** By how much people make the air of a room damper, as a share of saturation. */
export const dampness = (people: number, roomM3: number, changesAnHour: number, airC: number): number =>
  (people * WATER_G_PER_HOUR) / (changesAnHour * roomM3) / (saturationDensity(airC) * 1000);

export type KitRoom = {
  people: number;
  tables: number;
  tableM2: number;
  /** Dryers that may run on each circuit, and in all; null where the room says nothing of circuits. */
  dryers: { each: number; inAll: number; limitW: number; watts: number; amps: number; volts: number } | null;
  /** The air of the full room, and how that changes when a block-in may be painted over, min. */
  full: Room;
  damperBy: number;
  paintOverMin: { as: number; full: number };
  freshLPerS: number;
  /** What light the tables need, in words. */
  light: string;
  waste: string[];
};

/** The room with this group in it: seats, circuits, its air, and where the water goes. */
export function kitRoom(lesson: Lesson, studio: Studio): KitRoom {
  const { heads, tableOf } = groupOf(lesson);
  const { room } = lesson;
  const people = heads + 1;
  const given = room.outdoors ? 0 : dampness(people, studio.roomM3, studio.airChanges, room.airC);
  // Air that is nearly full of water takes no more: it condenses.
  const full = { ...room, humidity: Math.max(room.humidity, Math.min(0.98, room.humidity + given)) };
  const damperBy = full.humidity - room.humidity;
  const over = (air: Room) => coatTimes({ technique: 'block-in', absorbGPerM2: 2 }, air).paintOverMin;
  const { circuits, dryers } = room;
  const watts = dryers?.watts ?? 1200;
  const load = circuits && circuitLoad(circuits.volts, circuits.amps, watts, studio.otherW);
  return {
    people,
    tables: Math.ceil(heads / tableOf),
    tableM2: heads * TABLE_M2,
    dryers:
      circuits && load
        ? {
            each: load.dryers,
            inAll: load.dryers * circuits.count,
            limitW: load.limitW,
            watts,
            amps: circuits.amps,
            volts: circuits.volts,
          }
        : null,
    full,
    damperBy,
    paintOverMin: { as: over(room), full: over(full) },
    freshLPerS: people * FRESH_L_PER_S.person + (studio.roomM3 / 3) * FRESH_L_PER_S.m2,
    light: lightInWords(heads * TABLE_M2),
    waste: [
      say('Let the solids of paint water settle overnight, and clear water off as the place allows.'),
      say('Dried solids and skins go to solid waste; never into a storm drain or a kitchen sink.'),
      say('Towels with wet varnish are laid out flat to dry.'),
      say`Leads of dryers are unrolled, none lies across a way, none beside water. ${counted(heads, 'painter')} walk here with pots.`,
    ],
  };
}

/** How many watts of lamps light so many m² of tables as an art room is lit. */
export const lampWatts = (m2: number): number => (m2 * LIGHT_LX.art) / (LAMP.lmPerW * LAMP.reaches);

const lightInWords = (m2: number): string =>
  say`Light on the canvases: ${LIGHT_LX.school} to ${LIGHT_LX.art} lux, about ${Math.ceil(lampWatts(m2) / 10) * 10} W of LED lamps over these tables, of one daylight colour (about 5000 K, rendering 90 or more), so that everybody mixes by the same light. From the side of the hand that does not paint, and none that shines back from wet paint.`;
