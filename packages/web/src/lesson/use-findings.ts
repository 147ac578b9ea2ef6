import { findings, type ShownFinding } from '@viaticum/core/check';
import { usePlan, useView, useWorkedOut } from './context.js';

/** What to know about the lesson as it is now, serious findings first: worked out once, wherever it is asked for. */
export const useFindings = (): readonly ShownFinding[] => findings(useWorkedOut(), usePlan(), useView().seen);

/** Those that were not set aside. */
export const openOf = (found: readonly ShownFinding[]): ShownFinding[] => found.filter((one) => one.setAside === undefined);
