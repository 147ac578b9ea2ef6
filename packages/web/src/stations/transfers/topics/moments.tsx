import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { areaRung } from '@viaticum/core/step';
import { againStep, momentsOf, secondTransfers } from '@viaticum/core/transfer';
import { hourMinute, listInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { usePlan, useSession, useWorkedOut } from '../../../lesson/context.js';
import { transferWords } from '../../../words/transfers.js';
import { useDrawing } from '../drawing-context.js';
import css from './moments.module.css';

const w = transferWords.moments;

/** When lines come onto the canvas, which they are each time, and which would be buried before they are used. */
export function MomentsTopic() {
  const lesson = useWorkedOut();
  const { placed, moment, setMoment } = useDrawing();
  const moments = momentsOf(lesson);
  return (
    <>
      <p className="quiet small">{w.about}</p>
      <ol className={css.moments}>
        {moments.map((one) => {
          const own = placed.filter(({ moment: at }) => at.stepId === one.stepId);
          const total = own.reduce((sum, { line }) => sum + line.lengthMm, 0);
          return (
            <li key={one.stepId ?? 'first'}>
              <Button
                type="text"
                className={clsx('plain', css.moment)}
                data-testid="moment"
                aria-pressed={moment === one.stepId}
                onClick={() => setMoment(moment === one.stepId ? 'all' : one.stepId)}
              >
                <b>
                  {one.at >= 0 && `${one.at + 1}. `}
                  {one.title}
                </b>
                <span className="small">{w.lines(own.length, transferWords.metres(total))}</span>
              </Button>
              <Ready stepId={one.stepId} />
            </li>
          );
        })}
      </ol>
      {moments[0]?.stepId === null && <p className="small quiet">{w.noStep}</p>}
      {moment !== 'all' && (
        <Button type="text" size="small" onClick={() => setMoment('all')}>
          {w.all}
        </Button>
      )}
      <Buried />
    </>
  );
}

/** From when the plan traces, and from when the ground there may be leaned on. */
function Ready({ stepId }: { stepId: string | null }) {
  const { plan } = usePlan();
  const item = plan.items.find((one) => one.stepId === stepId);
  if (!item || stepId === null) return null;
  const under = new Set(plan.coats.filter((coat) => coat.laidToMin <= item.startMin).map((coat) => coat.areaId));
  const ready = [...under].map((areaId) => {
    const { coat } = areaRung(plan.coats, areaId, item.startMin);
    return coat ? coat.laidToMin + (coat.touchDryMin ?? Number.POSITIVE_INFINITY) : 0;
  });
  const latest = Math.max(0, ...ready);
  return (
    <p className="small quiet">
      {w.from(hourMinute(item.startMin))},{' '}
      {under.size === 0 ? w.bare : Number.isFinite(latest) ? w.ready(hourMinute(latest)) : ''}
    </p>
  );
}

/** Lines that paint covers before they are used: each wants a second transfer, which one press puts in. */
function Buried() {
  const lesson = useWorkedOut();
  const session = useSession();
  const again = secondTransfers(lesson);
  if (again.length === 0) return <p className="small">{w.fine}</p>;
  return (
    <ul className={css.buried} data-testid="buried">
      {again.map((one) => {
        const { beforeId, beforeAt, pairs } = one;
        const step = lesson.steps[beforeAt] as Lesson['steps'][number];
        const names = listInWords([...new Set(pairs.map(([front]) => areaName(lesson, front)))]);
        const cover = coveringStep(lesson, pairs, beforeAt);
        return (
          <li key={beforeId}>
            <p className="small">{w.buried(say`the edges of ${names}`, cover)}</p>
            <Button
              size="small"
              onClick={() =>
                session.do('addStep', {
                  step: againStep(lesson, one, nanoid(8), w.againTitle(names)),
                  at: beforeAt,
                })
              }
            >
              {w.again(step.title)}
            </Button>
          </li>
        );
      })}
    </ul>
  );
}

const areaName = (lesson: Lesson, id: string): string => lesson.areas.find((area) => area.id === id)?.name ?? '';
/** The first step before this one that paints any of these areas. */
const coveringStep = (lesson: Lesson, pairs: readonly [string, string][], before: number): string =>
  lesson.steps.slice(0, before).find((step) => step.kind === 'paint' && pairs.flat().some((id) => step.areaIds.includes(id)))
    ?.title ?? '';
