import { finishes, type Lab, type Lesson, type OwnTube as Own, type Tube } from '@viaticum/contract';
import { calibrateTube, metalName, pigmentName, shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { discColour } from '@viaticum/core/picture';
import { lowered, tubeSize, volumeMeant } from '@viaticum/core/units';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { Button, Checkbox, Input, Segmented, Select, Table } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { FileKey, PICTURES } from '../../../ui/file-key.js';
import { words } from '../../../words/words.js';
import { Drawdowns } from '../drawdowns.js';
import paintsCss from '../paints.module.css';
import { Typed } from '../target.js';
import { AddTube } from '../tube-list.js';
import css from './tubes.module.css';

const w = words.paints;

/** The list of tubes as a table: what is commonly said of each, what it costs, who has it; and tubes of one's own. */
export function TubesTopic() {
  const lesson = useLesson();
  return (
    <div className={paintsCss.paintsPage}>
      <AddTube />
      <FinishChoice lesson={lesson} />
      <TubeTable lesson={lesson} />
      <p className="small quiet">
        {w.strengthNote} {w.cautions}
      </p>
      <OwnTube lesson={lesson} />
    </div>
  );
}

/** The surface of the lesson's paint, with which all its colours are reckoned. */
function FinishChoice({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  return (
    <div className={css.finish}>
      <span id="finish-of-paint">{w.finish}</span>
      <Segmented
        aria-labelledby="finish-of-paint"
        value={lesson.finish}
        options={finishes.map((finish) => ({ value: finish, label: w.finishes[finish] }))}
        onChange={(finish) => session.do('setFinish', { finish })}
      />
      <span className="quiet small">{w.finishAbout}</span>
    </div>
  );
}

function TubeTable({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const rows = lesson.tubes.map((tube) => ({ key: tube.id, tube, name: shortTubeName(tube), pigment: pigmentOf(tube.pigment) }));
  type Row = (typeof rows)[number];
  const set = (tube: Tube, change: Partial<Tube>) => session.do('setTube', { id: tube.id, tube: change });
  return (
    <Table<Row>
      size="small"
      pagination={false}
      dataSource={rows}
      className={css.tubeTable}
      data-testid="tube-table"
      columns={[
        {
          title: w.table.tube,
          dataIndex: 'name',
          sorter: (a, b) => a.name.localeCompare(b.name),
          render: (_, { tube, name, pigment }) => (
            <span className={css.tubeCell}>
              <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
              <span>
                {name}
                <span className="quiet small">
                  {tube.own ? '' : pigment.isMixture ? ' mixture' : ` ${pigment.id.replace(/-.*/, '')}`}
                  {pigment.metals.length > 0 && ` · ${pigment.metals.map(metalName).join(', ')}`}
                </span>
              </span>
            </span>
          ),
        },
        { title: w.table.opacity, render: (_, { pigment }) => w.opacity[pigment.opacity] },
        { title: w.table.stains, render: (_, { pigment }) => w.stains[pigment.stains] },
        {
          title: w.table.strength,
          align: 'right',
          sorter: (a, b) => a.pigment.strength - b.pigment.strength,
          render: (_, { pigment }) => <span className="numbers">{w.strengthOf(pigment.strength)}</span>,
        },
        { title: w.table.light, render: (_, { pigment }) => pigment.lightfastness },
        {
          title: w.table.grade,
          render: (_, { tube, name }) => (
            <Select
              aria-label={w.gradeOf(name)}
              value={tube.grade}
              onChange={(given) => set(tube, { grade: given as Tube['grade'] })}
              options={(['artist', 'student'] as const).map((grade) => ({ value: grade, label: w.grades[grade] }))}
            />
          ),
        },
        {
          title: w.table.size(),
          render: (_, { tube, name }) => <Figure tube={tube} field="sizeMl" label={w.sizeOf(name)} />,
        },
        {
          title: w.table.price,
          render: (_, { tube, name }) => (
            <>
              <Figure tube={tube} field="priceMinor" label={w.priceOf(name)} />
              {tube.priceMinor !== undefined && tube.sizeMl !== undefined && (
                <span className="quiet small">
                  {' '}
                  {w.perUnit(((tube.priceMinor / 100 / tube.sizeMl) * volumeMeant(1)).toFixed(2))}
                </span>
              )}
            </>
          ),
        },
        {
          title: w.table.owned,
          align: 'center',
          render: (_, { tube, name }) => (
            <Checkbox
              aria-label={w.ownedOf(name)}
              checked={tube.owned !== false}
              onChange={(event) =>
                event.target.checked
                  ? session.do('setTube', { id: tube.id, tube: {}, clear: ['owned'] })
                  : set(tube, { owned: false })
              }
            />
          ),
        },
        {
          title: w.table.students,
          align: 'center',
          render: (_, { tube, name }) => (
            <Checkbox
              aria-label={w.studentsOf(name)}
              checked={tube.students !== false}
              onChange={(event) =>
                event.target.checked
                  ? session.do('setTube', { id: tube.id, tube: {}, clear: ['students'] })
                  : set(tube, { students: false })
              }
            />
          ),
        },
      ]}
    />
  );
}

/** How a number of a tube is typed: its size as the reader measures, its price in whole coins. */
const typings = {
  sizeMl: { shown: (ml: number) => `${tubeSize(ml)}`, meant: volumeMeant },
  priceMinor: { shown: (minor: number) => (minor / 100).toFixed(2), meant: (coins: number) => Math.round(coins * 100) },
};

function Figure({ tube, field, label }: { tube: Tube; field: keyof typeof typings; label: string }) {
  const session = useSession();
  const value = tube[field];
  const { shown, meant } = typings[field];
  const text = value === undefined ? '' : shown(value);
  return (
    <Input
      key={value}
      className={css.figure}
      inputMode="decimal"
      aria-label={label}
      defaultValue={text}
      onBlur={(event) => {
        const typed = event.target.value.trim().replace(',', '.');
        if (typed === text) return;
        const tubeChange = typed === '' ? {} : { [field]: meant(Number(typed)) };
        session.do('setTube', { id: tube.id, tube: tubeChange, ...(typed === '' && { clear: [field] }) });
      }}
    />
  );
}

/** A tube known by its samples: mass tone and tint, from a photo or typed; fitted while it is described. */
function OwnTube({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const [name, setName] = useState('');
  const [masstone, setMasstone] = useState<Lab | null>(null);
  const [tint, setTint] = useState<Lab | null>(null);
  const [drawdowns, setDrawdowns] = useState<NonNullable<Own['drawdowns']> | null>(null);
  const [whiteParts, setWhiteParts] = useState('10');
  const { finish } = lesson;
  const parts = Number(whiteParts);
  const { fit, fault } = useMemo(() => {
    if (!masstone) return { fit: null, fault: null };
    try {
      const sample = {
        masstoneLab: masstone,
        ...(tint && { tint: { lab: tint, whiteParts: parts } }),
        ...(drawdowns && { drawdowns }),
      };
      return { fit: calibrateTube({ ...sample, finish }), fault: null };
    } catch (error) {
      return { fit: null, fault: (error as Error).message };
    }
  }, [masstone, tint, drawdowns, parts, finish]);
  const add = () => {
    if (!fit || !masstone) return;
    const own = {
      name: name.trim(),
      masstoneLab: masstone,
      ...(tint && { tint: { lab: tint, whiteParts: parts } }),
      ...(drawdowns && { drawdowns }),
      finish,
    };
    if (!session.do('addTube', { tube: { id: nanoid(8), pigment: fit.nearest, grade: 'artist', own } })) return;
    setName('');
    setMasstone(null);
    setTint(null);
    setDrawdowns(null);
  };
  return (
    <section className={css.ownTube}>
      <h2>{w.ownTube}</h2>
      <p className="small quiet">{w.ownAbout}</p>
      <p className={css.ownRow}>
        <label className="small">
          {w.ownName}
          <Input value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
        </label>
        <label className="small">
          {w.whiteParts}
          <Input
            className={css.figure}
            inputMode="decimal"
            value={whiteParts}
            onChange={(event) => setWhiteParts(event.target.value)}
          />
        </label>
      </p>
      <div className={css.ownSamples} data-testid="own-samples">
        <OwnSample
          what={w.masstone}
          lab={masstone}
          onLab={(lab) => {
            setMasstone(lab);
            setDrawdowns(null);
          }}
        />
        <OwnSample what={w.tint} lab={tint} onLab={setTint} />
      </div>
      <Drawdowns
        onRead={(read) => {
          setMasstone(read.masstoneLab);
          setTint(read.tintLab);
          setDrawdowns(read.drawdowns ?? null);
        }}
      />
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {fit && (
        <p className="small">
          {w.fitted(pigmentName(fit.nearest), Math.max(fit.left.masstone, fit.left.tint ?? 0))} {fit.warning}
        </p>
      )}
      <Button disabled={!fit || name.trim() === ''} onClick={add}>
        {w.addOwn}
      </Button>
    </section>
  );
}

type Photo = { url: string; width: number; height: number; data: Uint8ClampedArray };

function OwnSample({ what, lab, onLab }: { what: string; lab: Lab | null; onLab: (lab: Lab) => void }) {
  const [photo, setPhoto] = useState<Photo | null>(null);
  const [fault, setFault] = useState(false);
  const box = useRef<HTMLImageElement>(null);
  useEffect(() => () => void (photo && URL.revokeObjectURL(photo.url)), [photo]);
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const bitmap = await createImageBitmap(file);
      const scale = Math.min(1, 600 / Math.max(bitmap.width, bitmap.height));
      const canvas = new OffscreenCanvas(
        Math.max(1, Math.round(bitmap.width * scale)),
        Math.max(1, Math.round(bitmap.height * scale)),
      );
      const context = canvas.getContext('2d', { willReadFrequently: true }) as OffscreenCanvasRenderingContext2D;
      context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
      const { width, height, data } = context.getImageData(0, 0, canvas.width, canvas.height);
      setFault(false);
      setPhoto({ url: URL.createObjectURL(file), width, height, data });
    } catch {
      setFault(true);
    }
  };
  return (
    <div>
      <p>
        <i style={{ background: lab ? cssRgb(labToSrgb(lab)) : 'transparent' }} /> {what}
      </p>
      <Typed lab={lab} onLab={onLab} />
      <FileKey label={w.fromPhoto} name={`${what}: ${w.fromPhoto}`} accept={PICTURES} onFile={take} />
      {fault && (
        <p className="signal small" role="alert">
          {w.badPhoto}
        </p>
      )}
      {photo && (
        <Button
          type="text"
          className={clsx('plain', css.ownPhoto)}
          aria-label={w.photoPick(lowered(what))}
          onClick={(event) => {
            const frame = box.current?.getBoundingClientRect();
            if (!frame) return;
            // By keyboard the middle of the photo is taken.
            const [px, py] =
              event.detail === 0
                ? [0.5, 0.5]
                : [(event.clientX - frame.x) / frame.width, (event.clientY - frame.y) / frame.height];
            onLab(
              discColour(photo.data, photo.width, photo.height, [px * photo.width, py * photo.height], 6).map(
                (v) => Math.round(v * 10) / 10,
              ) as Lab,
            );
          }}
        >
          <img ref={box} src={photo.url} alt="" />
        </Button>
      )}
    </div>
  );
}
