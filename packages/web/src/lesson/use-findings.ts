import { findings, type ShownFinding } from '@viaticum/core/check';
import { useMemo } from 'react';
import { usePlan, useWorkedOut } from './context.js';

/** What to know about the lesson as it is now, serious findings first. The light moves far more often than the lesson changes. */
export function useFindings(): ShownFinding[] {
  const lesson = useWorkedOut();
  const plan = usePlan();
  return useMemo(() => findings(lesson, plan), [lesson, plan]);
}

/** Those that were not set aside. */
export const openOf = (found: readonly ShownFinding[]): ShownFinding[] => found.filter((one) => one.setAside === undefined);
