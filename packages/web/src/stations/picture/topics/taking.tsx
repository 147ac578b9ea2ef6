import type { Area } from '@viaticum/contract';
import { lineMarks, type ToldLines } from '@viaticum/core/lesson-from-picture';
import { areaOfThing, type ToldThing } from '@viaticum/core/picture';
import { Progress } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { seenOutlines, useLaying } from '../../../lesson/laid.js';
import { words } from '../../../words/words.js';
import type { PictureJobs } from '../../../workers/picture-jobs.js';
import css from './propose.module.css';
import type { Asked } from './what-changes.js';

const w = words.picture.propose;

/**
 * Takes proposed areas into the lesson, worked out finely; areas that stay where they were keep what they are. Where the lesson has
 * steps, what would follow is worked out and asked (`asked`) before anything is taken. `told` names things by their number.
 */
export function useTaking(onEnd: () => void) {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { worker } = useLaying();
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const end = () => {
    view.selectArea(null);
    onEnd();
  };
  const take = async (
    of: Omit<PictureJobs['propose']['args'], 'refined'>,
    told: readonly ToldThing[] = [],
    toldLines?: readonly ToldLines[],
  ) => {
    setShare(0);
    setFault(null);
    try {
      const { answer } = worker.ask('propose', { ...of, refined: true }, (done) => setShare(done / 2));
      const { areas: refined } = await answer;
      const { answer: known } = worker.ask('match', { areas: refined.map((area) => area.outline), old: seenOutlines(lesson) });
      const { stands, heirs } = await known;
      const fresh = refined.map((area, i): Area => {
        const old = stands[i] === null ? undefined : lesson.areas[stands[i] as number];
        const thing = told[area.region];
        const name = thing?.name ?? old?.name ?? area.name;
        return { ...(old ?? { id: nanoid(8) }), name, ...areaOfThing(thing), outline: area.outline };
      });
      const passOn = lesson.areas.map(({ id }, o) => [id, (heirs[o] ?? []).map((z) => (fresh[z] as Area).id)] as const);
      const lines = toldLines && lineMarks({ ...lesson, areas: fresh }, toldLines, () => nanoid(8));
      const next = { areas: fresh, heirs: Object.fromEntries(passOn), ...(lines ? { lines } : {}) };
      // A lesson that has steps is carried along, once it was seen what that changes.
      if (lesson.steps.some((step) => step.areaIds.length > 0)) {
        const { answer: redone } = worker.ask('redo', { lesson, ...next }, (done) => setShare(0.5 + done / 2));
        setAsked({ ...next, redone: await redone });
      } else if (session.do('replaceAreas', next)) end();
    } catch (error) {
      setFault((error as Error).message);
    }
    setShare(null);
  };
  return { share, fault, take, asked, close: () => setAsked(null), end };
}
export type Taking = ReturnType<typeof useTaking>;

/** How far something is that takes a moment; nothing while there is nothing to wait for. */
export function Progressing({ share, said }: { share: number | null; said: string }) {
  if (share === null) return null;
  return (
    <div className={css.working} role="status">
      <Progress size="small" showInfo={false} percent={Math.round(share * 100)} aria-label={w.working} />
      {said}
    </div>
  );
}
