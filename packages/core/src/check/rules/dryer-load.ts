import { say } from '@viaticum/contract';
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
          words: say('This is to be dried with hair dryers, but the room has none.'),
          reason: say('The room: enter how many there are.'),
          serious: true,
          place: { station: 'steps', stepId: used.id },
          fix: { words: say('Let it dry by itself'), command: 'editStep', args: { id: used.id, step: {}, clear: ['dryer'] } },
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
        about: say('Hair dryers'),
        words: say`${dryers.count} dryers of ${dryers.watts} W are more than ${circuits.count === 1 ? say('one circuit') : say`${circuits.count} circuits`} of ${circuits.amps} A should carry: run ${Math.max(0, each * circuits.count)} at a time at most.`,
        reason: say(
          'Rule of thumb: four fifths of a circuit for long use. Local code and a licensed electrician decide. Keep dryers and leads away from water.',
        ),
        serious: true,
        place: { station: 'steps' },
        ...(each * circuits.count > 0
          ? {
              fix: {
                words: say`Plan with ${each * circuits.count}`,
                command: 'setRoom',
                args: { room: { dryers: { ...dryers, count: each * circuits.count } } },
              },
            }
          : {}),
      },
    ];
  },
};
