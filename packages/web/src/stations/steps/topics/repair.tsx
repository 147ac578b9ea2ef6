import type { Lab } from '@viaticum/contract';
import { bordersBetween } from '@viaticum/core/derived';
import { plannedState, type RepairWay, repairWays } from '@viaticum/core/paint-repair';
import { discColour } from '@viaticum/core/picture';
import { hourMinute, minutesInWords } from '@viaticum/core/units';
import { cssRgb, deltaE00, labToSrgb } from '@viaticum/kernels/colour';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { type MouseEvent, useMemo, useRef, useState } from 'react';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { useBlobUrl } from '../../../lesson/laid.js';
import { FileKey, PICTURES } from '../../../ui/file-key.js';
import { repairWords as w } from '../../../words/teach.js';
import stepsCss from '../steps.module.css';
import css from './repair.module.css';

const COLOUR = 'colour';

/** What went wrong at the light's minute, and the ways to repair it with what each costs. */
export function RepairTopic() {
  const lesson = useWorkedOut();
  const planned = usePlan();
  const session = useSession();
  const view = useView();
  const [areaId, setArea] = useState(view.areaId ?? lesson.areas[0]?.id ?? '');
  const [what, setWhat] = useState(COLOUR);
  const [spots, setSpots] = useState<{ isLab: Lab; wantLab: Lab } | null>(null);
  const [fromPhoto, setFromPhoto] = useState(false);
  const atMin = Math.min(view.minute, planned.plan.endMin);
  const state = useMemo(
    () => (fromPhoto ? spots : plannedState(lesson, planned, areaId, atMin)),
    [fromPhoto, spots, lesson, planned, areaId, atMin],
  );
  const edgeWith = what === COLOUR ? null : what;
  const ways = useMemo(
    () => (state ? repairWays(lesson, planned, { areaId, atMin, ...state, ...(edgeWith ? { edgeWith } : {}) }) : []),
    [lesson, planned, areaId, atMin, state, edgeWith],
  );
  const beside = [...(bordersBetween(lesson).get(areaId)?.keys() ?? [])];
  const nameOf = (id: string) => lesson.areas.find((area) => area.id === id)?.name ?? '';
  const put = (way: RepairWay) => {
    if (!way.step) return;
    const at = lesson.steps.findIndex((step) => step.id === way.afterStepId) + 1;
    const step = { ...way.step, id: nanoid(8) };
    if (session.do('addStep', { step, at })) view.selectStep(step.id);
  };
  return (
    <div className={css.repairTopic}>
      <p className="quiet small">
        {w.about} <b className="numbers">{w.at(hourMinute(atMin))}</b>
      </p>
      <div className={stepsCss.draftSchool}>
        <div className="field">
          <span>{w.area}</span>
          <Select
            aria-label={w.area}
            value={areaId}
            onChange={(given) => setArea(given)}
            options={lesson.areas.map((area) => ({ value: area.id, label: area.name }))}
          />
        </div>
        <div className="field">
          <span>{w.what}</span>
          <Select
            aria-label={w.what}
            value={what}
            onChange={(given) => setWhat(given)}
            options={[{ value: COLOUR, label: w.colour }, ...beside.map((id) => ({ value: id, label: w.edge(nameOf(id)) }))]}
          />
        </div>
        <div className="field">
          <span>{w.from}</span>
          <Select
            aria-label={w.from}
            value={fromPhoto ? 'photo' : 'plan'}
            onChange={(given) => setFromPhoto(given === 'photo')}
            options={[
              { value: 'plan', label: w.planned },
              { value: 'photo', label: w.photo },
            ]}
          />
        </div>
      </div>
      {fromPhoto && <PhotoSpots onSpots={setSpots} />}
      {!state && <p className="quiet">{fromPhoto ? w.tap : w.unknown}</p>}
      {state && (
        <p className={css.repairState}>
          <Spot lab={state.isLab} words={w.spots.is} /> <Spot lab={state.wantLab} words={w.spots.want} />{' '}
          <span className="quiet">{w.off(deltaE00(state.isLab, state.wantLab))}</span>
        </p>
      )}
      <ol className={css.repairWays} data-testid="repair-ways">
        {ways.map((way) => (
          <li key={way.kind}>
            <h3>{w.kinds[way.kind]}</h3>
            <p>{way.words}</p>
            <p className="quiet small numbers">
              {way.extraMin > 0.2 ? w.costs(minutesInWords(way.extraMin)) : w.costsNothing}
              {way.off !== null && `, ${w.leaves(way.off)}`}
            </p>
            {way.step && <Button onClick={() => put(way)}>{w.put}</Button>}
          </li>
        ))}
      </ol>
    </div>
  );
}

function Spot({ lab, words }: { lab: Lab; words: string }) {
  return (
    <span className={css.repairSpot}>
      <i style={{ background: cssRgb(labToSrgb(lab)) }} /> {words}
    </span>
  );
}

const RADIUS_PX = 6;
/** Two spots of a photograph: where it is wrong, and where it is right. */
function PhotoSpots({ onSpots }: { onSpots: (spots: { isLab: Lab; wantLab: Lab } | null) => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [taps, setTaps] = useState<{ x: number; y: number; lab: Lab }[]>([]);
  const url = useBlobUrl(file);
  const image = useRef<HTMLImageElement>(null);
  const tap = (event: MouseEvent) => {
    const shown = image.current;
    if (!shown) return;
    const box = shown.getBoundingClientRect();
    const [x, y] = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    const canvas = new OffscreenCanvas(shown.naturalWidth, shown.naturalHeight);
    const context = canvas.getContext('2d');
    if (!context) return;
    context.drawImage(shown, 0, 0);
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    const radius = Math.max(RADIUS_PX, canvas.width / 120);
    const lab = discColour(data, canvas.width, canvas.height, [x * canvas.width, y * canvas.height], radius);
    const next = [...(taps.length >= 2 ? [] : taps), { x, y, lab }];
    setTaps(next);
    const [is, want] = next;
    onSpots(is && want ? { isLab: is.lab, wantLab: want.lab } : null);
  };
  return (
    <div>
      <FileKey
        label={w.choose}
        accept={PICTURES}
        size="middle"
        onFile={(chosen) => {
          setFile(chosen);
          setTaps([]);
          onSpots(null);
        }}
      />
      {url && (
        <Button type="text" className={clsx('plain', css.repairPhotoFace)} onClick={tap} aria-label={w.tap}>
          <img ref={image} src={url} alt="" />
          {taps.map((one, i) => (
            <span key={`${one.x},${one.y}`} style={{ left: `${one.x * 100}%`, top: `${one.y * 100}%` }}>
              {i === 0 ? w.spots.is : w.spots.want}
            </span>
          ))}
        </Button>
      )}
    </div>
  );
}
