import { lazy, Suspense } from 'react';
import { Topics, useTopic } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { Alone } from './alone.js';
import css from './class.module.css';
import { Invite } from './invite.js';
import { Rehearse } from './rehearse.js';
import { Teach } from './teach.js';

// The chart and its model come when they are first looked at.
const Pace = lazy(() => import('./pace.js').then((module) => ({ default: module.Pace })));
const w = words.class;
type Topic = keyof typeof w.topics;
const groups = (Object.keys(w.topics) as Topic[]).map((topic) => ({ name: w.topics[topic], topics: [topic] }));

/** Will this group finish, and then: inviting, rehearsing and opening a class. */
export default function ClassStation() {
  const [topic, setTopic] = useTopic(groups, 'teach');
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
      <div className={css.classStation}>
        {topic === 'teach' && (
          <>
            <div className={css.classLeft}>
              <Teach />
            </div>
            <Suspense fallback={null}>
              <Pace />
            </Suspense>
          </>
        )}
        {topic === 'invite' && <Invite />}
        {topic === 'rehearse' && <Rehearse />}
        {topic === 'alone' && <Alone />}
      </div>
    </>
  );
}
