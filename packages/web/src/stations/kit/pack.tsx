import type { Kit } from './kit.js';

export function Pack(_: { kit: Kit }) {
  return null;
}
