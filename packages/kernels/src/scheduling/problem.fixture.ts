import { seeded } from '../fixtures/seeded.js';
import type { DryingConstraint, Problem } from './index.js';

/** Steps a, b, c … of so many minutes. */
export const lettered = (...minutes: number[]) => minutes.map((value, i) => ({ id: 'abcdefghij'[i] as string, minutes: value }));

/** A constraint between two of them, named by what it says. */
export const constraint = (
  type: DryingConstraint['type'],
  from: string,
  to: string,
  minutes?: number,
  full?: boolean,
): DryingConstraint => ({
  id: `${type}:${from}-${to}`,
  type,
  from,
  to,
  source: 'test',
  ...(minutes === undefined ? {} : { minutes }),
  ...(full ? { full } : {}),
});

/** A planning problem drawn by chance: short steps with drying lags, wet windows, orders and, where wanted, breaks. */
export function drawProblem(seed: number, count: number, withBreaks: boolean): Problem {
  const random = seeded(seed);
  // The first numbers of neighbouring seeds are alike.
  for (let i = 0; i < 5; i++) random();
  const steps = Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 0.5 + Math.round(random() * 36) / 4 }));
  const constraints: DryingConstraint[] = [];
  const wanted = Math.floor(count * (0.6 + random()));
  for (let k = 0; k < wanted && count > 1; k++) {
    const i = Math.floor(random() * (count - 1));
    const j = i + 1 + Math.floor(random() * (count - 1 - i));
    const draw = random();
    const type = draw < 0.55 ? 'dry' : draw < 0.75 ? 'before' : 'wet';
    constraints.push({
      id: `r${k}`,
      type,
      from: `s${i}`,
      to: `s${j}`,
      source: 'drawn',
      ...(type === 'dry' && { minutes: Math.round(random() * 80) / 4 }),
      ...(type === 'wet' && { minutes: Math.round(random() * 60) / 4, full: random() < 0.3 }),
    });
  }
  return { steps, constraints, ...(withBreaks && { breaks: { length: 3, maxStretch: 14 + Math.round(random() * 40) / 4 } }) };
}

/** The same with pairs that may come in either order, whichever is second waiting its own time. */
export function drawEither(seed: number, count: number, withBreaks: boolean): Problem {
  const random = seeded(seed * 17 + 3);
  for (let i = 0; i < 5; i++) random();
  const problem = drawProblem(seed, count, withBreaks);
  const pairs = 1 + Math.floor(random() * count);
  for (let k = 0; k < pairs; k++) {
    const i = Math.floor(random() * count);
    const j = (i + 1 + Math.floor(random() * (count - 1))) % count;
    const [minutes, backMinutes] = [0, 0].map(() => (random() < 0.3 ? 0 : Math.round(random() * 120) / 4));
    problem.constraints.push({
      id: `e${k}`,
      type: 'either',
      from: `s${i}`,
      to: `s${j}`,
      minutes: minutes as number,
      backMinutes: backMinutes as number,
      source: 'drawn',
    });
  }
  return problem;
}

/** A problem like a lesson's: areas from back to front, each in two or three coats that must dry in between, a blend here and there. */
export function likeALesson(seed: number, count: number): Problem {
  const random = seeded(seed);
  for (let i = 0; i < 5; i++) random();
  const areas = Math.max(2, Math.round(count / 2.6));
  const steps = Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 2 + Math.round(random() * 28) / 4 }));
  const constraints: DryingConstraint[] = [];
  const lastOf = new Map<number, number>();
  for (let i = 0; i < count; i++) {
    const area = i < areas ? i : Math.floor(random() * areas);
    const below = lastOf.get(area);
    const dry = (from: number, minutes: number) =>
      constraints.push({ id: `d${from}-${i}`, type: 'dry', from: `s${from}`, to: `s${i}`, minutes, source: 'lesson' });
    if (below !== undefined) dry(below, 6 + Math.round(random() * 60) / 4);
    // A nearer area goes over the edge of the one behind it.
    const behind = lastOf.get(area - 1);
    if (behind !== undefined && random() < 0.6) dry(behind, 4 + Math.round(random() * 40) / 4);
    lastOf.set(area, i);
  }
  return { steps, constraints, breaks: { length: 10, maxStretch: 75 } };
}

/** The same with what else a plan may know: a dryer, evenings, pins. Which of them follows from the seed. */
export function drawWithAll(seed: number, count: number): Problem {
  const random = seeded(seed * 31 + 7);
  for (let i = 0; i < 5; i++) random();
  const problem = drawProblem(seed, count, random() < 0.4);
  const work = problem.steps.reduce((sum, step) => sum + step.minutes, 0);
  const longest = Math.max(...problem.steps.map((step) => step.minutes));
  if (random() < 0.5) {
    const perStep: Record<string, number> = {};
    for (const step of problem.steps) if (random() < 0.5) perStep[step.id] = 1 + Math.round(random() * 16) / 4;
    problem.dryer = { perStep, occupies: random() < 0.7 };
  }
  if (random() < 0.45) {
    const max = random() < 0.7 ? 2 : 3;
    problem.sessions = { max, limit: Math.max(longest, Math.ceil((work / max) * (1.1 + random()))) };
  }
  if (random() < 0.3) {
    const step = problem.steps[Math.floor(random() * count)] as { id: string };
    problem.pins = [{ step: step.id, start: Math.round(random() * work * 4) / 4 }];
  }
  if (random() < 0.2 && count > 2) {
    const [first, then] = [problem.steps[count - 1], problem.steps[0]] as [{ id: string }, { id: string }];
    problem.pins = [...(problem.pins ?? []), { first: first.id, then: then.id }];
  }
  return problem;
}

/**
 * A lesson full of wet windows: areas with a base that must dry, four of ten with a second colour joined into it while it is wet, lights on
 * top, and here and there two of them beside each other, whichever comes first.
 */
export function fullOfWindows(seed: number, count: number): Problem {
  const random = seeded(seed * 7919 + count);
  for (let i = 0; i < 5; i++) random();
  const between = (low: number, high: number) => Math.round((low + random() * (high - low)) * 4) / 4;
  const steps: Problem['steps'] = [];
  const constraints: DryingConstraint[] = [];
  const bases: string[] = [];
  const lights: string[] = [];
  for (let area = 0; steps.length < count; area++) {
    const add = (id: string, minutes: number) => {
      steps.push({ id, minutes });
      return id;
    };
    const base = add(`base${area}`, between(4, 8));
    bases.push(base);
    let top = base;
    if (random() < 0.4 && steps.length < count) {
      const minutes = between(1.5, 3);
      top = add(`join${area}`, minutes);
      const window = Math.max(minutes, between(3, 8));
      constraints.push({ id: `w${area}`, type: 'wet', from: base, to: top, minutes: window, full: true, source: 'drawn' });
    }
    if (steps.length >= count) break;
    const light = add(`lights${area}`, between(3, 8));
    lights.push(light);
    const minutes = top === base ? between(8, 25) : between(10, 25);
    constraints.push({ id: `d${area}`, type: 'dry', from: top, to: light, minutes, source: 'drawn' });
  }
  for (let k = 0; k < Math.round((bases.length * 3) / 4); k++) {
    const from = bases[Math.floor(random() * bases.length)] as string;
    const to = (random() < 0.5 ? bases : lights)[Math.floor(random() * lights.length)] as string;
    const [minutes, backMinutes] = [between(0, 15), between(0, 15)];
    if (from.slice(4) !== to.replace(/\D+/, ''))
      constraints.push({ id: `e${k}`, type: 'either', from, to, minutes, backMinutes, source: 'drawn' });
  }
  return { steps, constraints };
}
