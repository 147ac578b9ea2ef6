export { litWords, sideOf } from './light-words.js';
export { plainWords, type RichLine, richLines, richWords } from './rich.js';
export { careWords, lineWords, otherWords, paintingWords, plainSay, readingMinutes, type StepWords } from './step-words.js';
export { stopTestOf } from './stop-test.js';
