import { Button } from 'antd';
import { nanoid } from 'nanoid';
import { lazy, Suspense, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useNewHere } from '../../../lesson/keys.js';
import { listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import { useNewStep } from './use-new-step.js';

const BringSteps = lazy(() => import('./bring-steps.js').then((module) => ({ default: module.BringSteps })));

/** What makes the list longer: a step, a stage, steps from elsewhere. */
export function ListKeys() {
  const lesson = useLesson();
  const session = useSession();
  const add = useNewStep();
  const [isBringing, setBringing] = useState(false);
  useNewHere(add);
  return (
    <>
      <Button type="text" size="small" onClick={() => setBringing(true)}>
        {w.bring}
      </Button>
      <Button
        type="text"
        size="small"
        onClick={() =>
          session.do('addStage', { stage: { id: nanoid(8), name: words.steps.stageName(lesson.stages.length + 1) } })
        }
      >
        {words.steps.addStage}
      </Button>
      <Button size="small" onClick={add} aria-keyshortcuts="N">
        {words.steps.add} <kbd>N</kbd>
      </Button>
      {isBringing && (
        <Suspense fallback={null}>
          <BringSteps onClose={() => setBringing(false)} />
        </Suspense>
      )}
    </>
  );
}
