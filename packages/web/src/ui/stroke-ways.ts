import type { StrokeKind } from '@viaticum/contract';

/** How the brush moves, as paths in a field of 100 by 60: what it leaves, and the way of the hand. */
export const strokeWays: Record<StrokeKind, { leaves: string[]; hand: string; seconds: number }> = {
  tap: { leaves: ['M22 42l3 0', 'M50 40l3 0', 'M78 43l3 0'], hand: 'M22 14V40M22 14L50 12V38L50 12L78 14V41', seconds: 1.8 },
  stamp: { leaves: ['M14 42h22', 'M44 40h22', 'M72 43h20'], hand: 'M24 12V40L24 12L55 10V38L55 10L82 12V41', seconds: 2.2 },
  drag: { leaves: ['M10 40C30 36 60 36 90 40'], hand: 'M10 40C30 36 60 36 90 40', seconds: 1.8 },
  pull: { leaves: ['M12 42C34 40 60 32 90 14'], hand: 'M12 42C34 40 60 32 90 14', seconds: 1.3 },
  feather: { leaves: ['M12 40H88', 'M16 34H84', 'M20 28H80'], hand: 'M12 40H88L16 34H84L20 28H80', seconds: 2.4 },
  'cut-in': {
    leaves: ['M12 18H90', 'M18 22V46', 'M34 22V48', 'M50 22V46', 'M66 22V48', 'M82 22V46'],
    hand: 'M12 18H90L18 20V46L34 20V48L50 20V46',
    seconds: 2.8,
  },
  'criss-cross': {
    leaves: ['M16 46L48 14', 'M20 14L52 46', 'M46 46L80 16', 'M52 14L86 44'],
    hand: 'M16 46L48 14L20 14L52 46L46 46L80 16L52 14L86 44',
    seconds: 2.4,
  },
  circle: {
    leaves: [
      'M22 32a10 10 0 1 0 20 0a10 10 0 1 0 -20 0',
      'M40 32a10 10 0 1 0 20 0a10 10 0 1 0 -20 0',
      'M58 32a10 10 0 1 0 20 0a10 10 0 1 0 -20 0',
    ],
    hand: 'M22 32a10 10 0 1 0 20 0a10 10 0 1 0 20 0a10 10 0 1 0 20 0',
    seconds: 2.6,
  },
  roll: {
    leaves: ['M10 40c8 -16 16 -16 20 0s12 16 20 0s12 -16 20 0s12 12 20 -4'],
    hand: 'M10 40c8 -16 16 -16 20 0s12 16 20 0s12 -16 20 0s12 12 20 -4',
    seconds: 2.2,
  },
  flick: {
    leaves: ['M58 20l2 1', 'M66 34l3 1', 'M74 18l2 0', 'M80 42l2 1', 'M88 28l3 1', 'M70 48l2 0'],
    hand: 'M14 50C22 30 34 22 50 20',
    seconds: 0.9,
  },
  'lift-off': { leaves: ['M14 38H40', 'M66 38H90'], hand: 'M40 38C50 36 58 34 66 12', seconds: 1.6 },
};
