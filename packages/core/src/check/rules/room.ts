import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** For long use a circuit is loaded to four fifths; rule of thumb, local code decides. */
const LONG_USE = 0.8;

/** More hair dryers than the room's circuits carry, or a step that is dried where there is none. */
export const dryerLoad: Rule = {
  id: 'dryer-load',
  look: ({ room, steps }) => {
    const used = steps.find((step) => step.dryer);
    if (used && !room.dryers?.count)
      return [
        {
          id: 'dryer-load/none',
          rule: 'dryer-load',
          about: used.title,
          words: 'This is to be dried with hair dryers, but the room has none.',
          reason: 'The room: enter how many there are.',
          serious: true,
          place: { station: 'steps', stepId: used.id },
          mend: { words: 'Let it dry by itself', command: 'editStep', args: { id: used.id, step: {}, clear: ['dryer'] } },
        },
      ];
    const { dryers, circuits } = room;
    if (!dryers || !circuits || dryers.count === 0) return [];
    const each = Math.floor((circuits.volts * circuits.amps * LONG_USE) / dryers.watts);
    if (each * circuits.count >= dryers.count) return [];
    return [
      {
        id: 'dryer-load',
        rule: 'dryer-load',
        about: 'Hair dryers',
        words: `${dryers.count} dryers of ${dryers.watts} W are more than ${circuits.count === 1 ? 'one circuit' : `${circuits.count} circuits`} of ${circuits.amps} A should carry: run ${Math.max(0, each * circuits.count)} at a time at most.`,
        reason:
          'Rule of thumb: four fifths of a circuit for long use. Local code and a licensed electrician decide. Keep dryers and leads away from water.',
        serious: true,
        place: { station: 'steps' },
        ...(each * circuits.count > 0
          ? {
              mend: {
                words: `Plan with ${each * circuits.count}`,
                command: 'setRoom',
                args: { room: { dryers: { ...dryers, count: each * circuits.count } } },
              },
            }
          : {}),
      },
    ];
  },
};

/** A lesson that lasts longer than the light to paint by. */
export const lightEnds: Rule = {
  id: 'light-ends',
  look: ({ room }, { plan }) => {
    const { startAtMin, lightUntilMin } = room;
    if (startAtMin === undefined || lightUntilMin === undefined) return [];
    const over = startAtMin + plan.endMin - lightUntilMin;
    if (over <= 0) return [];
    return [
      {
        id: 'light-ends',
        rule: 'light-ends',
        about: 'Light',
        words: `The light goes ${minutesInWords(over)} before the end. Begin earlier, or paint fewer steps outdoors.`,
        reason: 'The room: the light holds until the time you entered. Outdoors mind sun, heat and traffic.',
        serious: true,
        place: { station: 'steps' },
      },
    ];
  },
};

/** A session that lasts longer than it may. */
export const sessionTooLong: Rule = {
  id: 'session-too-long',
  look: ({ planning, steps }, { plan }) => {
    const { sessions, cutsBefore = [] } = planning;
    if (!sessions) return [];
    let begun = 0;
    let worst = 0;
    for (const item of plan.items) {
      if (item.stepId && cutsBefore.includes(item.stepId)) begun = item.startMin;
      worst = Math.max(worst, item.endMin - begun);
    }
    if (worst <= sessions.limitMin) return [];
    const first = steps[0];
    return [
      {
        id: 'session-too-long',
        rule: 'session-too-long',
        about: 'Sessions',
        words: `One session lasts ${minutesInWords(worst)}, longer than the ${minutesInWords(sessions.limitMin)} it may. Ask for the plans: they find where to end each session.`,
        reason: 'Your own limit.',
        serious: true,
        place: { station: 'steps', ...(first ? { stepId: first.id } : {}) },
      },
    ];
  },
};

/** Mist so often that the paint runs. */
export const mistRuns: Rule = {
  id: 'mist-runs',
  look: (lesson, { misses }) =>
    misses
      .filter((miss) => miss.kind === 'runs')
      .map((miss) => ({
        id: `mist-runs/${miss.stepId}/${miss.zoneId}`,
        rule: 'mist-runs',
        about: lesson.steps.find((step) => step.id === miss.stepId)?.title ?? 'Mist',
        words: 'Misted so often the paint takes in more water than it can hold, and runs.',
        reason: 'Physics: beyond a fifth of the solids a film flows by itself. Mist only paint that is being blended.',
        serious: true,
        place: { station: 'steps' as const, stepId: miss.stepId, zoneId: miss.zoneId },
        mend: {
          words: 'Leave the mist out',
          command: 'editStep' as const,
          args: { id: miss.stepId, step: {}, clear: ['medium' as const, 'mistEveryMin' as const] },
        },
      })),
};
