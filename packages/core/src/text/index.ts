export { plainWords, type RichLine, richLines, withBold, withList } from './rich.js';
