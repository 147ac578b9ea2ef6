import { Button } from 'antd';
import { useMemo, useState } from 'react';
import { useLesson } from '../../../lesson/context.js';
import { seenOutlines, useJob } from '../../../lesson/laid.js';
import { LOOK_AFTER_MS, ThingTools } from '../../../things/thing-tools.js';
import { ThingsOnCanvas } from '../../../things/things-on-canvas.js';
import { liningsOf, type MarkTool, tellingsOf, tellingsOfAreas, useThings } from '../../../things/use-things.js';
import { thingWords } from '../../../words/things.js';
import { words } from '../../../words/words.js';
import { useEasel, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import { Progressing, type Taking } from './taking.js';

const w = words.picture.propose;

/** Things told apart by strokes and rings on the easel, each with its name, what it is, and what it is made of. */
export function ByThings({ taking: { share, fault, take }, onEnd }: { taking: Taking; onEnd: () => void }) {
  const lesson = useLesson();
  const { support } = lesson;
  const { unit } = useEasel();
  const [tool, setTool] = useState<MarkTool>('stroke');
  // What was told apart already is put right; otherwise a guess is.
  const [known] = useState(() => (lesson.areas.some((area) => area.role) ? seenOutlines(lesson) : null));
  const [areasAtFirst] = useState(lesson.areas);
  const proposed = useJob('things', known ? { known } : {}, 0);
  const start = useMemo(
    () => (known ? tellingsOfAreas(areasAtFirst) : tellingsOf(proposed.answer ?? [])),
    [known, areasAtFirst, proposed.answer],
  );
  const [drawn] = useState(() => liningsOf(lesson.marks));
  const things = useThings(start, drawn);
  const { marked } = things;
  const job = useJob('propose', proposed.answer && marked ? { count: 2, taps: [], refined: false, marked } : null, 0);
  const seen = useJob('looks', proposed.answer && marked ? { marked } : null, LOOK_AFTER_MS);
  useHint(thingWords.hint);
  const { widthMm, heightMm } = support;
  const areas = marked ? (job.answer?.areas ?? []) : [];
  return (
    <>
      <Progressing share={share ?? proposed.progress} said={share !== null ? w.refining : thingWords.firstLook} />
      {(fault ?? job.fault) && <p className="signal">{fault ?? job.fault}</p>}
      {proposed.answer && (
        <ThingTools
          things={things}
          areas={areas}
          looks={seen.answer ?? []}
          canvasMm2={widthMm * heightMm}
          tool={tool}
          onTool={setTool}
          isClear={known !== null || proposed.answer.some(({ kind }) => kind === 'subject')}
        />
      )}
      <p className={pictureCss.pictureToggles}>
        <Button
          type="primary"
          disabled={areas.length === 0 || share !== null || !marked}
          onClick={() => marked && void take({ count: 2, taps: [], marked }, things.told, things.toldLines)}
        >
          {w.take(areas.length)}
        </Button>
        <Button onClick={onEnd}>{w.cancel}</Button>
      </p>
      <OnCanvas>
        <ThingsOnCanvas
          things={things}
          areas={areas}
          doubt={job.answer?.doubt ?? null}
          tool={tool}
          support={support}
          unit={unit}
          face={(handlers) => <Face {...handlers} />}
        />
      </OnCanvas>
    </>
  );
}
