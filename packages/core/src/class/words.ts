import { say, worded } from '@viaticum/contract';
import { listInWords, minutesInWords, uncapital } from '../units/index.js';

/** A name with its article, as it stands in a sentence: “the sky”, “the whole canvas”. */
const asThe = (name: string): string => (/^(the|an?|my|your)\s/i.test(name) ? uncapital(name) : say`the ${uncapital(name)}`);
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Sentences about people in a class that more than one screen says. Minutes are rounded up: nothing is said to be dry that is not. */
export const classWords = worded({
  /** Of a press that waits for a network. */
  kept: 'Kept, will be sent',
  noNetwork: (minutes: number): string => say`no network for ${minutes} min`,
  /** Of a hand that was raised without a network, by the minute of the class. */
  handKept: (minute: number): string => say`asked at ${minute} min, without network`,
  goOn: (title: string): string => say`Go on: ${uncapital(title)}`,
  /** Of a coat that is wet where one would paint. */
  needsMore: (name: string, minutes: number): string =>
    Number.isFinite(minutes)
      ? say`${capital(asThe(name))} needs ${minutesInWords(Math.ceil(minutes - 1e-9))} more`
      : say`${capital(asThe(name))} does not dry in this air`,
  /** Who is still at which step. */
  notWith: (left: readonly { names: string; title: string }[]): string =>
    say`not with you yet: ${left.map(({ names, title }) => `${names} (${uncapital(title)})`).join(', ')}`,
  /** Of a coat that a touch found dry. */
  touchedDry: (name: string, by: 'assistant' | 'you' | null): string =>
    say`${capital(asThe(name))} is dry${by === 'assistant' ? say(' (touched by the assistant)') : ''}.`,
  /** To a student whom the class left behind. */
  finishFirst: (next: string, own: string): string => say`We went on to “${next}”. Finish “${own}” first.`,
  ownDryIn: (name: string, minutes: number): string =>
    Number.isFinite(minutes)
      ? say`Your ${uncapital(name).replace(/^(the|an?)\s/i, '')} is dry in about ${minutesInWords(Math.ceil(minutes - 1e-9))}.`
      : say`Your ${uncapital(name).replace(/^(the|an?)\s/i, '')} does not dry in this air.`,
  /** A key that says dry, pressed when that is hardly likely. */
  early: (minutes: number, planned: number): string =>
    say`Dry after ${minutes} min? The model says ${planned}. Press D again within 4 s, or touch another.`,
  silent: 'says nothing: look when you pass',
  list: (names: readonly string[]): string => listInWords([...names]),
});
