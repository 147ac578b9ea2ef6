/** Gives the focus to what stands at a selector once it is shown: where its owner goes away, the focus must not fall to the page. */
export function focusSoon(selector: string): void {
  // Two frames: one in which it is rendered, one in which it can be focused.
  requestAnimationFrame(() => requestAnimationFrame(() => document.querySelector<HTMLElement>(selector)?.focus()));
}
