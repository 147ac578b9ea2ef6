import type { FormKind } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** Words for the light of a lesson and the bodies it falls on. */
export const lightWords = worded({
  light: 'Light',
  noLight: 'not set',
  from: (deg: number) =>
    [
      say('from above'),
      say('from above right'),
      say('from the right'),
      say('from below right'),
      say('from below'),
      say('from below left'),
      say('from the left'),
      say('from above left'),
    ][Math.round(deg / 45) % 8] as string,
  height: 'Towards the viewer',
  about:
    'Say what bodies things are, and the light makes its shapes on them: lit, half in light, in shade, with what they throw.',
  forms: 'Bodies',
  formOf: (name: string) => say`What body ${name} is`,
  unsaid: 'nothing said',
  kinds: {
    round: 'round',
    cylinder: 'cylinder',
    cone: 'cone',
    box: 'box',
    flat: 'flat',
    cloud: 'cloud',
  } satisfies Record<FormKind, string>,
  axis: 'Its axis',
  corner: (name: string) => say`The nearest corner of ${name}`,
  found: (from: string, name: string, explained: number) =>
    say`In the picture the light on ${name} comes ${from}; that explains ${percent(explained)} of its values.`,
  takeFound: 'Take it',
  silent: 'The picture does not say clearly where its light comes from.',
  two: (one: string, other: string) => say`Two lights? ${one} and ${other} are lit from different sides.`,
  paint: 'Draft by this light',
  drafting: 'Drafting by this light',
});
