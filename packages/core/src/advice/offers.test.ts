import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { bestOffer, coatFacts, leversOf, type Offer, offersFor, seamPlaces } from './index.js';

const hot: Lesson['room'] = { name: 'terrace', airC: 31, humidity: 0.25, airSpeed: 0.3 };
const blend = testStep('one', { technique: 'blend', doMin: 10, showMin: 1, brushId: 'flat-1-in' });
const lesson: Lesson = { ...smallLesson([blend, testStep('two', { needs: 'paintOver' })]), room: hot };
const by = (offers: Offer[], kind: Offer['kind']) => offers.find((one) => one.kind === kind) as Offer;

describe('a blend that outlasts its paint', () => {
  const offers = offersFor(lesson, 'one');

  const own = planLesson(lesson).minutes.get('one');
  // What is mixed is mixed before the first stroke.
  const takesMin = (own?.doMin as number) - (own?.leadMin as number);

  it('a hot dry day offers misting, often enough and without making it run', () => {
    const mist = by(offers, 'mist');
    expect(mist).toMatchObject({ works: true, command: 'editStep', takesMin });
    expect(takesMin).toBeLessThan(10);
    expect(mist.but).toBeUndefined();
    expect(mist.openMin).toBeGreaterThanOrEqual(takesMin);
    expect(mist.words).toMatch(/^mist it every (0\.5|1|1\.5|2) min$/);
  });

  it('the one a check proposes is the first that is enough, changes the step alone and has no drawback', () => {
    for (const air of [hot, { ...hot, airC: 26, humidity: 0.4 }, { ...hot, airC: 36, airSpeed: 1 }]) {
      const here = { ...lesson, room: air };
      const plan = planLesson(here);
      const first = offersFor(here, 'one', plan).find((one) => one.works && one.command === 'editStep' && !one.but);
      expect(bestOffer(here, 'one', plan)?.words).toBe(first?.words);
    }
    expect(bestOffer(lesson, 'one', planLesson(lesson))).not.toBeNull();
    expect(bestOffer(lesson, 'no such step', planLesson(lesson))).toBeNull();
  });

  it('each offer does what it says when it is taken', () => {
    for (const offer of offers) {
      if (offer.command !== 'editStep') continue;
      const taken = carryOut(startHistory(lesson), 'editStep', offer.args as never).lesson;
      const plan = planLesson(taken);
      const open = plan.laid[0]?.times.openMin as number;
      expect([offer.kind, Math.abs(open / offer.openMin - 1) < 0.02]).toEqual([offer.kind, true]);
      const fails = plan.misses.some((miss) => miss.kind === 'blend-outlasts');
      expect([offer.kind, fails]).toEqual([offer.kind, !offer.works]);
    }
  });

  it('divided, every part is short enough, and the parts follow each other without a wait', () => {
    const divide = by(offers, 'divide');
    expect(divide.works).toBe(true);
    if (divide.command !== 'divideStep') throw new Error('it is divided by a command');
    const { parts, places } = divide.args;
    expect(places).toHaveLength(parts - 1);
    const ids = Array.from({ length: parts - 1 }, (_, k) => `p${k}`);
    const taken = carryOut(startHistory(lesson), 'divideStep', { ...divide.args, ids }).lesson;
    expect(taken.steps).toHaveLength(parts + 1);
    expect(taken.steps[0]?.title).toBe(`one, part 1 of ${parts}`);
    expect(taken.steps[0]?.say).toContain(`Stop ${places[0] as string}`);
    const plan = planLesson(taken);
    expect(plan.misses).toEqual([]);
    expect(plan.solution.items[1]?.start).toBe(plan.solution.items[0]?.end);
  });

  it('two people halve it, a wider brush shortens it, slow paint keeps the next step waiting for a day', () => {
    expect(by(offers, 'two-people')).toMatchObject({ takesMin: takesMin / 2, command: null });
    expect(by(offers, 'brush').takesMin).toBeLessThan(takesMin);
    expect(by(offers, 'slow').openMin).toBeGreaterThan(600);
    expect(by(offers, 'slow').but).toMatch(/^painted over only after/);
    expect(by(offers, 'retarder').openMin).toBeGreaterThan(by(offers, 'brush').openMin);
  });

  it('nothing is offered where there is time enough, or nothing is blended', () => {
    expect(offersFor({ ...lesson, steps: [{ ...blend, doMin: 2 }] }, 'one')).toEqual([]);
    expect(offersFor(lesson, 'two')).toEqual([]);
    expect(offersFor(lesson, 'gone')).toEqual([]);
  });
});

describe('seams', () => {
  it('part an area into equal shares across its longer side', () => {
    const whole = { ...lesson, areas: lesson.areas.slice(0, 1) };
    // 200 by 250 mm: thirds from the top.
    expect(seamPlaces(whole, 'a', 3)).toEqual(['8.3 cm from the top', '16.7 cm from the top']);
    expect(seamPlaces({ ...whole, units: 'in' }, 'a', 2)).toEqual(['4 15/16 in from the top']);
    expect(seamPlaces(whole, 'none', 2)).toEqual([]);
  });
});

describe('what makes a coat take so long', () => {
  const quiet: Lesson = { ...smallLesson([testStep('one', {}), testStep('two', { needs: 'touchDry' })]) };
  const room = { ...quiet.room, dryers: { count: 3, watts: 1200 }, seats: 12 };

  it('levers are strongest first, and each does to the lesson what it says', () => {
    const { rung, levers } = leversOf({ ...quiet, room }, 'one');
    expect(rung).toBe('touchDry');
    expect(levers.length).toBeGreaterThanOrEqual(5);
    const end = planLesson({ ...quiet, room }).plan.endMin;
    let last = Number.NEGATIVE_INFINITY;
    for (const lever of levers) {
      expect(lever.lessonMin).toBeGreaterThanOrEqual(last);
      last = lever.lessonMin;
      expect(lever.coatMin).toBeLessThan(0);
      if (lever.command === null) continue;
      const pulled = carryOut(startHistory({ ...quiet, room }), lever.command as 'editStep', lever.args as never).lesson;
      expect([lever.words, planLesson(pulled).plan.endMin]).toEqual([lever.words, end + lever.lessonMin]);
    }
  });

  it('dryers go round: more students, more turns; none in the room, none offered', () => {
    const minutes = (seats: number, count: number) => {
      const steps = quiet.steps.map((step) => (step.id === 'one' ? { ...step, dryer: true } : step));
      return planLesson({ ...quiet, steps, room: { ...room, seats, dryers: { count, watts: 1200 } } }).plan.endMin;
    };
    const undried = planLesson(quiet).plan.endMin;
    expect(minutes(2, 2)).toBeLessThan(undried - 5);
    expect(minutes(8, 2)).toBeGreaterThan(minutes(2, 2));
    expect(minutes(300, 1)).toBe(undried);
    expect(leversOf(quiet, 'one').levers.map((lever) => lever.words)).not.toContain('the hair dryers, in turns');
  });
});

describe('a coat by itself', () => {
  it('paint into wet paint dries as one film with it; into dry paint it does not', () => {
    const wet = planLesson(
      smallLesson([testStep('one', { doMin: 1, medium: 'retarder' }), testStep('two', { doMin: 1, needs: 'wet' })]),
    );
    const [first, second] = wet.coats;
    expect(second?.times.paintOverMin).toBeGreaterThan((first?.times.paintOverMin as number) * 1.2);
    expect(second?.ownShare).toBeCloseTo(0.5, 1);
    // The second holds no retarder, so a little more of it is solid.
    expect(Math.abs((second?.dryUm as number) - (first?.dryUm as number))).toBeLessThan(1.5);
    const dry = planLesson(smallLesson([testStep('one', {}), testStep('two', { needs: 'paintOver' })]));
    expect(dry.coats[1]?.ownShare).toBe(1);
  });

  it('its facts hold the likely range round what is likeliest', () => {
    const facts = coatFacts(demoLesson(), 's3');
    if (!facts) throw new Error('the sky is painted');
    for (const rung of ['openMin', 'paintOverMin', 'touchDryMin'] as const) {
      expect(facts.range.early[rung]).toBeLessThan(facts.times[rung]);
      expect(facts.range.late[rung]).toBeGreaterThan(facts.times[rung]);
    }
    expect(coatFacts(demoLesson(), 's2')).toBeNull();
  });
});
