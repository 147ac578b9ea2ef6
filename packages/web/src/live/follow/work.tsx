import type { FollowSheet, Helper, PlanItem, SheetStep } from '@viaticum/contract';
import { coatsNow, type Student } from '@viaticum/core/class';
import { waitInWords } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { lazy, Suspense } from 'react';
import { RecipeBar } from '../../ui/swatch.js';
import { followWords as w } from '../../words/follow.js';
import { kindWords, techniqueWords } from '../../words/terms.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { allowed } from '../drying.js';
import { filmOf } from '../film/film-state.js';
import { useStagesBase } from '../painted.js';
import { useNowEvery } from '../use-live.js';
import { Cells } from './cells.js';
import followCss from './follow.module.css';
import { lackingIn } from './kit.js';
import type { PhoneSettings } from './phone-settings.js';
import { Picture } from './picture.js';
import { Ticks } from './ticks.js';
import css from './work.module.css';

// Only lessons with films need it.
const FilmBeside = lazy(() => import('../film/film-beside.js').then((module) => ({ default: module.FilmBeside })));

type Props = {
  connection: LiveConnection;
  item: PlanItem;
  step: SheetStep;
  sheet: FollowSheet;
  live: LiveSnapshot;
  student: Student;
  isPresent: boolean;
  settings: PhoneSettings;
  looking: 'short' | 'long' | null;
};

/** What to do in a step, for what this student has, and what may be done on each area of their own canvas. */
export function Work({ connection, item, step, sheet, live, student, isPresent, settings, looking }: Props) {
  const way = wayFor(sheet, item.stepId, student.has);
  const base = useStagesBase();
  const film = filmOf(sheet, item.stepId);
  const picture = <Picture item={item} step={step} sheet={sheet} live={live} />;
  const brush = settings.metric ? (step.brushMetric ?? step.brush) : step.brush;
  return (
    <>
      {film && base ? (
        <Suspense fallback={picture}>
          <FilmBeside key={`${film.film.id} ${item.stepId}`} base={base} of={film} connection={connection} live={live}>
            {picture}
          </FilmBeside>
        </Suspense>
      ) : (
        picture
      )}
      <div className={followCss.followWords}>
        <h1>{step.title}</h1>
        {(brush || step.technique) && (
          <p className={css.followBrush}>
            {[
              brush,
              step.technique
                ? techniqueWords[step.technique as keyof typeof techniqueWords]
                : kindWords[step.kind as keyof typeof kindWords],
            ]
              .filter(Boolean)
              .join(', ')}
          </p>
        )}
        {step.lines.map((line) => (
          <p key={line}>{line}</p>
        ))}
        {way && <p className={css.followWay}>{way}</p>}
        {sheet.grid && (step.kind === 'draw' || step.kind === 'transfer') && (
          <Cells key={item.stepId} sheet={sheet} grid={sheet.grid} />
        )}
        {step.counts && step.counts.length > 0 && <Ticks stepKey={item.stepId ?? ''} counts={step.counts} />}
        {looking && step.mixes.length > 0 && (
          <p className={followCss.followInstead} role="status">
            {w.looking}
          </p>
        )}
        {(looking === 'short' ? [] : step.mixes).map((mix) => (
          <div key={mix.id} className={followCss.followMix}>
            <i className={css.followPaint} style={{ background: mix.wetRgb }} title={w.wet} />
            <i className={clsx(css.followPaint, css.dry)} style={{ background: mix.rgb }} title={w.dry} />
            <RecipeBar parts={mix.parts} words={`${mix.name}: ${mix.words}${mix.place ? w.place(mix.place) : ''}`} />
            {mix.instead !== undefined && <p className={followCss.followInstead}>{w.instead(mix.instead)}</p>}
            {mix.full !== undefined && <p className={followCss.followInstead}>{w.fullRecipe(mix.full)}</p>}
          </div>
        ))}
        {isPresent && <Allowed {...{ connection, live, sheet, student }} />}
        {student.kit.length > 0 && lackingIn(sheet.tubes, student.kit).length === sheet.tubes.length && <p>{w.shareTubes}</p>}
        {step.checkpoint && <p className={css.followCheckpoint}>{step.checkpoint}</p>}
      </div>
    </>
  );
}

/** The way of doing a step for what a student has; where they have said nothing, none. */
function wayFor(sheet: FollowSheet, stepId: string | undefined, has: readonly Helper[]): string | null {
  const ways = (stepId && sheet.ways?.[stepId]) || [];
  return ways.find((one) => has.includes(one.helper))?.words ?? null;
}

/** What may be done on each wet area of this student's canvas by now, and what has to wait. */
function Allowed({ connection, live, sheet, student }: Pick<Props, 'connection' | 'live' | 'sheet' | 'student'>) {
  const { coats, minute } = coatsNow(live.state, useNowEvery(connection, 2), student);
  const { now: may, notYet } = allowed(sheet, coats, minute);
  return (
    <div className={css.followAllowed}>
      {may.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {notYet.map(({ names, minutes }) => (
        <p key={names} className="quiet">
          {w.notYetOver(names)}
          {minutes === null ? '' : `, ${waitInWords(minutes)}`}
        </p>
      ))}
    </div>
  );
}
