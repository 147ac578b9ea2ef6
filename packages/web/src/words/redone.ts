/** Words for what follows from other areas. */
export const redoneWords = {
  title: 'What changes with these areas',
  things: 'Things',
  mixes: 'Mixes',
  steps: 'Steps',
  kept: 'Stay',
  changed: 'Change',
  fresh: 'New',
  gone: 'Go',
  becomes: (from: string, to: string) => (from === to ? from : `${from} becomes ${to}`),
  refuse: 'What you do not want is taken off: a change leaves what stood, what would go stays.',
  take: (what: string) => `Take: ${what}`,
  before: 'As it was',
  after: 'As it would be',
  takeAll: (refused: number) => (refused === 0 ? 'Take it all' : 'Take the rest'),
  onlyAreas: 'Take only the areas',
  notNow: 'Not now',
};
