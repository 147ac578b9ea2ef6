export { type CalendarEntry, isTimeZone, toIcs } from './calendar.js';
export { type Climate, readClimate } from './climate.js';
export { toCsv } from './csv.js';
export { paintCsv, premixCsv, shoppingCsv } from './kit.js';
export { recordCsv } from './record.js';
export { namesIn, type Roster, readRoster, shortNames, toRoster } from './roster.js';
