import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import { farthest, nearest } from '../ui/ribbon/axis.js';
import { letterOf, singleKeysOn } from '../ui/single-keys.js';
import { useLesson, usePlan, useSession, useView } from './context.js';
import { stations } from './rail.js';

const typesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  !['range', 'checkbox', 'radio'].includes((target as HTMLInputElement).type);
/** Where arrows have a meaning of their own. */
const ownArrows = '[role=slider],[role=tab],[role=combobox],[role=radiogroup],[role=menu],.ant-picker,input[type=range]';
/** While a dialog is open its keys are its own. */
const dialogs =
  '.ant-modal-wrap:not([style*="display: none"]), .ant-drawer-open, .ant-tour, .ant-picker-dropdown:not(.ant-picker-dropdown-hidden)';

/** What `N` makes here: the station in view says so through this event. */
const NEW_HERE = 'viaticum-new-here';

type KeyActs = { showKeys: () => void; find: () => void; worthKnowing: () => void; ribbon: () => void };

/** The keys of the workbench. Single letters rest while a field has the focus, and can be switched off (WCAG 2.1.4). */
export function useKeys({ showKeys, find, worthKnowing, ribbon }: KeyActs): void {
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
      if (event.defaultPrevented || document.querySelector(dialogs)) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !typesText(event.target)) {
        event.preventDefault();
        if (event.shiftKey) session.redo();
        else session.undo();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || typesText(event.target)) return;
      if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
        if ((event.target as Element | null)?.closest?.(ownArrows)) return;
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
      const key = letterOf(event);
      const station = stations[Number(key) - 1];
      if (station) void navigate(`/lesson/${id}/${station}`);
      else if (key === 'v') view.toggle('squint');
      else if (key === 'o') view.toggle('outlines');
      else if (key === 'p' && view.stepId) togglePin(view.stepId);
      else if (key === '+' || key === '-') {
        const to = view.zoom + (key === '+' ? 1 : -1);
        view.setZoom(Math.max(farthest(plan.endMin), Math.min(nearest(plan.endMin), to)));
      } else if (key === 'n') window.dispatchEvent(new Event(NEW_HERE));
      else if (key === 'w') worthKnowing();
      else if (key === 'r') ribbon();
      else if (key === '/') find();
      else if (key === '?') showKeys();
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
