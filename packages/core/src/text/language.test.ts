import { afterEach, describe, expect, it } from '@jest/globals';
import {
  type Catalogue,
  type Lesson,
  learn,
  say,
  sayAgain,
  sayBy,
  serverErrors,
  speak,
  speaking,
  worded,
} from '@viaticum/contract';
import { german, sentences } from '../../../../tools/sentences.mjs';
import { findings } from '../check/index.js';
import { draftInTime } from '../draft/index.js';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { counted, degreesInWords, listInWords, setMeasures, the, usualMeasures, volumeInWords } from '../units/index.js';
import { reworded } from './tongue.js';

const catalogue = german() as Catalogue;
learn('de', catalogue);
afterEach(() => speak('en'));

const filled = (text: string): string[] => [...text.matchAll(/\{\d+\}/g)].map(([place]) => place);

describe('what is said in German', () => {
  it('is there for every sentence of the sources, and for nothing else', () => {
    const said = sentences() as Map<string, string[]>;
    expect([...said.keys()].filter((key) => catalogue[key] === undefined)).toEqual([]);
    expect(Object.keys(catalogue).filter((key) => !said.has(key))).toEqual([]);
    expect(said.size).toBeGreaterThan(4500);
  });

  it('fills in nothing that the English has not, and keeps what stands at its ends', () => {
    for (const [english, own] of Object.entries(catalogue)) {
      expect({ english, places: filled(own).filter((place) => !filled(english).includes(place)) }).toEqual({
        english,
        places: [],
      });
      expect({ english, ends: [own.startsWith(' '), own.endsWith(' ')] }).toEqual({
        english,
        ends: [english.startsWith(' '), english.endsWith(' ')],
      });
    }
  });

  it('is another sentence than the English, but for names and words that both have', () => {
    const same = Object.entries(catalogue).filter(([english, own]) => english === own && /[a-z]{3,} [a-z]{3,}/.test(english));
    expect(same).toEqual([]);
  });

  it('writes numbers, lists and names as German does', () => {
    setMeasures({ ...usualMeasures, language: 'de' });
    expect(volumeInWords(2.5)).toBe('2,5 ml');
    expect(degreesInWords(18.5)).toBe('18,5 °C');
    expect(counted(1, 'step')).toBe('1 Schritt');
    expect(counted(3, 'step')).toBe('3 Schritte');
    expect(listInWords(['Himmel', 'Hügel', 'Steg'])).toBe('Himmel, Hügel und Steg');
    // Nobody knows whether it is der, die or das.
    expect(the('Himmel')).toBe('„Himmel“');
    setMeasures(usualMeasures);
  });
});

describe('a sentence', () => {
  it('is English where no catalogue has it, and what tells two meanings apart is not said', () => {
    speak('de');
    expect(sayBy('nobody translated {0}', 3)).toBe('nobody translated 3');
    expect(say('brush|round')).toBe('Rundpinsel');
    expect(speaking('en', () => say('brush|round'))).toBe('round');
    expect(speaking('en', () => say('round'))).toBe('round');
    expect(say('round')).toBe('rund');
  });

  it('in a list is looked up when it is read', () => {
    const words = worded({ one: 'Undo', more: [{ two: 'Redo' }], kind: 'undo' }, ['one', 'two']);
    expect([words.one, words.more[0]?.two, words.kind]).toEqual(['Undo', 'Redo', 'undo']);
    speak('de');
    expect([words.one, words.more[0]?.two, words.kind]).toEqual(['Rückgängig', 'Wiederholen', 'undo']);
  });

  it('that a server said in English is known again, also with what was filled in', () => {
    const { sentence } = serverErrors.ownerOnly;
    const named = say`There is a ${'Mara'} already. Add the first letter of your second name.`;
    speak('de');
    expect(sayAgain(sentence)).toBe('Das darf nur, wem dieses Viaticum gehört.');
    expect(sayAgain(named)).toBe('Es gibt schon Mara. Füg den ersten Buchstaben deines Nachnamens hinzu.');
    expect(sayAgain('Something nobody knows.')).toBe('Something nobody knows.');
  });
});

describe('a lesson', () => {
  let last = 0;
  const ids = () => `de${last++}`;
  const drafted = (language: string): Lesson => draftInTime({ ...demoLesson(), language }, ids);

  it('is drafted in its own language, whoever asks', () => {
    expect(drafted('en').steps.some(({ say: words }) => /\bthe\b/.test(words))).toBe(true);
    const own = drafted('de');
    const texts = own.steps.flatMap((step) => [step.say, step.watch, step.checkpoint, step.finish]);
    expect(texts.filter((text) => /\b(the|and|with|then|first)\b/i.test(text))).toEqual([]);
    expect(own.stages.map(({ name }) => name).filter((name) => /Ground|Lights/.test(name))).toEqual([]);
  });

  it('is said in the other language, but for what somebody wrote, and comes back as it was', () => {
    const before = drafted('en');
    const mine = before.steps.map((step, k) => (k === 2 ? { ...step, say: 'As my aunt did it: slowly.' } : step));
    const there = reworded({ ...before, steps: mine }, 'de');
    expect(there.language).toBe('de');
    expect(there.steps[2]?.say).toBe('As my aunt did it: slowly.');
    const changed = there.steps.filter((step, k) => step.checkpoint !== '' && step.checkpoint !== mine[k]?.checkpoint);
    expect(changed.length).toBeGreaterThan(mine.filter(({ checkpoint }) => checkpoint !== '').length * 0.8);
    const back = reworded(there, 'en');
    expect(back.steps.map((step) => [step.title, step.say, step.checkpoint])).toEqual(
      mine.map((step) => [step.title, step.say, step.checkpoint]),
    );
  });

  it('has findings that are German throughout', () => {
    speak('de');
    const lesson = { ...demoLesson(), language: 'de', title: 'Ballons' };
    const found = findings(lesson, planLesson(lesson));
    expect(found.length).toBeGreaterThan(0);
    for (const { words, reason } of found) expect(`${words} ${reason}`).not.toMatch(/\b(the|and|with|practice|before)\b/);
  });
});
