import type { Area, Lab } from '@viaticum/contract';
import { cssRgb, labToSrgb, valueStep } from '@viaticum/kernels/colour';
import { Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo } from 'react';
import { useLesson, useSession, useWorkedOut } from '../../../lesson/context.js';
import { seenOutlines, useJob } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { Nudges } from '../../../ui/nudges.js';
import { words } from '../../../words/words.js';
import pictureCss from '../picture.module.css';
import css from './area-target.module.css';

const w = words.picture.target;
const MIDDLE: Lab = [55, 0, 0];

/** What an area aims at: the mean of what the picture has there, or a colour moved from it; without a picture a chosen one. */
export function AreaTarget({ area }: { area: Area }) {
  const lesson = useLesson();
  const session = useSession();
  const worked = useWorkedOut();
  const at = worked.areas.findIndex((one) => one.id === area.id);
  const areas = useMemo(() => seenOutlines(worked), [worked]);
  const hasPicture = wholeOf(lesson) !== undefined;
  const { answer } = useJob('means', hasPicture ? { areas } : null, 150);
  const mean = answer?.[at] ?? null;
  const lab = area.targetLab ?? mean;
  const set = (next: Lab | null) => session.do('setAreaTarget', { id: area.id, lab: next });
  const withTarget = lesson.mixes.filter((mix) => mix.targetLab);
  return (
    <div className={css.areaTarget}>
      <p className="small">
        {lab && <span className={css.areaTargetChip} style={{ background: cssRgb(labToSrgb(lab)) }} />}
        {lab
          ? area.targetLab
            ? w.moved(valueStep(lab[0]).toFixed(1), mean ? valueStep(mean[0]).toFixed(1) : null)
            : w.asPicture(valueStep(lab[0]).toFixed(1))
          : w.none}
      </p>
      <Nudges lab={lab ?? MIDDLE} clear={hasPicture ? w.back : w.clear} onLab={set} />
      {withTarget.length > 0 && (
        <div className={clsx(pictureCss.areaJoin, 'small')}>
          <span className="quiet">{w.like}</span>
          <Select
            aria-label={w.like}
            value=""
            onChange={(given) => {
              const mix = withTarget.find((one) => one.id === given);
              if (mix?.targetLab) set(mix.targetLab);
            }}
            options={[{ value: '', label: '…' }, ...withTarget.map((mix) => ({ value: mix.id, label: mix.name }))]}
          />
        </div>
      )}
    </div>
  );
}
