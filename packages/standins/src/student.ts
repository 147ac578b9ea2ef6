import { handReasons, type Level } from '@viaticum/contract';
import { viewFor } from '@viaticum/core/class';
import { helpOf, normal, STEP_SIGMA, sigmaOf, uniform } from '@viaticum/core/pace';
import { classSocket, type Place } from './socket.js';

const names = [
  'Ada', 'Bela', 'Cato', 'Dina', 'Emil', 'Fina', 'Goran', 'Hedda', 'Ivo', 'Jule', 'Kaya', 'Lasse', 'Mira', 'Nils', 'Ona', 'Pia',
  'Quentin', 'Rosa', 'Sami', 'Tove', 'Ugo', 'Vera', 'Wim', 'Xenia', 'Yann', 'Zoe',
]; // biome-ignore format: a list of names
/** Of a hundred steps so many in which a student's connection breaks. */
const LOSES = 0.05;

/** The first name of the k-th simulated student. */
export const nameOf = (k: number): string =>
  `${names[k % names.length]}${k >= names.length ? ` ${Math.floor(k / names.length) + 1}` : ''}`;

/**
 * A simulated student: joins by first name, works through the steps at a pace of their own (lognormal by level, with noise a step, as
 * the pace model has it), asks for help now and then and lowers the hand again, loses the connection and comes back. `tick` is called
 * several times a second.
 */
export function student(place: Place, k: number, level: Level, seed: number) {
  const draw = uniform(seed * 7919 + k * 104_729 + 1);
  const bell = normal(draw);
  const factor = Math.exp(sigmaOf[level] * bell());
  const socket = classSocket(place, 'phone');
  let asked = false;
  /** Class time at which the step that they are at will be done. */
  let work: { stepId: string; until: number; handAt: number | null } | null = null;
  let freeAt = 0;
  let handUntil = 0;

  const begin = (): void => {
    const state = viewFor(socket.state, socket.you ?? undefined);
    const own = socket.you ? state.students[socket.you] : undefined;
    if (!own) return;
    for (const visit of state.visits) {
      const item = state.plan?.items[visit.index];
      if (!item?.stepId || item.kind !== 'step' || own.doneAt[item.stepId] !== undefined) continue;
      if (visit.endedAt !== null && visit.endedAt <= own.joinedAt) continue;
      const shown = visit.startedAt + item.showMin * 60_000;
      const takes = (item.endMin - item.startMin - item.showMin) * 60_000 * factor * Math.exp(STEP_SIGMA * bell());
      const until = Math.max(shown, freeAt) + takes;
      const help = helpOf[level];
      const asks = draw() < help.chance;
      work = {
        stepId: item.stepId,
        until: until + (asks ? help.minutes * 60_000 : 0),
        handAt: asks ? shown + takes * draw() : null,
      };
      if (draw() < LOSES) socket.goAway(1500 + draw() * 6000);
      return;
    }
  };

  return {
    socket,
    factor,
    tick(): void {
      if (!socket.isHere) return;
      const now = socket.now();
      const state = viewFor(socket.state, socket.you ?? undefined);
      if (!socket.you) {
        if (!asked && ['open', 'running', 'held'].includes(state.phase)) {
          asked = true;
          void socket.say({ type: 'join', firstName: nameOf(k), kit: [], ...(draw() < 0.5 && { has: ['mist'] }) });
        }
        return;
      }
      const studentId = socket.you;
      const own = state.students[studentId];
      if (!own || state.phase === 'held') return;
      if (own.hand && handUntil > 0 && now > handUntil) {
        handUntil = 0;
        void socket.say({ type: 'handDown', studentId });
      }
      if (!work) {
        begin();
        return;
      }
      if (work.handAt !== null && now >= work.handAt && !own.hand) {
        work.handAt = null;
        handUntil = now + 6 * 60_000;
        const reason = handReasons[Math.floor(draw() * handReasons.length)] as (typeof handReasons)[number];
        void socket.say({ type: 'hand', studentId, reason });
      }
      if (now >= work.until) {
        const { stepId } = work;
        freeAt = now;
        work = null;
        void socket.say({ type: 'done', studentId, stepId });
      }
    },
  };
}
