import type { LessonRole } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';

/** The words of lessons that several instructors have. */
export const sharingWords = worded({
  open: 'Share',
  title: (lesson: string) => say`Share “${lesson}”`,
  about:
    'Who has a link and an account here finds the lesson on their own shelf. A link is good for two weeks and is shown only now.',
  roles: { reader: 'may read and teach it', editor: 'may change it', owner: 'owner' } satisfies Record<LessonRole, string>,
  roleOf: (name: string) => say`What ${name} may do`,
  alone: 'Shared with nobody yet.',
  ownedBy: (name: string) => say`This lesson is ${name}’s.`,
  linkRole: 'Who follows the link',
  makeLink: 'Make a link',
  links: 'Open links',
  until: (when: string) => say`good until ${when}`,
  takeBack: 'Take back',
  copy: 'Copy address',
  copied: 'Copied',
  part: 'Share no more',
  partLabel: (name: string) => say`Share no more with ${name}`,
  leave: 'Leave',
  leaveAbout: 'It goes from your shelf; classes you taught from it stay.',
  left: (title: string) => say`“${title}” is no longer on your shelf.`,
  by: (name: string) => say`from ${name}`,
  toRead: (name: string) => say`from ${name}, to read`,
  comes: (owner: string, title: string) => say`${owner} shares “${title}” with you`,
  comesAbout: {
    reader: 'You may read it, teach from it, and duplicate it to go on with a lesson of your own.',
    editor: 'You may change it; you see each other while you work on it.',
  },
  put: 'Put it on my shelf',
  has: 'It stands on your shelf already.',
  openIt: 'Open it',
  over: 'This link leads nowhere',
  shelf: 'To the shelf',
  readOnly: 'You read this lesson. Duplicate it to go on with a lesson of your own.',
  readOnlyBanner: (owner: string) =>
    say`This lesson is shared with you by ${owner} to read. What you want to change goes into a copy.`,
  duplicate: 'Duplicate',
  around: (name: string, place: string) => say`${name} is here too, ${place}`,
  aroundYou: (place: string) => say`You have this lesson open elsewhere, ${place}`,
  reads: (name: string) => say`${name} is reading this`,
  at: (station: string) => say`at ${station}`,
  more: (count: number) => say`and ${count} more`,
  changed: (name: string, said: string[]) =>
    say`${name} changed: ${said.slice(0, 2).join('; ')}${said.length > 2 ? say`; and ${said.length - 2} more` : ''}.`,
});
