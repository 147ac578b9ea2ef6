import type { Lesson, RecipePart, Tube } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { isWhite, shortTubeName } from '@viaticum/core/mix';
import { Button } from 'antd';
import { useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { Dialog } from '../../ui/dialog.js';
import { RecipeBar } from '../../ui/swatch.js';
import { words } from '../../words/words.js';
import { paintSide, usePaintJob } from './paint-context.js';
import css from './take-out.module.css';

const w = words.paints;

/** The mixes whose recipes name a tube. */
export const mixesWith = (lesson: Lesson, tubeId: string) =>
  lesson.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === tubeId));

/** Before a tube goes that mixes need: what becomes of each mixed from the others, and what to do about it. */
export function TakeOut({ lesson, tube, onClose }: { lesson: Lesson; tube: Tube; onClose: () => void }) {
  const session = useSession();
  const asked = useMemo(() => ({ lesson: paintSide(lesson), lacking: [tube.id] }), [lesson, tube]);
  const { answer, progress } = usePaintJob('without', asked);
  const looks = looksOf(lesson);
  const name = shortTubeName(tube);
  const needing = mixesWith(lesson, tube.id);
  const others = (answer ?? []).filter((one) => needing.some((mix) => mix.id === one.mixId));
  const mixOthers = () => {
    const recipes = others.map(({ mixId, parts }) => ({
      id: mixId,
      recipe: parts.map(({ tubeId, parts }): RecipePart => ({ tubeId, parts })),
    }));
    if (session.do('takePalette', { tubes: lesson.tubes.filter((one) => one.id !== tube.id), recipes })) onClose();
  };
  const strip = () => {
    if (session.do('removeTube', { id: tube.id })) onClose();
  };
  const isAnswered = progress === null && answer !== null;
  return (
    <Dialog title={w.takesOut(name)} onClose={onClose}>
      {isWhite(tube) && <p>{w.breaksWhite}</p>}
      <p>{isAnswered && others.length === 0 ? w.needItNone(needing.length) : w.needIt(needing.length)}</p>
      {!isAnswered && (
        <p role="status" className="quiet small">
          {w.searching(progress ?? 0)}
        </p>
      )}
      <ul className={css.others} data-testid="take-out">
        {others.map((other) => (
          <li key={other.mixId}>
            <span className={css.pair}>
              <i style={{ background: looks.get(other.mixId)?.rgb }} title={w.usual} />
              <i style={{ background: other.rgb }} title={w.instead} />
            </span>
            <div>
              <b>{looks.get(other.mixId)?.mix.name}</b>
              {w.isOff(other.off)}
              <RecipeBar parts={other.parts} words={other.words} />
            </div>
          </li>
        ))}
      </ul>
      <p className={css.keys}>
        <Button type="primary" disabled={others.length === 0} onClick={mixOthers}>
          {w.mixOthers}
        </Button>
        <Button onClick={strip}>{w.stripIt}</Button>
        <Button onClick={onClose}>{w.keepIt}</Button>
      </p>
    </Dialog>
  );
}
