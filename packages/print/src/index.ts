export { cardSvg, filmCards, letterWidth } from './film-cards.js';
export { packPdf } from './pack.js';
export { papers } from './sheet.js';
