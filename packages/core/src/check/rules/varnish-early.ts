import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** Varnish before the layers beneath are cured. */
export const varnishEarly: Rule = {
  id: 'varnish-early',
  look: ({ steps }) =>
    steps
      .filter((step) => /varnish|firnis/i.test(step.title) && step.needs !== 'cured')
      .map(
        (step): Finding => ({
          id: `varnish-early/${step.id}`,
          rule: 'varnish-early',
          about: step.title,
          words: say('This varnishes layers that have not cured.'),
          reason: say(
            'Physics: water still leaves a film long after it is touch-dry; varnish shuts it in. Keep to the label; let brushed varnish rest a day before packing, and spray only outdoors or with ventilation.',
          ),
          serious: true,
          place: { station: 'steps', stepId: step.id },
          fix: { words: say('Wait until it is cured'), command: 'editStep', args: { id: step.id, step: { needs: 'cured' } } },
        }),
      ),
};
