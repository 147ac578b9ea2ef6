import type { Area, Lab, Lesson } from '@viaticum/contract';
import { mixLook, paintOf, type Stock, shortTubeName } from '@viaticum/core/mix';
import { cssRgb, labToSrgb, srgbToLab, valueStep } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { Button, ColorPicker, Select } from 'antd';
import { clsx } from 'clsx';
import { memo, useCallback, useMemo } from 'react';
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
  const take = useCallback((next: Lab) => void session.do('setAreaTarget', { id: area.id, lab: next }), [session, area.id]);
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
      <ColourOf mixes={lesson.mixes} tubes={lesson.tubes} finish={lesson.finish} hex={hexOf(lab ?? MIDDLE)} onColour={take} />
    </div>
  );
}

/** Colours to take over: of a mix, of a tube, or any. Drawn again only when one of these changes, so that a hand on an outline is not held up. */
const ColourOf = memo(function ColourOf({
  mixes,
  tubes,
  finish,
  hex,
  onColour,
}: Pick<Lesson, 'mixes' | 'tubes' | 'finish'> & { hex: string; onColour: (lab: Lab) => void }) {
  const colours = useMemo(() => colourChoices({ mixes, tubes, finish }), [mixes, tubes, finish]);
  return (
    <div className={clsx(pictureCss.areaJoin, 'small')}>
      <span className="quiet">{w.likeShort}</span>
      {colours.length > 0 && (
        <Select
          aria-label={w.like}
          value={null}
          placeholder={w.choose}
          popupMatchSelectWidth={false}
          onChange={(given: string) => {
            const found = colours.flatMap((group) => group.options).find((one) => one.value === given);
            if (found) onColour(found.lab);
          }}
          options={colours.map(({ label, options }) => ({
            label,
            options: options.map(({ value, name, lab: own }) => ({
              value,
              label: (
                <span className={css.choice}>
                  <i style={{ background: cssRgb(labToSrgb(own)) }} />
                  {name}
                </span>
              ),
            })),
          }))}
        />
      )}
      <ColorPicker
        disabledAlpha
        value={hex}
        onChangeComplete={(colour) => {
          const { r, g, b } = colour.toRgb();
          onColour(rounded(srgbToLab([r / 255, g / 255, b / 255])));
        }}
      >
        <Button size="small">{w.free}</Button>
      </ColorPicker>
    </div>
  );
});

const rounded = (lab: Lab): Lab => lab.map((value) => Math.round(value * 10) / 10) as Lab;
const hexOf = (lab: Lab): string =>
  `#${labToSrgb(lab)
    .map((value) =>
      Math.round(value * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** Colours that an area can take over: of mixes as they look (or shall), and of tubes by themselves. */
function colourChoices(lesson: Stock) {
  const mixes = lesson.mixes.flatMap((mix) => {
    const own = mixLook(mix, lesson).colour?.lab ?? mix.targetLab;
    return own ? [{ value: `mix/${mix.id}`, name: mix.name, lab: rounded(own) }] : [];
  });
  const tubes = lesson.tubes.map((tube) => {
    const own = mixColour([{ pigment: paintOf(tube), parts: 1 }], { finish: lesson.finish }).lab;
    return { value: `tube/${tube.id}`, name: shortTubeName(tube), lab: rounded(own) };
  });
  return [
    { label: w.mixes, options: mixes },
    { label: w.tubes, options: tubes },
  ].filter((group) => group.options.length > 0);
}
