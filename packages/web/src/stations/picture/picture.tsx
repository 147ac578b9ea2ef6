import { clsx } from 'clsx';
import { type DragEvent, useState } from 'react';
import { useLesson } from '../../lesson/context.js';
import { LayingProvider } from '../../lesson/laid.js';
import { wholeOf } from '../../lesson/lay-args.js';
import { type TopicGroup, Topics, useTopic } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { Easel } from './easel.js';
import { EaselContext, useEaselState } from './easel-context.js';
import css from './picture.module.css';
import { useTakePicture } from './take-picture.js';
import { AreasTopic } from './topics/areas.js';
import { CompareTopic } from './topics/compare.js';
import { CompositionTopic } from './topics/composition.js';
import { CropTopic } from './topics/crop.js';
import { EdgesTopic } from './topics/edges.js';
import { LightTopic } from './topics/light.js';
import { SourceTopic } from './topics/source.js';
import { ThingsTopic } from './topics/things.js';
import { ValuesTopic } from './topics/values.js';
import './picture.css';

const w = words.picture;
const topics = {
  source: SourceTopic,
  crop: CropTopic,
  values: ValuesTopic,
  compare: CompareTopic,
  areas: AreasTopic,
  things: ThingsTopic,
  edges: EdgesTopic,
  composition: CompositionTopic,
  light: LightTopic,
} as const;
type Topic = keyof typeof topics;
const groups: readonly TopicGroup<Topic>[] = [
  { name: w.groups.frame, topics: ['source', 'crop'] },
  { name: w.groups.values, topics: ['values', 'compare'] },
  { name: w.groups.areas, topics: ['areas', 'things', 'edges'] },
  { name: w.groups.composition, topics: ['composition', 'light'] },
];

/** The reference under the canvas, and what is measured in it: one question at a time, the picture always large. */
export default function PictureStation() {
  const lesson = useLesson();
  const picture = useTakePicture();
  // Where one begins stays while the address names no topic, also when a picture has come.
  const [first] = useState<Topic>(lesson.references.length === 0 ? 'source' : 'areas');
  const [topic, setTopic] = useTopic(groups, first);
  const [isOver, setOver] = useState(false);
  const easel = useEaselState();
  const reference = wholeOf(lesson);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    picture.take(event.dataTransfer.files[0], reference?.id ?? null);
  };
  const Shown = topics[topic];
  return (
    <section
      className={clsx(css.picture, isOver && css.over)}
      data-testid="picture"
      aria-label={words.stations.picture}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <EaselContext.Provider value={easel}>
        <LayingProvider>
          <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
          <Easel lesson={lesson} reference={reference} />
          <div className={css.pictureSide}>
            <div className={css.topic} key={topic}>
              {picture.error && (
                <p className="signal" role="alert">
                  {picture.error.message}
                </p>
              )}
              <Shown />
            </div>
          </div>
        </LayingProvider>
      </EaselContext.Provider>
    </section>
  );
}
