import { useGesture } from '@use-gesture/react';
import { type RefObject, useEffect, useState } from 'react';
import { type Seen, seenAt, seenMoved, whole } from './seen.js';
import { useLatest } from './use-latest.js';

const STEP = 1.5;

/** The size in which an element shows the whole on the screen: a drawing may have room beside it. */
function shownSize(element: Element): { box: DOMRect; width: number; height: number } {
  const box = element.getBoundingClientRect();
  if (!(element instanceof SVGSVGElement)) return { box, width: box.width || 1, height: box.height || 1 };
  const { width, height } = element.viewBox.baseVal;
  const scale = Math.min(box.width / width, box.height / height) || 1;
  return { box, width: width * scale, height: height * scale };
}

/** Where a point of the screen lies in what an element shows, in shares of it. */
function shareOf(element: Element, x: number, y: number): [number, number] {
  const { box, width, height } = shownSize(element);
  return [(x - box.left - box.width / 2) / width + 0.5, (y - box.top - box.height / 2) / height + 0.5];
}

/**
 * Two fingers are never the hand that draws: when the second comes down, what the first had begun is taken back (`pointercancel`), and
 * until all are up the canvas hears nothing of them.
 */
function useOneFinger(frame: RefObject<Element | null>, isOn: boolean): void {
  useEffect(() => {
    const element = frame.current;
    if (!element || !isOn) return;
    const fingers = new Map<number, EventTarget | null>();
    let isPinch = false;
    const onDown = (event: PointerEvent) => {
      if (event.pointerType !== 'touch') return;
      const first = [...fingers].at(0);
      fingers.set(event.pointerId, event.target);
      if (fingers.size < 2) return;
      // Under no finger's own number: the pinch goes on with both. After this event: what is drawn anew now would not hear it.
      if (!isPinch && first)
        setTimeout(() => first[1]?.dispatchEvent(new PointerEvent('pointercancel', { pointerId: -1, bubbles: true })));
      isPinch = true;
      event.stopPropagation();
    };
    const onMove = (event: PointerEvent) => {
      if (isPinch && event.pointerType === 'touch') event.stopPropagation();
    };
    const onUp = (event: PointerEvent) => {
      if (event.pointerType !== 'touch' || !fingers.delete(event.pointerId)) return;
      if (isPinch) event.stopPropagation();
      if (fingers.size === 0) isPinch = false;
    };
    const heard = [
      ['pointerdown', onDown],
      ['pointermove', onMove],
      ['pointerup', onUp],
      ['pointercancel', onUp],
    ] as const;
    for (const [name, listener] of heard) element.addEventListener(name, listener as EventListener, { capture: true });
    return () => {
      for (const [name, listener] of heard) element.removeEventListener(name, listener as EventListener, { capture: true });
    };
  }, [frame, isOn]);
}

/**
 * Nearer and farther on a canvas: two fingers, Ctrl with the wheel, the wheel to move about once one is near, the middle button to drag,
 * and keys. With `drags` one finger or the first button moves it too.
 */
export function useCloser(frame: RefObject<HTMLElement | SVGSVGElement | null>, { isOn = true, drags = false } = {}) {
  const [seen, setSeen] = useState<Seen>(whole);
  const now = useLatest(seen);
  useOneFinger(frame, isOn);
  useGesture(
    {
      onPinch: ({ first, origin: [x, y], movement: [ratio], memo, event }) => {
        const element = frame.current;
        if (!element) return memo;
        event.preventDefault();
        const [sx, sy] = shareOf(element, x, y);
        const from = first || !memo ? { seen: now.current, sx, sy } : memo;
        setSeen(seenMoved(seenAt(from.seen, from.seen.scale * ratio, from.sx, from.sy), sx - from.sx, sy - from.sy));
        return from;
      },
      onWheel: ({ event, delta: [dx, dy] }) => {
        const element = frame.current;
        if (!element || event.ctrlKey || now.current.scale === 1) return;
        event.preventDefault();
        const { width, height } = shownSize(element);
        setSeen(seenMoved(now.current, -dx / width, -dy / height));
      },
      onDrag: ({ event, delta: [dx, dy], buttons, pinching, cancel }) => {
        const element = frame.current;
        if (pinching) return cancel();
        if (!element || now.current.scale === 1 || !(buttons === 4 || drags)) return;
        event.preventDefault();
        const { width, height } = shownSize(element);
        setSeen(seenMoved(now.current, dx / width, dy / height));
      },
    },
    {
      target: frame as RefObject<HTMLElement | null>,
      enabled: isOn,
      eventOptions: { passive: false, capture: true },
      drag: { pointer: { buttons: [1, 4], capture: false }, filterTaps: true },
    },
  );
  const by = (ratio: number) => setSeen((before) => seenAt(before, before.scale * ratio, 0.5, 0.5));
  return {
    seen: isOn ? seen : whole,
    nearer: () => by(STEP),
    farther: () => by(1 / STEP),
    showWhole: () => setSeen(whole),
  };
}
