import { type DragEvent, useState } from 'react';
import { useLesson } from '../../lesson/context.js';
import { LayingProvider } from '../../lesson/laid.js';
import { wholeOf } from '../../lesson/lay-args.js';
import { Topics } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { Easel } from './easel.js';
import { EaselContext, useEaselState } from './easel-context.js';
import { useTakePicture } from './take-picture.js';
import { AreasTopic } from './topics/areas.js';
import { CompareTopic } from './topics/compare.js';
import { CompositionTopic } from './topics/composition.js';
import { CropTopic } from './topics/crop.js';
import { EdgesTopic } from './topics/edges.js';
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
} as const;
type Topic = keyof typeof topics;

/** The reference under the canvas, and what is measured in it: one question at a time, the picture always large. */
export default function PictureStation() {
  const lesson = useLesson();
  const picture = useTakePicture();
  const [topic, setTopic] = useState<Topic>(lesson.references.length === 0 ? 'source' : 'areas');
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
      className={`picture${isOver ? ' over' : ''}`}
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
          <Easel lesson={lesson} reference={reference} />
          <div className="picture-side">
            <Topics label={w.topicsLabel} names={w.topics} shown={topic} onShow={setTopic} />
            <div className="topic" key={topic}>
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
