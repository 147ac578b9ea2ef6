import type { Lab, Lesson, Mix } from '@viaticum/contract';
import { Button, Input, Radio, Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { pictureUrl } from '../../api/queries.js';
import { useSession, useWorkedOut } from '../../lesson/context.js';
import { seenOutlines, useJob, useLaying } from '../../lesson/laid.js';
import { wholeOf } from '../../lesson/lay-args.js';
import { Fold } from '../../ui/fold.js';
import { Nudges } from '../../ui/nudges.js';
import { words } from '../../words/words.js';
import css from './target.module.css';

const w = words.paints;
const SPOT_MM = 2.5;

/** The target: picked from the picture as it will be painted, the mean of an area, typed, or moved by a painter's words; met dry or wet. */
export function Target({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const session = useSession();
  const worked = useWorkedOut();
  const [picking, setPicking] = useState(false);
  const hasPicture = wholeOf(lesson) !== undefined;
  const areas = useMemo(() => seenOutlines(worked), [worked]);
  const { answer: means } = useJob('means', hasPicture && lesson.areas.length > 0 ? { areas } : null, 200);
  const set = (lab: Lab | null, areaId?: string | null) =>
    session.do('setMixTarget', { id: mix.id, lab, ...(areaId !== undefined && { areaId }) });
  return (
    <>
      <h3>{w.target}</h3>
      {!mix.targetLab && <p className="small quiet">{w.noTarget}</p>}
      <div className={css.mixTargetKeys}>
        {hasPicture && (
          <Button type={picking ? 'primary' : 'default'} aria-pressed={picking} onClick={() => setPicking(!picking)}>
            {w.pick}
          </Button>
        )}
        {lesson.areas.length > 0 && (
          <Select
            value=""
            aria-label={w.fromArea}
            onChange={(given) => {
              const at = worked.areas.findIndex((area) => area.id === given);
              const lab = worked.areas[at]?.targetLab ?? means?.[at];
              if (lab) set(rounded(lab), given);
            }}
            options={[
              { value: '', label: w.fromArea },
              ...worked.areas.map((area, at) => ({
                value: area.id,
                label: area.name,
                disabled: !area.targetLab && !means?.[at],
              })),
            ]}
          />
        )}
      </div>
      {picking && <PickSpot lesson={lesson} onLab={(lab) => set(lab, null)} />}
      {mix.targetLab && <Nudges clear={w.clear} lab={mix.targetLab} onLab={set} />}
      <Typed lab={mix.targetLab ?? null} onLab={set} />
      {mix.targetLab && (
        <div className={clsx(css.mixState, 'small')}>
          <span id="met">{w.met}</span>
          <Radio.Group
            aria-labelledby="met"
            value={mix.targetState ?? 'dry'}
            options={[
              { value: 'dry', label: w.metDry },
              { value: 'wet', label: w.metWet },
            ]}
            onChange={({ target }) => session.do('setMixTarget', { id: mix.id, lab: mix.targetLab ?? null, state: target.value })}
          />
        </div>
      )}
    </>
  );
}

const rounded = (lab: Lab): Lab => lab.map((value) => Math.round(value * 10) / 10) as Lab;

/** A colour typed as L*a*b*. */
export function Typed({ lab, onLab, open = false }: { lab: Lab | null; onLab: (lab: Lab) => void; open?: boolean }) {
  // What is typed stands for the target it was typed over.
  const [typed, setTyped] = useState<{ text: string[]; over: Lab | null } | null>(null);
  const text = typed && typed.over === lab ? typed.text : lab ? lab.map(String) : ['', '', ''];
  const values = text.map((one) => (one.trim() === '' ? Number.NaN : Number(one.replace(',', '.').replace('−', '-')))) as Lab;
  const isSound = values[0] >= 0 && values[0] <= 100 && Math.abs(values[1]) <= 160 && Math.abs(values[2]) <= 160;
  return (
    <Fold className={css.typed} isOpen={open} head={<span className="small">{w.typed}</span>}>
      <p>
        {(['L', 'a', 'b'] as const).map((axis, i) => (
          <label key={axis} className="small">
            {axis}*
            <Input
              inputMode="decimal"
              aria-label={w.typedLab[axis]}
              value={text[i]}
              onChange={(event) => setTyped({ text: text.map((one, k) => (k === i ? event.target.value : one)), over: lab })}
            />
          </label>
        ))}
        <Button size="small" disabled={!isSound} onClick={() => onLab(values)}>
          {w.set}
        </Button>
      </p>
    </Fold>
  );
}

/** The picture as it will be painted, in which a place is clicked for its colour. */
function PickSpot({ lesson, onLab }: { lesson: Lesson; onLab: (lab: Lab) => void }) {
  const { widthMm, heightMm } = lesson.support;
  const { image, worker } = useLaying();
  const reference = wholeOf(lesson);
  const pick = (at: [number, number]) =>
    worker.ask('spots', { places: [at], radiusMm: SPOT_MM }).answer.then(
      ([lab]) => lab && onLab(rounded(lab)),
      () => undefined,
    );
  return (
    <figure className={css.mixPick}>
      <figcaption className="small">{w.picking}</figcaption>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the mean of an area, numbers and the words are the ways by keyboard */}
      <svg
        role="img"
        aria-label={w.picking}
        viewBox={`0 0 ${widthMm} ${heightMm}`}
        data-testid="pick"
        onClick={(event) => {
          const matrix = event.currentTarget.getScreenCTM();
          if (!matrix) return;
          const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
          pick([x, y]);
        }}
      >
        {image ? (
          <image href={image} width={widthMm} height={heightMm} preserveAspectRatio="none" />
        ) : (
          reference && (
            <image
              href={pictureUrl(reference.pictureSha256, 'work')}
              width={reference.widthPx}
              height={reference.heightPx}
              preserveAspectRatio="none"
              transform={`translate(${reference.placement.xMm + (reference.widthPx * reference.placement.mmPerPx) / 2} ${reference.placement.yMm + (reference.heightPx * reference.placement.mmPerPx) / 2}) rotate(${reference.placement.rotationDeg}) scale(${reference.placement.flip ? -reference.placement.mmPerPx : reference.placement.mmPerPx} ${reference.placement.mmPerPx}) translate(${-reference.widthPx / 2} ${-reference.heightPx / 2})`}
            />
          )
        )}
      </svg>
    </figure>
  );
}
