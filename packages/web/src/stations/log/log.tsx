import { lazy, Suspense } from 'react';
import { Topics, useTopic } from '../../ui/topics.js';
import { logWords as w } from '../../words/log.js';
import { ByHandForm } from './by-hand.js';
import { Learnt } from './learnt.js';
import css from './log.module.css';

// What is large (a chart, the picture’s own work) comes when it is first looked at.
const Classes = lazy(() => import('./classes.js').then((module) => ({ default: module.Classes })));
const Factors = lazy(() => import('./factors.js').then((module) => ({ default: module.Factors })));
const Finish = lazy(() => import('./finish.js').then((module) => ({ default: module.Finish })));
const Pace = lazy(() => import('./pace.js').then((module) => ({ default: module.Pace })));
const Results = lazy(() => import('./results.js').then((module) => ({ default: module.Results })));
const shown = {
  learnt: Learnt,
  factors: Factors,
  classes: Classes,
  pace: Pace,
  results: Results,
  finish: Finish,
  'by-hand': ByHandForm,
} as const;
type Topic = keyof typeof shown;
const groups = (Object.keys(w.topics) as Topic[]).map((topic) => ({ name: w.topics[topic], topics: [topic] }));

/** What happened in classes, what they suggest for this lesson, how its canvases came out and end, and classes that were taught elsewhere. */
export default function LogStation() {
  const [topic, setTopic] = useTopic(groups, 'learnt');
  const Shown = shown[topic];
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
      <div className={css.log}>
        <Suspense fallback={null}>
          <Shown />
        </Suspense>
      </div>
    </>
  );
}
