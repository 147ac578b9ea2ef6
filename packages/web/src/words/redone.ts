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
  before: 'As it was',
  after: 'As it would be',
  takeAll: 'Take it all',
  onlyAreas: 'Take only the areas',
  notNow: 'Not now',
};
