import { outlinePath } from '@viaticum/core/area';
import { valueStep } from '@viaticum/kernels/colour';
import { useState } from 'react';
import { useView } from '../../../lesson/context.js';
import { useBlobUrl, useJob } from '../../../lesson/laid.js';
import { words } from '../../../words/words.js';
import { useBase, useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';

const w = words.picture.values;
/** What 1 arc minute, the acuity of a healthy eye (20/20; ICO visual acuity standard 1984), blurs at a distance. */
const lostAt = (metres: number) => metres * 1000 * Math.tan(Math.PI / 180 / 60);
const SHOWN = ['picture', 'values', 'grey'] as const;

/** The masses of light and dark: squinted at, reduced to a few values, seen in grey, mirrored or upside down. */
export function ValuesTopic() {
  const view = useView();
  const easel = useEasel();
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
      <fieldset className="choice" aria-label={w.shown}>
        {SHOWN.map((one) => (
          <button key={one} type="button" className="key" aria-pressed={shown === one} onClick={() => setShown(one)}>
            {w.show[one]}
          </button>
        ))}
      </fieldset>
      <label className="field">
        <span>
          {w.blur} <b className="numbers">{blurMm.toFixed(1)} mm</b>
        </span>
        <input
          type="range"
          min={0}
          max={12}
          step={0.5}
          value={blurMm}
          onChange={(event) => setBlurMm(Number(event.target.value))}
        />
        <span>{blurMm > 0 ? w.lost(String(metres)) : w.sharp}</span>
      </label>
      <label className="field">
        <span>
          {w.count} <b className="numbers">{count}</b>
        </span>
        <input type="range" min={2} max={7} value={count} onChange={(event) => setCount(Number(event.target.value))} />
      </label>
      {values.fault && <p className="signal">{values.fault}</p>}
      <table className="value-table">
        <thead>
          <tr>
            <th>{w.mass}</th>
            <th className="numbers">{w.step}</th>
            <th className="numbers">L*</th>
            <th className="numbers">{w.share}</th>
          </tr>
        </thead>
        <tbody>
          {[...(values.answer?.classes ?? [])].reverse().map((one) => (
            <tr key={one.fromL}>
              <td>
                <span className="value-chip" style={{ background: `lab(${one.meanL}% 0 0)`, width: `${12 + 88 * one.share}%` }} />
              </td>
              <td className="numbers">{valueStep(one.meanL).toFixed(1)}</td>
              <td className="numbers">{Math.round(one.meanL)}</td>
              <td className="numbers">{Math.round(one.share * 100)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet small">{w.scale}</p>
      <label className="field">
        <span>
          {w.ends} <b className="numbers">{share} %</b>
        </span>
        <input type="range" min={1} max={5} value={share} onChange={(event) => setShare(Number(event.target.value))} />
      </label>
      {ends.answer && <p>{w.endsAre(valueStep(ends.answer.darkL).toFixed(1), valueStep(ends.answer.lightL).toFixed(1))}</p>}
      <p className="picture-toggles">
        <button
          type="button"
          className="toggle"
          aria-pressed={view.outlines}
          onClick={() => view.toggle('outlines')}
          aria-keyshortcuts="O"
        >
          <kbd>O</kbd> {words.picture.outlines.toLowerCase()}
        </button>
        <button
          type="button"
          className="toggle"
          aria-pressed={easel.turned.mirror}
          onClick={() => easel.setTurned({ ...easel.turned, mirror: !easel.turned.mirror })}
        >
          {w.mirror}
        </button>
        <button
          type="button"
          className="toggle"
          aria-pressed={easel.turned.upside}
          onClick={() => easel.setTurned({ ...easel.turned, upside: !easel.turned.upside })}
        >
          {w.upside}
        </button>
      </p>
      {ends.answer && (
        <OnCanvas>
          <g pointerEvents="none" fill="none">
            {[ends.answer.dark, ends.answer.light].map((outline, i) => (
              <g key={i === 0 ? 'dark' : 'light'}>
                <path d={outlinePath(outline)} stroke={i === 0 ? '#fff' : '#000'} strokeWidth={easel.unit * 3} />
                <path
                  d={outlinePath(outline)}
                  stroke={i === 0 ? '#000' : '#fff'}
                  strokeWidth={easel.unit * 1.5}
                  strokeDasharray={i === 0 ? undefined : `${easel.unit * 5} ${easel.unit * 3}`}
                />
              </g>
            ))}
          </g>
        </OnCanvas>
      )}
    </>
  );
}
