import { Segmented, Tabs } from 'antd';
import type { ReactNode } from 'react';
import { useLocation, useNavigate } from 'react-router';
import css from './topics.module.css';
import './topics.css';

/** The questions of a station in groups: a group of one is that question. */
export type TopicGroup<T extends string> = { name: string; topics: readonly T[] };

/**
 * Which topic of a station is looked at, by the address (`/lesson/<id>/<station>/<topic>`), so that Back works and a link leads to it;
 * `first` where the address names none of them.
 */
export function useTopic<T extends string>(groups: readonly TopicGroup<T>[], first: T): [T, (topic: T) => void] {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const [, ...parts] = pathname.split('/');
  const known = groups.flatMap(({ topics }) => topics);
  const shown = known.find((one) => one === parts[3]) ?? first;
  return [shown, (topic) => void navigate(`/${[...parts.slice(0, 3), topic].join('/')}`)];
}

/** The topics of a station in one row: the groups, then those of the open group; what this topic can do stands at the end. */
export function Topics<T extends string>({
  label,
  names,
  groups,
  shown,
  onShow,
  children,
}: {
  label: string;
  names: Record<T, string>;
  groups: readonly TopicGroup<T>[];
  shown: T;
  onShow: (topic: T) => void;
  children?: ReactNode;
}) {
  const open = groups.find(({ topics }) => topics.includes(shown)) ?? groups[0];
  return (
    <nav className="topics" aria-label={label}>
      <Tabs
        size="small"
        activeKey={open?.topics[0]}
        items={groups.map(({ name, topics }) => ({ key: topics[0] as string, label: name }))}
        onChange={(first) => onShow(first as T)}
      />
      {open && open.topics.length > 1 && (
        <Segmented<T>
          size="small"
          aria-label={open.name}
          value={shown}
          options={open.topics.map((topic) => ({ value: topic, label: names[topic] }))}
          onChange={onShow}
        />
      )}
      <h2 className="visually-hidden">{names[shown]}</h2>
      <span className={css.topicsKeys}>{children}</span>
    </nav>
  );
}
