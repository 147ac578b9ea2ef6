import type { Outline } from '@viaticum/contract';
import { outlinePath } from '@viaticum/core/area';
import { lowered } from '@viaticum/core/units';
import { valueStep } from '@viaticum/kernels/colour';
import { Segmented } from 'antd';
import { useState } from 'react';
import { useView } from '../../../lesson/context.js';
import { useBlobUrl, useJob } from '../../../lesson/laid.js';
import { ToggleKey } from '../../../ui/toggle-key.js';
import { TurnField } from '../../../ui/turn-field.js';
import { Working } from '../../../ui/working.js';
import { words } from '../../../words/words.js';
import { useBase, useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import css from './values.module.css';

const w = words.picture.values;
/** What 1 arc minute, the acuity of a healthy eye (20/20; ICO visual acuity standard 1984), blurs at a distance. */
const lostAt = (metres: number) => metres * 1000 * Math.tan(Math.PI / 180 / 60);
const SHOWN = ['picture', 'values', 'grey'] as const;

/** The masses of light and dark: squinted at, reduced to a few values, seen in grey, mirrored or upside down. */
export function ValuesTopic() {
  const [shown, setShown] = useState<(typeof SHOWN)[number]>('values');
  const [count, setCount] = useState(4);
  const [blurMm, setBlurMm] = useState(2);
  const [share, setShare] = useState(2);
  const values = useJob('values', { count, blurMm });
  const grey = useJob('grey', shown === 'grey' ? { blurMm } : null);
  const ends = useJob('extremes', { share: share / 100 });
  const valuesUrl = useBlobUrl(values.answer?.image);
  const greyUrl = useBlobUrl(grey.answer?.image);
  useBase(shown === 'values' ? valuesUrl : shown === 'grey' ? greyUrl : null);
  const metres = Math.round((blurMm / lostAt(1)) * 10) / 10;
  return (
    <>
      <Segmented
        block
        aria-label={w.shown}
        value={shown}
        options={SHOWN.map((one) => ({ value: one, label: w.show[one] }))}
        onChange={setShown}
      />
      <TurnField
        label={w.blur}
        said={`${blurMm.toFixed(1)} mm`}
        min={0}
        max={12}
        step={0.5}
        value={blurMm}
        onChange={setBlurMm}
      />
      <p className="small">{blurMm > 0 ? w.lost(String(metres)) : w.sharp}</p>
      <TurnField label={w.count} said={count} min={2} max={7} value={count} onChange={setCount} />
      {values.fault && <p className="signal">{values.fault}</p>}
      {!values.answer && !values.fault && <Working said={words.picture.measuring} job={values} />}
      <MassTable classes={values.answer?.classes ?? []} />
      <p className="quiet small">{w.scale}</p>
      <TurnField label={w.ends} said={`${share} %`} min={1} max={5} value={share} onChange={setShare} />
      {ends.answer && <p>{w.endsAre(valueStep(ends.answer.darkL).toFixed(1), valueStep(ends.answer.lightL).toFixed(1))}</p>}
      <TurnedKeys />
      {ends.answer && <EndsOnCanvas dark={ends.answer.dark} light={ends.answer.light} />}
    </>
  );
}

/** The masses from light to dark, each with its value and its share of the canvas. */
function MassTable({ classes }: { classes: readonly { fromL: number; meanL: number; share: number }[] }) {
  return (
    <table className={css.valueTable} data-testid="value-table">
      <thead>
        <tr>
          <th>{w.mass}</th>
          <th className="numbers">{w.step}</th>
          <th className="numbers">L*</th>
          <th className="numbers">{w.share}</th>
        </tr>
      </thead>
      <tbody>
        {[...classes].reverse().map((one) => (
          <tr key={one.fromL}>
            <td>
              <span
                className={css.valueChip}
                style={{ background: `lab(${one.meanL}% 0 0)`, width: `${12 + 88 * one.share}%` }}
              />
            </td>
            <td className="numbers">{valueStep(one.meanL).toFixed(1)}</td>
            <td className="numbers">{Math.round(one.meanL)}</td>
            <td className="numbers">{Math.round(one.share * 100)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The picture as the canvas shows it: with outlines, in the mirror, upside down. */
function TurnedKeys() {
  const view = useView();
  const easel = useEasel();
  return (
    <p className={pictureCss.pictureToggles}>
      <ToggleKey
        said={lowered(words.picture.outlines)}
        letter="O"
        isOn={view.outlines}
        onToggle={() => view.toggle('outlines')}
      />
      {(['mirror', 'upside'] as const).map((way) => (
        <ToggleKey
          key={way}
          said={w[way]}
          isOn={easel.turned[way]}
          onToggle={() => easel.setTurned({ ...easel.turned, [way]: !easel.turned[way] })}
        />
      ))}
    </p>
  );
}

/** Where the darkest and the lightest lie. */
function EndsOnCanvas({ dark, light }: { dark: Outline; light: Outline }) {
  const { unit } = useEasel();
  return (
    <OnCanvas>
      <g pointerEvents="none" fill="none">
        {[dark, light].map((outline, i) => (
          <g key={i === 0 ? 'dark' : 'light'}>
            <path d={outlinePath(outline)} stroke={i === 0 ? 'var(--white)' : 'var(--grey-0)'} strokeWidth={unit * 3} />
            <path
              d={outlinePath(outline)}
              stroke={i === 0 ? 'var(--grey-0)' : 'var(--white)'}
              strokeWidth={unit * 1.5}
              strokeDasharray={i === 0 ? undefined : `${unit * 5} ${unit * 3}`}
            />
          </g>
        ))}
      </g>
    </OnCanvas>
  );
}
