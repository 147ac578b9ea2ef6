import { say, worded } from '@viaticum/contract';

const mb = (bytes: number): string => (bytes < 1e6 ? say`${Math.ceil(bytes / 1000)} kB` : say`${Math.round(bytes / 1e6)} MB`);

/** Words of the film beside a step, on a phone. */
export const filmWords = worded({
  open: (length: string) => say`Film ${length}`,
  film: (name: string) => say`The film ${name}`,
  play: 'Play',
  pause: 'Pause',
  watchAgain: 'Watch again',
  again: 'Again from this stroke',
  speed: (rate: number) => `${rate}×`,
  speedIs: (rate: number) => say`Speed, now ${rate} times`,
  place: 'Place in the film',
  turn: 'Your turn. It waits for you.',
  lost: 'The film is not here. The step is.',
  retry: 'Look again',
  hosted: 'Your host plays it for all.',
  keep: (bytes: number) => say`Keep on this phone (${mb(bytes)})`,
  keeping: (share: number) => say`Keeping, ${Math.round(share * 100)} %: stop`,
  forget: 'Take it off this phone',
  cannotKeep: 'Over plain http a phone cannot keep films: it is fetched each time.',
} as const);
