import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import { farthest, nearest } from '../ui/ribbon/axis.js';
import { useLesson, usePlan, useSession, useView } from './context.js';
import { isBuilt, stations } from './rail.js';

const SWITCH = 'viaticum-single-keys';
export const singleKeysOn = () => localStorage.getItem(SWITCH) !== 'off';
export const setSingleKeys = (on: boolean) => localStorage.setItem(SWITCH, on ? 'on' : 'off');

const typesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  (target as HTMLInputElement).type !== 'range' &&
  (target as HTMLInputElement).type !== 'checkbox';

/** What `N` makes here: the station in view says so through this event. */
const NEW_HERE = 'viaticum-new-here';

/** The keys of the workbench. Single letters rest while a field has the focus, and can be switched off (WCAG 2.1.4). */
export function useKeys(showKeys: () => void, find: () => void): void {
  const session = useSession();
  const view = useView();
  const { plan } = usePlan();
  const navigate = useNavigate();
  const { id } = useParams();
  const lesson = useLesson();
  useEffect(() => {
    /** Pins the step where it stands, or lets it go. */
    const togglePin = (stepId: string) => {
      const isPinned = lesson.planning.pins.some((pin) => 'stepId' in pin && pin.stepId === stepId);
      const start = plan.items.find((item) => item.stepId === stepId)?.startMin;
      if (isPinned) session.do('unpin', { id: stepId });
      else if (start !== undefined) session.do('pinStep', { id: stepId, startMin: start });
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || document.querySelector('dialog[open]')) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !typesText(event.target)) {
        event.preventDefault();
        if (event.shiftKey) session.redo();
        else session.undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || typesText(event.target)) return;
      const onSlider = (event.target as HTMLInputElement | null)?.type === 'range';
      if ((event.key === 'ArrowLeft' || event.key === 'ArrowRight') && !onSlider) {
        const direction = event.key === 'ArrowLeft' ? -1 : 1;
        event.preventDefault();
        if (!event.shiftKey) view.setMinute(Math.min(plan.endMin, Math.max(0, Math.round(view.minute) + direction)));
        else {
          const starts = plan.items.filter((item) => item.stepId).map((item) => item);
          const at = starts.findLastIndex((item) => item.startMin <= view.minute + 1e-6);
          const next = starts[Math.max(0, Math.min(starts.length - 1, at + direction))];
          if (next) {
            view.setMinute(next.startMin);
            view.selectStep(next.stepId ?? null);
          }
        }
        return;
      }
      if (!singleKeysOn()) return;
      const station = stations[Number(event.key) - 1];
      if (station && isBuilt(station)) void navigate(`/lesson/${id}/${station}`);
      else if (event.key === 'v') view.toggle('squint');
      else if (event.key === 'o') view.toggle('outlines');
      else if (event.key === 'p' && view.stepId) togglePin(view.stepId);
      else if (event.key === '+' || event.key === '-') {
        const to = view.zoom + (event.key === '+' ? 1 : -1);
        view.setZoom(Math.max(farthest(plan.endMin), Math.min(nearest(plan.endMin), to)));
      } else if (event.key === 'n') window.dispatchEvent(new Event(NEW_HERE));
      else if (event.key === '/') find();
      else if (event.key === '?') showKeys();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
}

/** Calls back when `N` is pressed. */
export function useNewHere(make: () => void): void {
  useEffect(() => {
    window.addEventListener(NEW_HERE, make);
    return () => window.removeEventListener(NEW_HERE, make);
  });
}
