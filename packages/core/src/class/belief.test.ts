import { describe, expect, it } from '@jest/globals';
import type { Plan } from '@viaticum/contract';
import { driven, instructor, item, minute, plan } from './class.fixture.js';
import {
  type Belief,
  belief,
  type ClassState,
  coatsNow,
  fold,
  lastSign,
  leftBehind,
  needs,
  newClass,
  stateHash,
} from './index.js';

/** Four steps of eight minutes with two of showing, and a drying pause after the third. */
const long: Plan = {
  ...plan,
  items: [
    { ...item('ground', 0, 8), showMin: 2, areaIds: ['all'] },
    { ...item('hills', 8, 16), showMin: 2, areaIds: ['hills'] },
    { ...item('barn', 16, 24), showMin: 2, areaIds: ['barn'] },
    { ...item(undefined, 24, 30), areaIds: ['barn'] },
    { ...item('fence', 30, 38), showMin: 2, areaIds: ['fence'] },
  ],
  coats: ['ground', 'hills', 'barn'].map((stepId, i) => ({
    stepId,
    areaId: stepId,
    mixIds: [],
    laidFromMin: i * 8 + 2,
    laidToMin: i * 8 + 8,
    openMin: 3,
    paintOverMin: 6,
    touchDryMin: 9,
    firmMin: null,
    dryUm: 20,
    wetUm: 50,
    coverShare: 1,
  })),
  endMin: 38,
  waitMin: 6,
};
const START = 1_000_000;
/** A class that goes on as planned; `said` says who said Done to what, at which minute. */
function taught(said: readonly (readonly [who: string, stepId: string, atMin: number])[], untilMin: number) {
  const room = driven(long);
  const people = new Map([...new Set(said.map(([who]) => who)), 'Nobody'].map((name) => [name, room.join(name)]));
  const acts = [
    ...long.items.map(({ startMin }, i) => ({ at: startMin, act: () => room.say(instructor, { type: 'goOn', from: i - 1 }) })),
    ...said.map(([who, stepId, at]) => ({
      at,
      act: () => {
        const self = people.get(who);
        if (self) room.say(self, { type: 'done', studentId: self.id, stepId });
      },
    })),
  ].sort((a, b) => a.at - b.at);
  for (const { at, act } of acts) {
    if (at > untilMin) break;
    room.now = START + at * minute;
    act();
  }
  room.now = START + untilMin * minute;
  const student = (name: string) => room.state.students[people.get(name)?.id ?? ''] as ClassState['students'][string];
  return { room, people, student, at: (min: number) => START + min * minute };
}
const all = [
  ['Mia', 'ground', 7.5],
  ['Mia', 'hills', 15.5],
  ['Mia', 'barn', 23.5],
] as const;
const forgetful = [
  ['Ole', 'ground', 7.6],
  ['Ole', 'barn', 23.4],
] as const;
const stuck = [
  ['Pia', 'ground', 7.4],
  ['Pia', 'hills', 15.4],
] as const;

const told = (one: Belief) => ({ ...one, fingerprint: one.fingerprint() });

describe('what may be believed of a student', () => {
  it('who says Done each time is with the class', () => {
    const { room, student, at } = taught(all, 26);
    const found = belief(room.state, student('Mia'), at(26));
    expect(found.late).toBeNull();
    expect(found.stepNow).toBeNull();
    expect([...found.standing.values()].map(({ how }) => how)).toEqual(['said', 'said', 'said']);
  });
  it('a forgotten Done mends itself: it is assumed at its likely time, and nobody is late or wet for it', () => {
    const { room, student, at } = taught([...all, ...forgetful], 26);
    const found = belief(room.state, student('Ole'), at(26));
    expect(found.late).toBeNull();
    expect(found.standing.get('hills')?.how).toBe('assumed');
    const likely = ((found.standing.get('hills')?.at?.likely ?? 0) - START) / minute;
    expect(likely).toBeGreaterThan(11);
    expect(likely).toBeLessThan(20);
    const { coats, minute: now } = coatsNow(room.state, at(26), student('Ole'));
    const hills = coats.find((coat) => coat.stepId === 'hills');
    expect(hills && hills.laidToMin < now).toBe(true);
    // Never freed before the class had it.
    expect(hills?.laidToMin).toBeGreaterThanOrEqual(16 - 1e-9);
  });
  it('the silent one who used to press is found, first of all but hands; a look lets them be for a while', () => {
    const { room, people, student, at } = taught([...all, ...stuck, ...forgetful], 30);
    const later = at(31);
    expect(belief(room.state, student('Pia'), later).isQuiet).toBe(true);
    expect(belief(room.state, student('Mia'), later).isQuiet).toBe(false);
    const found = needs(room.state, later);
    expect(found[0]).toMatchObject({ firstName: 'Pia', why: 'quiet', since: at(15.4) });
    expect(lastSign(room.state, student('Pia'))).toBe(at(15.4));
    // Whose phone is not there is away, not quiet.
    expect(
      needs(room.state, later, (id) => (id === student('Pia').id ? later - minute : null)).map((one) => one.firstName),
    ).not.toContain('Pia');
    // For long: a word for it, after all others.
    const long = needs(room.state, later, (id) => (id === student('Pia').id ? later - 7 * minute : null));
    expect(long.at(-1)).toMatchObject({ firstName: 'Pia', why: 'away', since: later - 7 * minute });
    const ole = people.get('Ole');
    room.now = later;
    if (ole) room.say(ole, { type: 'hand', studentId: ole.id, reason: 'colour' });
    expect(needs(room.state, later).map((one) => one.why)).toEqual(expect.arrayContaining(['hand', 'quiet']));
    expect(needs(room.state, later)[0]?.why).toBe('hand');
    room.say(instructor, { type: 'seen', studentId: student('Pia').id });
    expect(needs(room.state, later + minute).map((one) => one.firstName)).not.toContain('Pia');
  });
  it('who never presses is looked at in turns, and their lateness does not grow with the class', () => {
    const { room, student, at } = taught(all, 30);
    expect(needs(room.state, at(20)).find((one) => one.firstName === 'Nobody')?.why).toBe('silent');
    expect(belief(room.state, student('Nobody'), at(30)).late?.minutes ?? 0).toBeLessThan(7);
  });
  it('answers say what is known: when we went on, still at it, left out', () => {
    const { room, people, student, at } = taught([...all, ...stuck], 26);
    const pia = people.get('Pia') as { kind: 'student'; id: string };
    const answer = (stepId: string, is: 'when-we-went-on' | 'still' | 'left-out') =>
      room.say(pia, { type: 'answer', studentId: pia.id, stepId, is });
    const before = belief(room.state, student('Pia'), at(26)).standing.get('barn')?.at?.likely ?? 0;
    answer('barn', 'still');
    expect(belief(room.state, student('Pia'), at(26)).standing.get('barn')?.at?.likely).toBeGreaterThanOrEqual(before);
    answer('barn', 'when-we-went-on');
    expect(student('Pia').doneAt.barn).toBe(at(24));
    expect(answer('barn', 'left-out')).toBe(0);
    room.say(instructor, { type: 'notYet', studentId: pia.id, stepId: 'barn' });
    answer('barn', 'left-out');
    expect(belief(room.state, student('Pia'), at(26)).standing.get('barn')?.how).toBe('left-out');
    expect(belief(room.state, student('Pia'), at(26)).late).toBeNull();
  });
  it('the desk says Done and not done for every step, also of what was only assumed', () => {
    const { room, people, student, at } = taught([...all, ...forgetful], 26);
    const ole = people.get('Ole') as { kind: 'student'; id: string };
    room.say(instructor, { type: 'done', studentId: ole.id, stepId: 'hills' });
    expect(student('Ole').doneBy).toEqual({ hills: 'desk' });
    room.say(instructor, { type: 'notYet', studentId: ole.id, stepId: 'hills' });
    expect(student('Ole').doneAt.hills).toBeUndefined();
    room.say(instructor, { type: 'notYet', studentId: ole.id, stepId: 'barn' });
    expect(belief(room.state, student('Ole'), at(26.5)).stepNow).not.toBeNull();
    // A student takes back only what they just said.
    expect(room.say(ole, { type: 'notYet', studentId: ole.id, stepId: 'hills' })).toBe(0);
  });
  it('who came late is not late with what was over before', () => {
    const { room, at } = taught(all, 17);
    room.now = at(17);
    const jo = room.join('Jo');
    const student = room.state.students[jo.id] as ClassState['students'][string];
    const found = belief(room.state, student, at(18));
    expect(found.late).toBeNull();
    expect(found.stepNow).toBe('barn');
  });
  it('is a function of what was said: folded again from its events it is the same, bit for bit', () => {
    const { room, student, at } = taught([...all, ...stuck, ...forgetful], 29);
    const again = newClass();
    for (const event of room.events) fold(again, JSON.parse(JSON.stringify(event)));
    expect(stateHash(again)).toBe(stateHash(room.state));
    for (const name of ['Mia', 'Pia', 'Ole', 'Nobody']) {
      const own = student(name);
      const other = again.students[own.id] as ClassState['students'][string];
      expect(told(belief(again, other, at(29)))).toEqual(told(belief(room.state, own, at(29))));
    }
  });
  it('looked at after every event it is the same as looked at once at the end', () => {
    const { room, student, at } = taught([...all, ...stuck, ...forgetful], 29);
    const step = newClass();
    for (const event of room.events) {
      fold(step, JSON.parse(JSON.stringify(event)));
      for (const one of Object.values(step.students)) belief(step, one, event.at);
    }
    for (const name of ['Mia', 'Pia', 'Ole', 'Nobody']) {
      const own = student(name);
      const other = step.students[own.id] as ClassState['students'][string];
      expect(told(belief(step, other, at(29)))).toEqual(told(belief(room.state, own, at(29))));
    }
  });
  it('going on says whom it would leave behind, once that is near', () => {
    const { room, at } = taught([...all, ...stuck], 24);
    // Mia is done with the barn; of Pia nothing was heard of it, and it takes six minutes after two of showing.
    const early = taught([...all, ...stuck], 19);
    expect(leftBehind(early.room.state, early.at(19))).toEqual([]);
    const behind = leftBehind(room.state, at(24.2));
    expect(behind.flatMap(({ names }) => names)).not.toContain('Mia');
    expect(behind.find(({ stepId }) => stepId === 'barn')?.names).toContain('Pia');
  });
});
