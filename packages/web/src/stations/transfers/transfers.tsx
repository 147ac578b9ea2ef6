import { Checkbox } from 'antd';
import { clsx } from 'clsx';
import { lazy, Suspense } from 'react';
import { useLesson } from '../../lesson/context.js';
import { LayingProvider } from '../../lesson/laid.js';
import { type TopicGroup, Topics, useTopic } from '../../ui/topics.js';
import { transferWords as w } from '../../words/transfers.js';
import { words } from '../../words/words.js';
import { EaselContext, useEaselState } from '../picture/easel-context.js';
import pictureCss from '../picture/picture.module.css';
import { DrawingProvider, useDrawing } from './drawing-context.js';
import { TemplateSheet } from './template-sheet.js';
import { LinesTopic } from './topics/lines.js';
import { MomentsTopic } from './topics/moments.js';
import { WaysTopic } from './topics/ways.js';
import css from './transfers.module.css';
import '../picture/picture.css';

const CheckTopic = lazy(() => import('./topics/check.js').then((module) => ({ default: module.CheckTopic })));
const HelpTopic = lazy(() => import('./topics/help.js').then((module) => ({ default: module.HelpTopic })));
const PrintsTopic = lazy(() => import('./topics/prints.js').then((module) => ({ default: module.PrintsTopic })));
const TabletTopic = lazy(() => import('./topics/tablet.js').then((module) => ({ default: module.TabletTopic })));
const TwinsTopic = lazy(() => import('./topics/twins.js').then((module) => ({ default: module.TwinsTopic })));

const topics = {
  lines: LinesTopic,
  moments: MomentsTopic,
  ways: WaysTopic,
  help: HelpTopic,
  twins: TwinsTopic,
  prints: PrintsTopic,
  check: CheckTopic,
  tablet: TabletTopic,
} as const;
type Topic = keyof typeof topics;
const groups: readonly TopicGroup<Topic>[] = [
  { name: w.groups.drawing, topics: ['lines', 'help', 'twins'] },
  { name: w.groups.when, topics: ['moments', 'ways'] },
  { name: w.groups.out, topics: ['prints', 'tablet'] },
  { name: w.groups.check, topics: ['check'] },
];

/** The drawing: which lines, when they are needed, how they come onto the canvas, at what size. */
export default function TransfersStation() {
  const easel = useEaselState();
  return (
    <section className={clsx(pictureCss.picture, css.transfers)} data-testid="picture" aria-label={words.stations.transfers}>
      <EaselContext.Provider value={easel}>
        <LayingProvider>
          <DrawingProvider>
            <Bench />
          </DrawingProvider>
        </LayingProvider>
      </EaselContext.Provider>
    </section>
  );
}

function Bench() {
  const lesson = useLesson();
  const { progress, fault, ask, asking, setMoment, withPicture, setWithPicture } = useDrawing();
  const [topic, setTopic] = useTopic(groups, 'lines');
  const Shown = topics[topic];
  const show = (next: Topic) => {
    ask(null);
    setMoment('all');
    setTopic(next);
  };
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={show} />
      <div className={css.templateFrame}>
        {lesson.areas.length === 0 ? (
          <p className={clsx(css.templateEmpty, 'quiet')}>{w.empty}</p>
        ) : (
          <TemplateSheet withMarks={topic === 'help' || topic === 'check'} />
        )}
        <p className={clsx(css.templateFoot, 'small quiet')}>
          <Checkbox className={css.check} checked={withPicture} onChange={(event) => setWithPicture(event.target.checked)}>
            {w.withPicture}
          </Checkbox>
          <span role="status">{asking ? asking.label : progress !== null ? w.drawing(progress) : ''}</span>
        </p>
      </div>
      <div className={pictureCss.pictureSide}>
        <div className={pictureCss.topic} key={topic}>
          {fault && (
            <p className="signal" role="alert">
              {fault}
            </p>
          )}
          <Suspense fallback={null}>
            <Shown />
          </Suspense>
        </div>
      </div>
    </>
  );
}
