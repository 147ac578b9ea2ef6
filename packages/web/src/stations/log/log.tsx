import { lazy, Suspense } from 'react';
import { Topics, useTopic } from '../../ui/topics.js';
import { logWords as w } from '../../words/log.js';
import { ByHandForm } from './by-hand.js';
import { Learnt } from './learnt.js';
import css from './log.module.css';

// Its chart comes when it is first looked at.
const Classes = lazy(() => import('./classes.js').then((module) => ({ default: module.Classes })));
type Topic = keyof typeof w.topics;
const groups = (Object.keys(w.topics) as Topic[]).map((topic) => ({ name: w.topics[topic], topics: [topic] }));

/** What happened in classes, what they suggest for this lesson, and classes that were taught elsewhere. */
export default function LogStation() {
  const [topic, setTopic] = useTopic(groups, 'learnt');
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
      <div className={css.log}>
        {topic === 'learnt' && <Learnt />}
        {topic === 'classes' && (
          <Suspense fallback={null}>
            <Classes />
          </Suspense>
        )}
        {topic === 'by-hand' && <ByHandForm />}
      </div>
    </>
  );
}
