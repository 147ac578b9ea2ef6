import type { Lab, OwnTube } from '@viaticum/contract';
import { type CardReading, usualGreys } from '@viaticum/core/drawdown';
import { cornersFault } from '@viaticum/core/transfer';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useLaying } from '../../lesson/laid.js';
import { type CorneredPhoto, CornerPicker, cornered } from '../../ui/corner-picker.js';
import { FileKey, PICTURES } from '../../ui/file-key.js';
import { saveFile } from '../../ui/save-file.js';
import { words } from '../../words/words.js';
import css from './drawdowns.module.css';

const w = words.paints.card;
type Samples = Pick<OwnTube, 'masstoneLab' | 'drawdowns'> & { tintLab: Lab };
const shown = ['thinOverBlack', 'thickOverBlack', 'thinOverWhite', 'thickOverWhite', 'tint'] as const;
const numbersIn = (text: string): number[] =>
  text
    .split(/[\s;]+/)
    .filter((one) => one !== '')
    .map((one) => Number(one.replace(',', '.')));
const rounded = (lab: Lab): Lab => [
  Math.min(100, Math.max(0, Math.round(lab[0] * 10) / 10)),
  Math.round(lab[1] * 10) / 10,
  Math.round(lab[2] * 10) / 10,
];

/** A card of drawdowns: printed from here, photographed, straightened and read; what it tells of a tube goes to `onRead`. */
export function Drawdowns({ onRead }: { onRead: (samples: Samples) => void }) {
  const { worker } = useLaying();
  const [photo, setPhoto] = useState<CorneredPhoto | null>(null);
  const [reading, setReading] = useState<CardReading | null>(null);
  const [greys, setGreys] = useState(usualGreys.join(' '));
  const [films, setFilms] = useState('50 100');
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const run = async (work: () => Promise<void>) => {
    setBusy(true);
    setFault(null);
    try {
      await work();
    } catch (error) {
      setFault((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const print = () =>
    run(async () => {
      const { drawdownCard } = await import('../../pdf/drawdown-card.js');
      saveFile(`${w.title}.pdf`, new Blob([(await drawdownCard()) as BlobPart], { type: 'application/pdf' }));
    });
  const choose = (blob: File) =>
    run(async () => {
      setReading(null);
      setPhoto(cornered(blob, await worker.ask('corners', { photo: blob }).answer));
    });
  const read = () =>
    run(async () => {
      const steps = numbersIn(greys);
      const [thin = Number.NaN, thick = Number.NaN] = numbersIn(films);
      const bad = photo && cornersFault(photo.corners);
      if (!photo || bad) throw new Error(bad ?? w.pick);
      if (steps.length < 3 || steps.some((one) => !Number.isFinite(one))) throw new Error(w.fault);
      const found = await worker.ask('card', { photo: photo.blob, corners: photo.corners, greys: steps }).answer;
      setReading(found);
      onRead({
        masstoneLab: rounded(found.thickOverWhite),
        tintLab: rounded(found.tint),
        drawdowns: {
          dryUm: [thin, thick],
          overBlack: [rounded(found.thinOverBlack), rounded(found.thickOverBlack)],
          overWhite: [rounded(found.thinOverWhite), rounded(found.thickOverWhite)],
          black: rounded(found.black),
          white: rounded(found.white),
        },
      });
    });
  return (
    <section className={css.drawdowns} aria-label={w.head}>
      <h3>{w.head}</h3>
      <p className="small quiet">{w.about}</p>
      <div className={css.keys}>
        <Button onClick={() => void print()}>{w.print}</Button>
        <FileKey label={w.photo} name={w.photo} accept={PICTURES} onFile={(file) => file && void choose(file)} />
      </div>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {photo && (
        <>
          <p className="small quiet">{photo.wasFound ? w.found : w.pick}</p>
          <div className={css.photo}>
            <CornerPicker photo={photo} onCorners={(corners) => setPhoto({ ...photo, corners })} />
          </div>
          <p className={css.fields}>
            <label className="small">
              {w.greySteps}
              <Input value={greys} onChange={(event) => setGreys(event.target.value)} />
            </label>
            <label className="small">
              {w.films}
              <Input value={films} onChange={(event) => setFilms(event.target.value)} />
            </label>
            <Button type="primary" disabled={isBusy} onClick={() => void read()}>
              {w.read}
            </Button>
          </p>
        </>
      )}
      {reading && (
        <>
          <ul className={css.read} data-testid="card-read">
            {shown.map((name) => (
              <li key={name} className="small">
                <i style={{ background: cssRgb(labToSrgb(reading[name])) }} />
                {w.reads[name]}
              </li>
            ))}
          </ul>
          <p className="small quiet">{w.uneven(reading.evenness)}</p>
        </>
      )}
    </section>
  );
}
