import type { Lab, Zone } from '@viaticum/contract';
import { cssRgb, labToSrgb, valueStep } from '@viaticum/core/colour';
import { useMemo } from 'react';
import { useLesson, useSession, useWorkedOut } from '../../../lesson/context.js';
import { seenOutlines, useJob } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { Nudges } from '../../../ui/nudges.js';
import { words } from '../../../words.js';

const w = words.picture.target;
const MIDDLE: Lab = [55, 0, 0];

/** What a zone aims at: the mean of what the picture has there, or a colour moved from it; without a picture a chosen one. */
export function ZoneTarget({ zone }: { zone: Zone }) {
  const lesson = useLesson();
  const session = useSession();
  const worked = useWorkedOut();
  const at = worked.zones.findIndex((one) => one.id === zone.id);
  const zones = useMemo(() => seenOutlines(worked), [worked]);
  const hasPicture = wholeOf(lesson) !== undefined;
  const { answer } = useJob('means', hasPicture ? { zones } : null, 150);
  const mean = answer?.[at] ?? null;
  const lab = zone.targetLab ?? mean;
  const set = (next: Lab | null) => session.do('setZoneTarget', { id: zone.id, lab: next });
  const withTarget = lesson.mixes.filter((mix) => mix.targetLab);
  return (
    <div className="zone-target">
      <p className="small">
        {lab && <span className="zone-target-chip" style={{ background: cssRgb(labToSrgb(lab)) }} />}
        {lab
          ? zone.targetLab
            ? w.moved(valueStep(lab[0]).toFixed(1), mean ? valueStep(mean[0]).toFixed(1) : null)
            : w.asPicture(valueStep(lab[0]).toFixed(1))
          : w.none}
      </p>
      <Nudges lab={lab ?? MIDDLE} clear={hasPicture ? w.back : w.clear} onLab={set} />
      {withTarget.length > 0 && (
        <label className="zone-join small">
          <span className="quiet">{w.like}</span>
          <select
            value=""
            onChange={(event) => {
              const mix = withTarget.find((one) => one.id === event.target.value);
              if (mix?.targetLab) set(mix.targetLab);
            }}
          >
            <option value="">…</option>
            {withTarget.map((mix) => (
              <option key={mix.id} value={mix.id}>
                {mix.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
