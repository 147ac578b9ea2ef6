export { litWords, sideOf } from './light-words.js';
export { plainWords, type RichLine, richLines, richWords } from './rich.js';
export {
  announcement,
  careWords,
  lineWords,
  otherWords,
  paintingWords,
  plainSay,
  readingMinutes,
  type StepWords,
} from './step-words.js';
export { stopTestOf } from './stop-test.js';
export { inItsLanguage, reworded } from './tongue.js';
