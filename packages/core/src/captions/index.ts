export { breakCues, type SaidCue } from './break.js';
export { type ChainLink, type ChainPoint, leastCostTimes } from './chain.js';
export { type CaptionFault, type CaptionFile, type Cue, captionLimits, readCaptions } from './read.js';
export { type CaptionRules, captionRules } from './rules.js';
export { captionChain, type Span, type TakenCue, type TooMuchSaid, timeCues } from './time.js';
export { countWords, plainCaption, spoken, spokenSeconds, type TimedWord, wordsOf } from './words.js';
export { stamp, type TimedText, toMetadataVtt, toSrt, toVtt } from './write.js';
