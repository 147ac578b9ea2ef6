import { Segmented } from 'antd';
import { lazy, Suspense } from 'react';
import { Topics, useTopic } from '../../ui/topics.js';
import { filmWords as w } from '../../words/film.js';
import { Shoot } from './shoot.js';
import { type Filmed, useFilm } from './use-film.js';
import css from './video.module.css';

const LengthTopic = lazy(() => import('./length.js').then((module) => ({ default: module.LengthTopic })));
const Captions = lazy(() => import('./captions.js').then((module) => ({ default: module.Captions })));
const Cards = lazy(() => import('./cards.js').then((module) => ({ default: module.Cards })));
const Films = lazy(() => import('./films.js').then((module) => ({ default: module.Films })));
const Hear = lazy(() => import('./hear.js').then((module) => ({ default: module.Hear })));

type Topic = keyof typeof w.topics;
const groups = (Object.keys(w.topics) as Topic[]).map((topic) => ({ name: w.topics[topic], topics: [topic] }));
const ofCut: ReadonlySet<Topic> = new Set(['cut', 'captions', 'cards']);

/** The same lesson filmed: what to film, how long it is, what is read on it, and the film beside the steps. */
export default function VideoStation() {
  const [topic, setTopic] = useTopic(groups, 'shoot');
  const film = useFilm();
  const isEmpty = film.lesson.steps.length === 0 && topic !== 'hear';
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic}>
        {ofCut.has(topic) && !isEmpty && <Cuts film={film} />}
      </Topics>
      <div className={css.station} data-testid="video">
        {isEmpty ? (
          <p className="quiet">{w.empty}</p>
        ) : (
          <Suspense fallback={null}>
            {topic === 'shoot' && <Shoot film={film} />}
            {topic === 'cut' && <LengthTopic film={film} />}
            {topic === 'captions' && <Captions film={film} />}
            {topic === 'cards' && <Cards film={film} />}
            {topic === 'films' && <Films film={film} />}
            {topic === 'hear' && <Hear />}
          </Suspense>
        )}
      </div>
    </>
  );
}

/** Which of the cuts is looked at. */
function Cuts({ film: { cuts, cut, setCutId } }: { film: Filmed }) {
  return (
    <Segmented
      size="small"
      aria-label={w.cut}
      value={cut.id}
      options={cuts.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={setCutId}
    />
  );
}
