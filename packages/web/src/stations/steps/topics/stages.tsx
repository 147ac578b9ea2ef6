import { Button } from 'antd';
import { clsx } from 'clsx';
import type { CSSProperties } from 'react';
import { useUploadPicture } from '../../../api/queries.js';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { FileKey, PICTURES } from '../../../ui/file-key.js';
import { draftWords, stageWords as w } from '../../../words/school.js';
import { type Painted, usePaintedNow } from '../painted.js';
import css from './stages.module.css';

/** A strip of the canvas after every step that leaves something on it, and how near each comes to the picture. */
export function StagesTopic() {
  const lesson = useWorkedOut();
  const { plan } = usePlan();
  const view = useView();
  const { urls, offs, progress, fault } = usePaintedNow();
  if (lesson.areas.length === 0) return <p className="quiet">{draftWords.needAreas}</p>;
  const shown = lesson.steps.filter(
    ({ kind }) => kind === 'paint' || kind === 'prepare' || kind === 'draw' || kind === 'transfer',
  );
  const { widthMm, heightMm } = lesson.support;
  const last = offs.at(-1);
  return (
    <div
      className={clsx(css.stageStrip, view.squint && css.squinted)}
      style={{ '--canvas-ratio': `${widthMm} / ${heightMm}` } as CSSProperties}
      data-testid="stage-strip"
    >
      <p className="quiet small">
        {w.about} {last && w.off(last.mean)}
      </p>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {progress !== null && (
        <p role="status" className="quiet small">
          {w.painting(progress)}
        </p>
      )}
      <Nearness offs={offs} />
      <ol>
        {shown.map((step) => {
          const url = urls.get(step.id);
          const number = lesson.steps.indexOf(step) + 1;
          const end = plan.items.find((item) => item.stepId === step.id)?.endMin ?? 0;
          return (
            <li key={step.id}>
              <Button
                type="text"
                className="plain"
                aria-pressed={view.stepId === step.id}
                onClick={() => {
                  view.selectStep(step.id);
                  view.setMinute(end);
                }}
              >
                {url ? <img src={url} alt="" /> : <span className={css.stageEmpty} />}
                <span className="small">
                  {number}. {step.title}
                </span>
              </Button>
              {view.stepId === step.id && <PhotoInstead stepId={step.id} has={step.photoSha256 !== undefined} />}
            </li>
          );
        })}
      </ol>
    </div>
  );
}

/** A photograph of a real canvas in place of the computed picture. */
function PhotoInstead({ stepId, has }: { stepId: string; has: boolean }) {
  const session = useSession();
  const upload = useUploadPicture();
  const take = (file: File) =>
    upload.mutate(file, { onSuccess: ({ sha256 }) => session.do('editStep', { id: stepId, step: { photoSha256: sha256 } }) });
  return (
    <div className={clsx(css.stagePhoto, 'small')}>
      <FileKey label={upload.isPending ? w.bringing : w.photo} accept={PICTURES} onFile={take} />
      {has && (
        <Button type="text" size="small" onClick={() => session.do('editStep', { id: stepId, step: {}, clear: ['photoSha256'] })}>
          {w.computed}
        </Button>
      )}
      {upload.error && (
        <span className="signal" role="alert">
          {upload.error.message}
        </span>
      )}
    </div>
  );
}

const [WIDE, HIGH] = [560, 74];
/** How far the canvas lies from the picture after every step, as a line that falls; a rise is a rough place and is named. */
function Nearness({ offs }: { offs: Painted['offs'] }) {
  const lesson = useWorkedOut();
  if (offs.length < 3) return null;
  const most = Math.max(...offs.map((one) => one.mean), 10);
  const x = (i: number) => 8 + ((WIDE - 16) * i) / (offs.length - 1);
  const y = (mean: number) => HIGH - 8 - ((HIGH - 20) * mean) / most;
  const rises = offs.slice(1).flatMap((one, i) => {
    const before = offs[i] as (typeof offs)[number];
    return one.mean > before.mean + 0.5 ? [{ stepId: one.stepId, by: one.mean - before.mean }] : [];
  });
  const titleOf = (id: string) => lesson.steps.find((step) => step.id === id)?.title ?? '';
  return (
    <figure className={css.nearness} data-testid="nearness">
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label={w.nearness(offs.map((one) => Math.round(one.mean)).join(', '))}>
        <line x1={8} x2={WIDE - 8} y1={y(0)} y2={y(0)} stroke="var(--grey-67)" strokeWidth={1} />
        <polyline
          points={offs.map((one, i) => `${x(i)},${y(one.mean)}`).join(' ')}
          fill="none"
          stroke="var(--grey-12)"
          strokeWidth={2}
          strokeLinejoin="round"
        />
        {offs.map((one, i) => (
          <circle
            key={one.stepId}
            cx={x(i)}
            cy={y(one.mean)}
            r={rises.some((rise) => rise.stepId === one.stepId) ? 5 : 2.6}
            fill="var(--grey-12)"
          />
        ))}
      </svg>
      <figcaption className="small quiet">
        {w.nearnessAbout(offs[0]?.mean ?? 0, offs.at(-1)?.mean ?? 0)}{' '}
        {rises.map((rise) => w.rises(titleOf(rise.stepId), rise.by)).join(' ')}
      </figcaption>
    </figure>
  );
}
