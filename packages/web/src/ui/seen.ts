/** What is seen of a canvas: `scale` times as near, from `left` and `top` on (shares of the whole, 0–1). */
export type Seen = { scale: number; left: number; top: number };

export const whole: Seen = { scale: 1, left: 0, top: 0 };
const NEAREST = 8;

/** Within the whole: nothing beside it is ever seen. */
const within = ({ scale, left, top }: Seen): Seen => {
  const most = 1 - 1 / scale;
  return { scale, left: Math.min(most, Math.max(0, left)), top: Math.min(most, Math.max(0, top)) };
};

/** As near as `scale` (1–8), with what lies at `x`, `y` of the frame (shares of it, 0–1) staying there. */
export function seenAt({ scale, left, top }: Seen, next: number, x: number, y: number): Seen {
  const near = Math.min(NEAREST, Math.max(1, next));
  return within({ scale: near, left: left + x / scale - x / near, top: top + y / scale - y / near });
}

/** Moved by shares of the frame: what was at the pointer stays under it. */
export const seenMoved = ({ scale, left, top }: Seen, dx: number, dy: number): Seen =>
  within({ scale, left: left - dx / scale, top: top - dy / scale });
