import type { Lesson } from '@viaticum/contract';
import { type PaperName, type Point, papers, tileSheets } from '@viaticum/core/transfer';
import { sizeInWords } from '@viaticum/core/units';
import { Button, Checkbox } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { useWorkedOut } from '../../../lesson/context.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import type { PrintLayer, Template } from '../../../pdf/templates.js';
import { Choice } from '../../../ui/choice.js';
import { NumberField } from '../../../ui/number-field.js';
import { saveFile } from '../../../ui/save-file.js';
import { transferWords } from '../../../words/transfers.js';
import { type Drawing, useDrawing } from '../drawing-context.js';
import transfersCss from '../transfers.module.css';
import css from './prints.module.css';

const w = transferWords.prints;
type Settings = Pick<Template, 'paper' | 'overlapMm' | 'marginMm' | 'lineMm' | 'isMirrored'> & {
  moment: string;
  withHelp: boolean;
  sizes: string[];
};
type Size = { id: string; widthMm: number; heightMm: number };

/** The lesson's own canvas and those of its variants. */
function sizesOf(lesson: Lesson): Size[] {
  const { widthMm, heightMm } = lesson.support;
  const all = [
    { id: 'own', widthMm, heightMm },
    ...lesson.variants.flatMap(({ id, support }) => (support ? [{ id, ...support }] : [])),
  ];
  return all.filter((one, i) => all.findIndex((other) => other.widthMm === one.widthMm && other.heightMm === one.heightMm) === i);
}

/** What a file of prints is called: what is on it, for which canvas, how, so that two of them are told apart in a folder. */
function nameOf(
  lesson: Lesson,
  { moment, isMirrored, withHelp, sizes, paper }: Settings,
  moments: ReadonlyMap<string, string>,
  reduced: boolean,
) {
  const all = sizesOf(lesson);
  const said = [
    lesson.title,
    w.file,
    moment === 'all' ? '' : (moments.get(moment) ?? ''),
    ...all
      .filter((one) => all.length > 1 && sizes.includes(one.id))
      .map((one) => sizeInWords(one.widthMm, one.heightMm, lesson.units)),
    reduced ? w.fileSmall : paper,
    isMirrored ? w.fileMirrored : '',
    withHelp ? w.fileHelp : '',
  ];
  return `${said.filter(Boolean).join(', ')}.pdf`;
}

/** Whose picture it is, and by what permission. */
function sourceOf(lesson: Lesson): string {
  const whole = wholeOf(lesson);
  if (!whole) return '';
  const { kind, by = '', year } = whole.permission;
  const study = kind === 'permission' || kind === 'public-domain' ? ` ${w.study}` : '';
  return `${w.source(by, year ? String(year) : '', w.permission[kind])}${study}`;
}

function templateOf(
  lesson: Lesson,
  { placed, constructed }: Drawing,
  settings: Settings,
  size: Size,
  reduced: boolean,
): Template {
  const { widthMm, heightMm } = lesson.support;
  const [sx, sy] = [size.widthMm / widthMm, size.heightMm / heightMm];
  const scaled = (points: readonly Point[]): Point[] => points.map(([x, y]) => [x * sx, y * sy]);
  const lines = placed.filter(({ moment }) => settings.moment === 'all' || (moment.stepId ?? 'first') === settings.moment);
  // The small sheet is the one that is copied by its grid.
  const help = settings.withHelp
    ? constructed
    : reduced
      ? constructed.filter(({ construction }) => construction.kind === 'grid')
      : [];
  const layers: PrintLayer[] = [
    { name: 'help', look: 'help', curves: help.flatMap(({ result }) => result.lines.map(scaled)) },
    { name: 'second', look: 'second', curves: help.flatMap(({ result }) => result.second.map(scaled)) },
    { name: 'lines', look: 'line', curves: lines.map(({ line }) => scaled(line.curve)) },
  ];
  return {
    title: lesson.title,
    canvas: size,
    units: lesson.units,
    layers,
    labels: help.flatMap(({ result }) => result.labels.map(({ at, text }) => ({ at: scaled([at])[0] as Point, text }))),
    paper: settings.paper,
    overlapMm: settings.overlapMm,
    marginMm: settings.marginMm,
    lineMm: settings.lineMm,
    isMirrored: settings.isMirrored,
    source: sourceOf(lesson),
    reduced,
  };
}

/** True-size prints: paper, sheets, what is on them. */
export function PrintsTopic() {
  const lesson = useWorkedOut();
  const drawing = useDrawing();
  const sizes = sizesOf(lesson);
  const [settings, setSettings] = useState<Settings>({
    paper: lesson.units === 'in' ? 'Letter' : 'A4',
    overlapMm: 10,
    marginMm: 8,
    lineMm: 0.35,
    isMirrored: false,
    moment: 'all',
    withHelp: false,
    sizes: ['own'],
  });
  const [state, setState] = useState<{ making: boolean; said: string; isFault: boolean }>({
    making: false,
    said: '',
    isFault: false,
  });
  const set = (change: Partial<Settings>) => {
    setSettings({ ...settings, ...change });
    return true;
  };
  const chosen = sizes.filter((size) => settings.sizes.includes(size.id));
  const moments = new Map(drawing.placed.map(({ moment }) => [moment.stepId ?? 'first', moment.title]));
  const make = async (reduced: boolean) => {
    setState({ making: true, said: '', isFault: false });
    try {
      const { templatesPdf } = await import('../../../pdf/templates.js');
      const templates = chosen.map((size) => templateOf(lesson, drawing, settings, size, reduced));
      const bytes = await templatesPdf(templates);
      const pages = templates.reduce((sum, one) => sum + (reduced ? 1 : 1 + countOf(one.canvas, settings)), 0);
      saveFile(nameOf(lesson, settings, moments, reduced), new Blob([bytes as BlobPart], { type: 'application/pdf' }));
      setState({ making: false, said: w.made(Math.round(bytes.length / 1000), pages), isFault: false });
    } catch (error) {
      setState({ making: false, said: (error as Error).message, isFault: true });
    }
  };
  const isBusy = state.making || chosen.length === 0 || drawing.placed.length === 0;
  return (
    <>
      <p className="quiet small">{w.about}</p>
      <Choice
        label={w.what}
        value={settings.moment}
        options={[['all', transferWords.moments.all], ...moments]}
        onChange={(moment) => set({ moment })}
      />
      <Choice
        label={w.paper}
        value={settings.paper}
        options={Object.keys(papers).map((name) => [name, name] as const)}
        onChange={(paper) => set({ paper: paper as PaperName })}
      />
      <p className={transfersCss.numbersRow}>
        {(
          [
            ['overlapMm', w.overlap, 0, 60],
            ['marginMm', w.margin, 0, 60],
            ['lineMm', w.line, 0.05, 3],
          ] as const
        ).map(([key, label, least, most]) => (
          <span key={key} className="small number-said">
            {label}{' '}
            <NumberField
              label={label}
              value={settings[key]}
              onValue={(value) => value >= least && value <= most && set({ [key]: value })}
            />
          </span>
        ))}
      </p>
      <p className={transfersCss.numbersRow}>
        <Checkbox
          className={clsx(transfersCss.check, 'small')}
          checked={settings.isMirrored}
          onChange={(event) => set({ isMirrored: event.target.checked })}
        >
          {w.mirrored}
        </Checkbox>
        <Checkbox
          className={clsx(transfersCss.check, 'small')}
          checked={settings.withHelp}
          onChange={(event) => set({ withHelp: event.target.checked })}
        >
          {w.withHelp}
        </Checkbox>
      </p>
      <fieldset className={clsx(transfersCss.areaTicks, 'small')}>
        <legend>{w.sizes}</legend>
        {sizes.map((size) => (
          <Checkbox
            key={size.id}
            className={transfersCss.check}
            checked={settings.sizes.includes(size.id)}
            onChange={(event) =>
              set({
                sizes: event.target.checked ? [...settings.sizes, size.id] : settings.sizes.filter((id) => id !== size.id),
              })
            }
          >
            <SizeSaid lesson={lesson} size={size} settings={settings} />
          </Checkbox>
        ))}
      </fieldset>
      <p className={transfersCss.keys}>
        <Button type="primary" disabled={isBusy} onClick={() => void make(false)}>
          {w.make}
        </Button>
        <Button disabled={isBusy} onClick={() => void make(true)}>
          {w.reduced}
        </Button>
      </p>
      {(state.making || state.said) && (
        <p className={clsx('small', state.isFault && 'signal')} role={state.isFault ? 'alert' : 'status'}>
          {state.making ? w.making : state.said}
        </p>
      )}
      <SheetMap size={chosen[0] ?? (sizes[0] as Size)} settings={settings} />
      <p className="small quiet">{sourceOf(lesson)}</p>
    </>
  );
}

const sheetsOf = (size: { widthMm: number; heightMm: number }, { paper, marginMm, overlapMm }: Settings) => {
  try {
    return tileSheets(size, { ...papers[paper], marginMm }, overlapMm);
  } catch {
    return null;
  }
};
const countOf = (size: { widthMm: number; heightMm: number }, settings: Settings) => sheetsOf(size, settings)?.sheets.length ?? 0;

function SizeSaid({ lesson, size, settings }: { lesson: Lesson; size: Size; settings: Settings }) {
  const { widthMm, heightMm } = lesson.support;
  const off = Math.round(Math.abs(size.widthMm / size.heightMm / (widthMm / heightMm) - 1) * 100);
  return (
    <span>
      {w.size(sizeInWords(size.widthMm, size.heightMm, lesson.units), countOf(size, settings))}
      {off > 0 && `; ${w.stretched(off)}`}
    </span>
  );
}

/** How the sheets lie on the canvas. */
function SheetMap({ size, settings }: { size: Size; settings: Settings }) {
  const found = sheetsOf(size, settings);
  if (!found) return null;
  const unit = Math.max(size.widthMm, size.heightMm) / 150;
  return (
    <svg
      className={css.sheetMap}
      viewBox={`${-unit} ${-unit} ${size.widthMm + 2 * unit} ${size.heightMm + 2 * unit}`}
      aria-hidden="true"
    >
      <rect width={size.widthMm} height={size.heightMm} fill="var(--grey-99)" stroke="var(--grey-12)" strokeWidth={unit} />
      {found.sheets.map((one, i) => (
        <g key={`${one.xMm},${one.yMm}`}>
          <rect
            x={one.xMm}
            y={one.yMm}
            width={one.widthMm}
            height={one.heightMm}
            fill="none"
            stroke="var(--grey-53)"
            strokeWidth={unit * 0.7}
          />
          <text x={one.xMm + one.widthMm / 2} y={one.yMm + one.heightMm / 2 + unit * 4} fontSize={unit * 11} textAnchor="middle">
            {String.fromCharCode(65 + (i % found.columns))}
            {Math.floor(i / found.columns) + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}
