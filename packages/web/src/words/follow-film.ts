const mb = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${Math.round(bytes / 1e6)} MB`);

/** Words of the film beside a step, on a phone. */
export const filmWords = {
  open: (length: string) => `Film ${length}`,
  film: (name: string) => `The film ${name}`,
  play: 'Play',
  pause: 'Pause',
  watchAgain: 'Watch again',
  again: 'Again from this stroke',
  speed: (rate: number) => `${rate}×`,
  speedIs: (rate: number) => `Speed, now ${rate} times`,
  place: 'Place in the film',
  turn: 'Your turn. It waits for you.',
  lost: 'The film is not here. The step is.',
  retry: 'Look again',
  hosted: 'Your host plays it for all.',
  keep: (bytes: number) => `Keep on this phone (${mb(bytes)})`,
  keeping: (share: number) => `Keeping, ${Math.round(share * 100)} %: stop`,
  forget: 'Take it off this phone',
  cannotKeep: 'Over plain http a phone cannot keep films: it is fetched each time.',
} as const;
