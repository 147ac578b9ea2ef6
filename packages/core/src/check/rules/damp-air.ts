import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { planLesson } from '../../plan/index.js';
import { listInWords, minutesInWords, percentInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** From so much on damp air is worth a word; what is ordinary, and what can be done about it. */
const DAMP = 0.7;
const ORDINARY = 0.5;
const FAN = 0.3;
const DRIER = 0.15;
const WORTH_MIN = 3;

/** Damp air: what it costs, and what takes how much of it away. */
export const dampAir: Rule = {
  id: 'damp-air',
  look: (lesson, { plan, laid }): Finding[] => {
    const { room } = lesson;
    if (room.humidity < DAMP || plan.never || laid.length === 0) return [];
    const gainOf = (change: Partial<Lesson>) => plan.endMin - planLesson({ ...lesson, ...change }).plan.endMin;
    const inRoom = (change: Partial<Lesson['room']>) => gainOf({ room: { ...room, ...change } });
    const longer = inRoom({ humidity: ORDINARY });
    if (longer < WORTH_MIN) return [];
    const ways = [{ words: say('air drier by 15 %'), gainMin: inRoom({ humidity: room.humidity - DRIER }) }];
    if (room.airSpeed < FAN) ways.push({ words: say('a gentle fan'), gainMin: inRoom({ airSpeed: FAN }) });
    if (room.dryers && room.dryers.count > 0) {
      const steps = lesson.steps.map((step) => (step.technique ? { ...step, dryer: true } : step));
      ways.push({ words: say('the hair dryers'), gainMin: gainOf({ steps }) });
    }
    const told = ways
      .filter((way) => way.gainMin >= WORTH_MIN)
      .sort((one, other) => other.gainMin - one.gainMin)
      .map(({ words, gainMin }) => `${words} ${minutesInWords(gainMin)}`);
    const isLayered = lesson.steps.filter((step) => step.needs === 'wet').length > 1;
    return [
      {
        id: 'damp-air',
        rule: 'damp-air',
        about: say`${room.name}, ${percentInWords(room.humidity)} humidity`,
        words: [
          say`The damp air makes the lesson ${minutesInWords(longer)} longer than ordinary air would.`,
          ...(told.length > 0 ? [say`This takes away: ${listInWords(told)}.`] : []),
          isLayered ? say('Lay fewer wet layers on each other, and thin ones.') : say('Lay thin coats.'),
        ].join(' '),
        reason: say(
          'Physics: damp air takes water slowly. Each is worked out by itself; open the windows only where it is drier outside.',
        ),
        serious: false,
        place: { station: 'steps' },
      },
    ];
  },
};
