import { say, worded } from '@viaticum/contract';
/** The words of what a lesson was, and of two versions that meet. */
export const historyWords = worded({
  open: 'Versions',
  title: 'Earlier versions',
  about:
    'One a minute is kept for an hour, one an hour for a day, then one a day. Those with a name, taught ones and both sides of a conflict stay.',
  present: 'as it is now',
  kinds: {
    auto: '',
    kept: 'stood beside another, kept',
    won: 'stood when two met',
    pinned: 'taught or handed out',
  },
  by: (author: string) => say`by ${author}`,
  look: (when: string) => say`Look at ${when}`,
  since: 'Since then',
  same: 'Nothing has changed since then.',
  more: (count: number) => say`and ${count} more`,
  back: 'Go back to this',
  wentBack: (when: string) => say`The lesson is as it was ${when}.`,
  name: 'Name',
  nameIt: 'Name it',
  none: 'No earlier version yet.',
  mine: 'Yours',
  theirs: (who: string) => say`The other, saved ${who}`,
  unchanged: 'Nothing else.',
  both: 'Bring both together',
  bothAbout: 'What lies apart is joined. Where both changed the same part, choose:',
  cannot: (fault: string) => say`The two cannot be brought together. ${fault}`,
  joined: (said: string[]) =>
    say`Saved elsewhere meanwhile, and joined with yours: ${said.slice(0, 2).join('; ')}${said.length > 2 ? say`; and ${said.length - 2} more` : ''}.`,
  partOf: 'this part',
});
