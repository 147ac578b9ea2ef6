import { clsx } from 'clsx';
import css from './found-here.module.css';
import { openOf, useFindings } from './use-findings.js';

/** What is worth knowing of one area, mix or tube, at its own row. What concerns a step stands at the step. */
export function FoundHere(at: { areaId: string } | { mixId: string } | { tubeId: string }) {
  const [key, id] = Object.entries(at)[0] as ['areaId' | 'mixId' | 'tubeId', string];
  return openOf(useFindings())
    .filter(({ place }) => place[key] === id && !place.stepId)
    .map((one) => (
      <span key={one.id} className={clsx('small', css.foundHere, one.serious ? 'signal' : 'quiet')}>
        {one.words}
      </span>
    ));
}
