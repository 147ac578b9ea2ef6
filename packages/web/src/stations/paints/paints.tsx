import { useLesson } from '../../lesson/context.js';
import { LayingProvider } from '../../lesson/laid.js';
import { type TopicGroup, Topics, useTopic } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { FormerPaint } from './former-paint.js';
import { BenchProvider } from './paint-context.js';
import css from './paints.module.css';
import { FamiliesTopic } from './topics/families.js';
import { HeapsTopic } from './topics/heaps.js';
import { MixesTopic } from './topics/mixes.js';
import { PaletteTopic } from './topics/palette.js';
import { SheetTopic } from './topics/sheet.js';
import { TubesTopic } from './topics/tubes.js';
import { WithoutTopic } from './topics/without.js';

const w = words.paints;
const topics = {
  mixes: MixesTopic,
  heaps: HeapsTopic,
  tubes: TubesTopic,
  families: FamiliesTopic,
  palette: PaletteTopic,
  without: WithoutTopic,
  sheet: SheetTopic,
} as const;
type Topic = keyof typeof topics;
const groups: readonly TopicGroup<Topic>[] = [
  { name: w.groups.mixes, topics: ['mixes', 'heaps'] },
  { name: w.groups.tubes, topics: ['tubes', 'without'] },
  { name: w.groups.palette, topics: ['palette'] },
  { name: w.groups.families, topics: ['families'] },
  { name: w.groups.sheet, topics: ['sheet'] },
];

/** Tubes, the mixes made of them, and what can be computed of both: one question at a time. */
export default function PaintsStation() {
  const lesson = useLesson();
  const [topic, setTopic] = useTopic(groups, 'mixes');
  const Shown = topics[topic];
  return (
    <div className={css.paintsStation}>
      <LayingProvider>
        <BenchProvider first={lesson.mixes[0]?.id ?? null}>
          <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
          <FormerPaint lesson={lesson} />
          <Shown />
        </BenchProvider>
      </LayingProvider>
    </div>
  );
}
