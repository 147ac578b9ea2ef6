import { Button } from 'antd';
import { useState } from 'react';
import { deskWords as w } from '../../words/desk.js';
import css from './near.module.css';
import { More } from './near-more.js';
import { Now } from './near-now.js';
import { Steps } from './near-steps.js';
import { Tell } from './near-tell.js';
import type { DeskAnswer, DeskParts } from './parts.js';

type Topic = keyof typeof w.topics;

/** What is wanted when near: one topic at a time. */
export function Near({ answer, ...parts }: DeskParts & { answer: DeskAnswer }) {
  const [topic, setTopic] = useState<Topic>('now');
  return (
    <aside className={css.deskNear}>
      <nav className={css.deskTopics} aria-label={w.topicsLabel}>
        {(Object.entries(w.topics) as [Topic, string][]).map(([one, label]) => (
          <Button type="text" className="plain" key={one} aria-current={topic === one} onClick={() => setTopic(one)}>
            {label}
          </Button>
        ))}
      </nav>
      {topic === 'now' && <Now {...parts} answer={answer} />}
      {topic === 'tell' && <Tell {...parts} />}
      {topic === 'steps' && <Steps {...parts} />}
      {topic === 'more' && <More {...parts} answer={answer} />}
    </aside>
  );
}
