export { packPdf } from './pack.js';
export { papers } from './sheet.js';
