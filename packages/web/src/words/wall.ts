import { say, worded } from '@viaticum/contract';
import { counted } from '@viaticum/core/units';
/** Words of the Wall. */
export const wallWords = worded({
  waiting: 'Connecting to the class',
  lost: 'The connection is lost. It mends itself.',
  before: 'We begin soon',
  bring: (tubes: string) => say`Bring ${tubes}.`,
  begins: (when: string) => say`Begins on ${when}`,
  ended: 'The class has ended. Thank you for painting.',
  step: (n: number, of: number) => say`step ${n} of ${of}`,
  pause: 'drying pause',
  break: 'break',
  held: 'Look here',
  over: 'a little more time',
  meanwhile: 'Meanwhile',
  mixes: 'On the palette',
  join: (address: string) => say`Join at ${address} with`,
  qr: 'QR code of the join address',
  easels: (count: number) => counted(count, 'easel'),
  allHere: 'Everybody is here.',
  screen: 'This screen',
  inches: 'Diagonal (inches)',
  metres: 'Read from (metres)',
});
