import { say } from '@viaticum/contract';
import { type Beside, type BitAs, hearingOf, isInTable, plannedBeside, stepsOfHeard, unknownColours } from '@viaticum/core/film';
import { bordersOf, type Heard, type HeardStep, hear, isForeign, stepSizes, stepsCut } from '@viaticum/core/hear';
import { listInWords } from '@viaticum/core/units';
import { AutoComplete, Button, Segmented, Slider } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useDeferredValue, useMemo, useState } from 'react';
import { useLesson, useSession } from '../../lesson/context.js';
import { FileKey } from '../../ui/file-key.js';
import { NumberField } from '../../ui/number-field.js';
import { clockOf, filmWords } from '../../words/film.js';
import css from './video.module.css';

const w = filmWords.hear;
const FAULTS_SHOWN = 6;
const DOUBTFUL = 0.5;

/** Captions of a demonstration as a draft of steps: more or fewer, joined and divided by hand, taken in one act. */
export function Hear() {
  const lesson = useLesson();
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const heard = useMemo((): Heard | null => (file ? hear(file.text, hearingOf(lesson)) : null), [file, lesson]);
  const choose = async (next: File) => {
    try {
      const text = await next.text();
      hear(text, { tubes: [], mixes: [] });
      setFault(null);
      setFile({ name: next.name, text });
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <div className={css.keys}>
        <FileKey
          size="middle"
          label={file ? file.name : w.file}
          accept=".vtt,.srt,text/vtt"
          onFile={(next) => void choose(next)}
        />
        {file && <Button onClick={() => setFile(null)}>{w.unset}</Button>}
      </div>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {heard && file && <Draft key={file.name + file.text.length} heard={heard} />}
    </section>
  );
}

function Draft({ heard }: { heard: Heard }) {
  const lesson = useLesson();
  const session = useSession();
  const [size, setSize] = useState(() => usualSize(heard, lesson.steps.length));
  const shownSize = useDeferredValue(size);
  // What a person joined or divided stays so, whatever the slider says.
  const [joined, setJoined] = useState<ReadonlySet<number>>(new Set());
  const [divided, setDivided] = useState<ReadonlySet<number>>(new Set());
  const [titles, setTitles] = useState<ReadonlyMap<number, string>>(new Map());
  const [bitAs, setBitAs] = useState<BitAs>('touch');
  const [speed, setSpeed] = useState(1);
  const [taken, setTaken] = useState<number | null>(null);
  const borders = useMemo(() => bordersOf(heard.sentences, shownSize), [heard, shownSize]);
  const all = useMemo(() => new Map(bordersOf(heard.sentences, stepSizes.least).map((one) => [one.at, one])), [heard]);
  const cuts = useMemo(
    () => [...new Set([...borders.map(({ at }) => at).filter((at) => !joined.has(at)), ...divided])].sort((a, b) => a - b),
    [borders, joined, divided],
  );
  const steps = useMemo(() => stepsCut(heard, cuts), [heard, cuts]);
  const starts = [0, ...cuts];
  const bits = [
    ...new Set(
      steps.flatMap(({ amounts }) => Object.entries(amounts).flatMap(([name, amount]) => (amount === 'bit' ? [name] : []))),
    ),
  ];
  const unknown = unknownColours(lesson, steps);
  const missing = unknown.filter(isInTable);
  const strange = unknown.filter((name) => !isInTable(name));
  const beside = useMemo(() => plannedBeside(lesson, steps), [lesson, steps]);
  const seconds = (steps.at(-1)?.to ?? 0) - (steps[0]?.from ?? 0);
  const titlesIn = steps.map((step, k) => titles.get(starts[k] as number) ?? step.titles[0] ?? '');
  const take = () => {
    const given = stepsOfHeard(lesson, steps, { titles: titlesIn, bitAs, speed, stageName: w.stage }, () => nanoid(8));
    if (given.steps.length > 0 && session.do('takeHeard', given)) setTaken(given.steps.length);
  };
  const change = (set: ReadonlySet<number>, at: number, isIn: boolean): ReadonlySet<number> => {
    const next = new Set(set);
    if (isIn) next.add(at);
    else next.delete(at);
    return next;
  };
  return (
    <>
      {isForeign(heard) && <p className="signal">{w.foreign}</p>}
      {heard.faults.length > 0 && (
        <ul aria-label={w.faults(heard.faults.length)}>
          {heard.faults.slice(0, FAULTS_SHOWN).map(({ words }) => (
            <li key={words}>{words}</li>
          ))}
          {heard.faults.length > FAULTS_SHOWN && <li>{w.rest(heard.faults.length - FAULTS_SHOWN)}</li>}
        </ul>
      )}
      {heard.sentences.length > 0 && (
        <>
          <p className={css.lead}>{w.found(steps.filter(({ kind }) => kind !== 'talk').length, clockOf(seconds))}</p>
          <div className={css.scope}>
            <Slider
              ariaLabelForHandle={w.size}
              min={stepSizes.least}
              max={stepSizes.most}
              reverse
              value={size}
              tooltip={{ open: false }}
              marks={{ [stepSizes.most]: w.fewer, [stepSizes.least]: w.more }}
              onChange={(value: number) => setSize(value)}
            />
          </div>
          <div className={css.asked}>
            <span>
              {w.speed}
              <NumberField
                label={w.speed}
                value={speed}
                onValue={(n) => {
                  if (!(n >= 0.5 && n <= 60)) return false;
                  setSpeed(n);
                  return true;
                }}
              />
            </span>
            {bits.length > 0 && (
              <span>
                {w.bits(listInWords(bits))}
                <Segmented<BitAs>
                  value={bitAs}
                  options={[
                    { value: 'touch', label: w.asTouch },
                    { value: 'part', label: w.asPart },
                  ]}
                  onChange={setBitAs}
                />
              </span>
            )}
          </div>
          {missing.length > 0 && <p>{w.unknown(listInWords(missing))}</p>}
          {strange.length > 0 && <p>{w.strange(listInWords(strange))}</p>}
          <div className={css.keys}>
            <Button type="primary" onClick={take}>
              {w.take}
            </Button>
            {taken !== null && <span role="status">{w.taken(taken)}</span>}
          </div>
          <div className={css.speech} data-testid="heard">
            {steps.map((step, k) => (
              <Step
                key={starts[k]}
                step={step}
                number={k + 1}
                heard={heard}
                from={starts[k] as number}
                to={starts[k + 1] ?? heard.sentences.length}
                beside={beside[k] ?? null}
                border={k > 0 ? all.get(starts[k] as number) : undefined}
                title={titlesIn[k] ?? ''}
                speed={speed}
                onTitle={(title) => setTitles(new Map([...titles, [starts[k] as number, title]]))}
                onJoin={(at) => {
                  setJoined(change(joined, at, true));
                  setDivided(change(divided, at, false));
                }}
                onDivide={(at) => {
                  setDivided(change(divided, at, true));
                  setJoined(change(joined, at, false));
                }}
              />
            ))}
          </div>
        </>
      )}
    </>
  );
}

/** The size of a step to begin with: as many as the lesson has, if it has any, within what narrators do. */
function usualSize({ sentences }: Heard, steps: number): number {
  const seconds = (sentences.at(-1)?.to ?? 0) - (sentences[0]?.from ?? 0);
  return steps > 2 ? Math.round(Math.max(NARROW_S, Math.min(WIDE_S, seconds / steps))) : stepSizes.usual;
}
const NARROW_S = 45;
const WIDE_S = 110;

type StepProps = {
  step: HeardStep;
  number: number;
  heard: Heard;
  from: number;
  to: number;
  beside: Beside | null;
  border: { sure: number; signs: string[] } | undefined;
  title: string;
  speed: number;
  onTitle: (title: string) => void;
  onJoin: (at: number) => void;
  onDivide: (at: number) => void;
};

/** A step of the draft beside what was said in it; a border by hand has no signs. */
function Step({ step, number, heard, from, to, beside, border, title, speed, onTitle, onJoin, onDivide }: StepProps) {
  const isDoubtful = border !== undefined && border.sure < DOUBTFUL;
  const amounts = Object.entries(step.amounts).map(([name, amount]) => `${amount === 'bit' ? say('a bit') : amount} ${name}`);
  return (
    <article className={clsx(css.heard, isDoubtful && css.doubtful)} data-kind={step.kind}>
      <span className="numbers">
        <b>{clockOf(step.from)}</b>
        <br />
        <span className="small quiet">{clockOf((step.to - step.from) * speed)}</span>
      </span>
      <p>
        {heard.sentences.slice(from, to).map((one, i) => (
          <Button
            key={one.from}
            type="text"
            className={clsx('plain', css.sentence)}
            disabled={i === 0}
            title={i === 0 ? '' : w.divide}
            onClick={() => onDivide(from + i)}
          >
            {one.text}
          </Button>
        ))}
      </p>
      <div className={css.heardFields}>
        {step.kind === 'talk' ? (
          <span className="quiet">{title}</span>
        ) : (
          <AutoComplete
            aria-label={w.titleOf(number)}
            value={title}
            options={step.titles.map((value) => ({ value }))}
            onChange={onTitle}
            showSearch={{ filterOption: false }}
          />
        )}
        {step.colours.length > 0 && (
          <span className="small">
            {w.uses} {listInWords(step.colours)}
            {amounts.length > 0 && ` (${amounts.join(', ')})`}
          </span>
        )}
        {step.tools.length > 0 && (
          <span className="small">
            {w.tools} {listInWords(step.tools)}
          </span>
        )}
        {beside && <span className="small quiet">{w.planned(beside.title, Math.round(beside.minutes * 10) / 10)}</span>}
        {step.dryAfter && <span className="small">{w.dries}</span>}
        {step.watch.length > 0 && (
          <span className="small">
            {w.watch}: {step.watch[0]}
          </span>
        )}
        {step.corrections.length > 0 && (
          <span className="small">
            {w.corrected}: {step.corrections[0]}
          </span>
        )}
        {border && (
          <span className="small quiet">
            {w.why(border.signs.join(', ') || '–')}
            {isDoubtful && `, ${w.doubtful}`}
          </span>
        )}
        {from > 0 && (
          <Button size="small" onClick={() => onJoin(from)}>
            {w.merge}
          </Button>
        )}
      </div>
    </article>
  );
}
