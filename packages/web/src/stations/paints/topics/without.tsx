import type { Lesson } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { cssRgb } from '@viaticum/kernels/colour';
import { Checkbox } from 'antd';
import { useMemo, useState } from 'react';
import { useLesson } from '../../../lesson/context.js';
import { RecipeBar } from '../../../ui/swatch.js';
import { words } from '../../../words/words.js';
import { paintSide, usePaintJob } from '../paint-context.js';
import paintsCss from '../paints.module.css';
import css from './without.module.css';

const w = words.paints;

/** What a student without some tubes does instead, mix by mix. */
export function WithoutTopic() {
  const lesson = useLesson();
  const [lacking, setLacking] = useState<string[]>([]);
  const looks = looksOf(lesson);
  const asked = useMemo(() => (lacking.length > 0 ? { lesson: paintSide(lesson), lacking } : null), [lesson, lacking]);
  const { answer, progress } = usePaintJob('without', asked, 150);
  return (
    <div className={paintsCss.paintsPage}>
      <p className="quiet">{w.withoutAbout}</p>
      <fieldset className={css.kit}>
        <legend className="small">{w.lacking}</legend>
        {lesson.tubes.map((tube) => (
          <Checkbox
            key={tube.id}
            className="small"
            checked={lacking.includes(tube.id)}
            onChange={(event) =>
              setLacking(event.target.checked ? [...lacking, tube.id] : lacking.filter((id) => id !== tube.id))
            }
          >
            <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
            {shortTubeName(tube)}
          </Checkbox>
        ))}
      </fieldset>
      {progress !== null && (
        <p role="status" className="small quiet">
          {w.searching(progress)}
        </p>
      )}
      {asked && answer && (
        <>
          {answer.length === 0 && <p>{leftOf(lesson, lacking) === 0 ? w.noneLeft : w.nothingNeeds}</p>}
          <ul className={css.instead} data-testid="instead">
            {answer.map((other) => {
              const look = looks.get(other.mixId);
              return (
                <li key={other.mixId}>
                  <span className={css.insteadPair}>
                    <i style={{ background: look?.rgb }} title={w.usual} />
                    <i style={{ background: other.rgb }} title={w.instead} />
                  </span>
                  <div>
                    <b>{look?.mix.name}</b> <span className="small quiet">{look?.words}</span>
                    <RecipeBar parts={other.parts} words={other.words} />
                  </div>
                  <span className="small">
                    {other.off}
                    <span className="quiet numbers"> {w.deltaE(other.deltaE)}</span>
                  </span>
                </li>
              );
            })}
          </ul>
        </>
      )}
      <p className="small quiet">{w.withoutNote}</p>
    </div>
  );
}

const leftOf = (lesson: Lesson, lacking: string[]) => lesson.tubes.filter((tube) => !lacking.includes(tube.id)).length;
