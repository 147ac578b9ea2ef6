import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** A reference whose source nobody has stated. */
export const permissionUnset: Rule = {
  id: 'permission-unset',
  look: (lesson) =>
    lesson.references
      .filter((reference) => reference.permission.kind === 'unset')
      .map(
        (reference): Finding => ({
          id: `permission-unset/${reference.id}`,
          rule: 'permission-unset',
          about: say('Reference picture'),
          words: say('Nobody has said where this picture comes from.'),
          reason: say('Common practice: a class copies it, so its maker must have agreed.'),
          serious: false,
          place: { station: 'picture' },
          fix: {
            words: say('It is my own photo'),
            command: 'setPermission',
            args: { id: reference.id, permission: { kind: 'own' } },
          },
        }),
      ),
};
