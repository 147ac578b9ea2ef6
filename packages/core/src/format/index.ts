export { type CalendarEntry, isTimeZone, toIcs } from './calendar.js';
export { type Climate, readClimate } from './climate.js';
export { readRoster, toRoster } from './roster.js';
