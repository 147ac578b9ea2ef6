import type { Lesson } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Alert, Button } from 'antd';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { words } from '../../words/words.js';
import css from './former-paint.module.css';
import { paintSide, usePaintJob } from './paint-context.js';

const w = words.paints;

/** Said once of a lesson written with an earlier table of pigments: which mixes look different now, and what to do about it. */
export function FormerPaint({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const [isMixing, setMixing] = useState(false);
  const asked = useMemo(() => (lesson.formerPaint ? { lesson: paintSide(lesson) } : null), [lesson]);
  const { answer } = usePaintJob('former', asked);
  const aims = (answer ?? []).filter((one) => lesson.mixes.some((mix) => mix.id === one.mixId && mix.targetLab));
  const again = useMemo(() => (isMixing ? { lesson: paintSide(lesson), tubes: lesson.tubes } : null), [isMixing, lesson]);
  const mixed = usePaintJob('recipes', again);
  const ready = mixed.progress === null ? mixed.answer : null;
  if (!lesson.formerPaint || !answer) return null;
  const keep = () => session.do('meetPaint', { recipes: [] });
  if (answer.length === 0)
    return <Alert type="info" showIcon={false} title={w.formerNone} closable={{ onClose: () => void keep() }} />;
  const take = () => {
    const changed = new Set(aims.map((one) => one.mixId));
    const recipes = (ready ?? []).flatMap(({ id, recipe }) => (changed.has(id) ? [{ id, recipe }] : []));
    session.do('meetPaint', { recipes });
  };
  return (
    <Alert
      type="info"
      showIcon={false}
      data-testid="former-paint"
      title={w.formerTitle(answer.length)}
      description={
        <>
          <ul className={css.changed}>
            {answer.map(({ mixId, before, now }) => (
              <li key={mixId}>
                <i style={{ background: cssRgb(labToSrgb(before)) }} title={w.formerBefore} />
                <i style={{ background: cssRgb(labToSrgb(now)) }} title={w.formerNow} />
                {looksOf(lesson).get(mixId)?.mix.name}
              </li>
            ))}
          </ul>
          <p className={css.keys}>
            {ready ? (
              <Button type="primary" onClick={take}>
                {w.formerTake(aims.length)}
              </Button>
            ) : (
              <Button type="primary" disabled={aims.length === 0 || isMixing} onClick={() => setMixing(true)}>
                {mixed.progress === null ? w.formerMix(aims.length) : w.searching(mixed.progress)}
              </Button>
            )}
            <Button onClick={keep}>{w.formerKeep}</Button>
          </p>
        </>
      }
    />
  );
}
