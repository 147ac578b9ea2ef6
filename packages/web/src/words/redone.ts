import { say, worded } from '@viaticum/contract';
/** Words for what follows from other areas. */
export const redoneWords = worded({
  title: 'What changes with these areas',
  things: 'Things',
  mixes: 'Mixes',
  steps: 'Steps',
  kept: 'Stay',
  changed: 'Change',
  fresh: 'New',
  gone: 'Go',
  becomes: (from: string, to: string) => (from === to ? from : say`${from} becomes ${to}`),
  refuse: 'What you do not want is taken off: a change leaves what stood, what would go stays.',
  take: (what: string) => say`Take: ${what}`,
  before: 'As it was',
  after: 'As it would be',
  takeAll: (refused: number) => (refused === 0 ? say('Take it all') : say('Take the rest')),
  onlyAreas: 'Take only the areas',
  notNow: 'Not now',
});
