import { useQuery } from '@tanstack/react-query';
import type { ClassRecord } from '@viaticum/contract';
import { currentItem, type Happened, type HappenedItem, happened, planAsHappened, stateAt } from '@viaticum/core/class';
import { hourMinute, listInWords, minutesInWords } from '@viaticum/core/units';
import { Button, Segmented, Slider } from 'antd';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { classQuery, classRecordQuery } from '../../api/class-queries.js';
import { dayAndTime } from '../../ui/clock.js';
import type { RibbonHeight } from '../../ui/ribbon/heights.js';
import { Ribbon } from '../../ui/ribbon/ribbon.js';
import { saveFile } from '../../ui/save-file.js';
import { recordWords as w } from '../../words/class.js';
import { deskWords } from '../../words/desk.js';
import { calm } from '../connection.js';
import deskCss from '../desk/desk.module.css';
import { SeatPlan } from '../desk/seat-plan.js';
import { StagesAt } from '../painted.js';
import { Names } from './names.js';
import css from './record.module.css';

const PLAY_MS = 120;

/** A class afterwards: planned against actual, hands and touches, and a look back along the section through the paint. */
export default function Record() {
  const { code = '' } = useParams();
  const record = useQuery({ ...classRecordQuery(code), staleTime: 0 });
  const answer = useQuery(classQuery(code));
  if (record.error) throw record.error;
  if (!record.data) return null;
  return (
    <main className={css.record}>
      <p>{answer.data && <Link to={`/lesson/${answer.data.lessonId}/class`}>{w.back}</Link>}</p>
      <h1>{record.data.title}</h1>
      <StagesAt base={`/api/join/${code}`}>
        <Told record={record.data} />
        <Names code={code} record={record.data} />
      </StagesAt>
    </main>
  );
}

function Told({ record }: { record: ClassRecord }) {
  const [part, setPart] = useState<string>();
  const told = useMemo(() => happened(record.events, part), [record, part]);
  if (told.items.length === 0 || told.actualMin === 0) return <p>{w.none}</p>;
  return (
    <>
      <p className="quiet">
        {told.beganAt !== null && dayAndTime(new Date(told.beganAt).toISOString())}, {w.codeOf(told.code)}
      </p>
      {told.parts.length > 0 && (
        <Segmented
          aria-label={w.parts}
          value={told.part ?? ''}
          onChange={setPart}
          options={told.parts.map(({ id, name }) => ({ value: id, label: name ?? w.together }))}
        />
      )}
      <p className={css.recordSum}>{w.took(minutesInWords(told.actualMin), minutesInWords(told.plannedMin))}</p>
      <p>
        {w.finished(told.finished.length, told.students)} {told.finished.length > 0 && w.names(listInWords(told.finished))}
      </p>
      <p>
        <Button onClick={() => void saveCsv([record.title, partName(told)].filter(Boolean).join(', '), told)}>{w.csv}</Button>
      </p>
      <Replay record={record} />
      <table>
        <thead>
          <tr>
            {w.columns.map((column) => (
              <th key={column} scope="col">
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {told.items.map((item, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a step may have been done twice
            <Row key={i} item={item} />
          ))}
        </tbody>
      </table>
      <h2>{w.hands}</h2>
      {told.hands.length === 0 && <p>{w.noHands}</p>}
      <ul>
        {told.hands.map((hand) => (
          <li key={`${hand.firstName}${hand.minute}`}>
            {w.hand(
              hand.firstName,
              hourMinute(hand.minute),
              deskWords.reasons[hand.reason],
              hand.tookMin === null ? null : minutesInWords(Math.max(1, hand.tookMin)),
            )}
          </li>
        ))}
      </ul>
      <Moments told={told} />
      <Notes record={record} />
    </>
  );
}

const partName = ({ parts, part }: Happened): string => parts.find(({ id }) => id === part)?.name ?? '';

/** What was said to all, how the air was, and when the class was held. */
function Moments({ told }: { told: Happened }) {
  const lines = [
    ...told.airs.map(({ minute, airC, humidity }) => ({
      minute,
      words: w.air(deskWords.airOf(airC, humidity)),
    })),
    ...told.messages.map(({ minute, text }) => ({ minute, words: w.told(text) })),
    ...told.holds.map(({ minute, minutes }) => ({ minute, words: w.held(minutesInWords(Math.max(1, minutes))) })),
  ].sort((a, b) => a.minute - b.minute);
  if (lines.length === 0) return null;
  return (
    <>
      <h2>{w.moments}</h2>
      <ul>
        {lines.map(({ minute, words }) => (
          <li key={`${minute} ${words}`}>
            <span className="numbers">{hourMinute(minute)}</span> {words}
          </li>
        ))}
      </ul>
    </>
  );
}

/** What one noted of students for oneself; no export takes it. */
function Notes({ record }: { record: ClassRecord }) {
  const whole = useMemo(() => stateAt(record.events, Number.POSITIVE_INFINITY), [record]);
  const notes = Object.entries(record.students).filter(([, { note }]) => note.trim() !== '');
  if (notes.length === 0) return null;
  return (
    <section aria-label={w.notes}>
      <h2>{w.notes}</h2>
      <p className="quiet small">{w.notesAbout}</p>
      <ul>
        {notes.map(([id, { note }]) => (
          <li key={id}>
            {whole.students[id]?.firstName ?? w.goneStudent}: {note}
          </li>
        ))}
      </ul>
    </section>
  );
}

const saveCsv = async (title: string, told: Happened) => {
  const { recordCsv } = await import('@viaticum/core/format');
  saveFile(`${title}.csv`, new Blob([recordCsv(told)], { type: 'text/csv' }));
};

function Row({ item }: { item: HappenedItem }) {
  const { planned, actual, medianDone } = item;
  const shift = planned !== null && actual !== null ? Math.round(actual - planned) : null;
  const minutes = (value: number | null) => (value === null ? '' : minutesInWords(value));
  return (
    <tr className={item.kind === 'step' ? undefined : 'quiet'}>
      <th scope="row">
        {item.title}
        {item.paintedOnMin !== undefined && (
          <span className="small quiet">
            <br />
            {w.paintedOn(minutesInWords(item.paintedOnMin))}
          </span>
        )}
        {item.touches.map((touch) => (
          <span key={touch.minute} className="small quiet">
            <br />
            {w.touch(minutesInWords(touch.minute), touch.dry)}
          </span>
        ))}
      </th>
      <td>{minutes(planned)}</td>
      <td>{actual === null ? w.never : minutes(actual)}</td>
      <td>{shift === null || shift === 0 ? '' : `${shift > 0 ? '+' : '−'}${Math.abs(shift)}`}</td>
      <td>{minutes(medianDone)}</td>
      <td>{item.kind === 'step' && actual !== null ? w.doneOf(item.done, item.assumed, item.present) : ''}</td>
    </tr>
  );
}

/** The light moves along the paint as it was really laid, and the room stands as it stood then. */
function Replay({ record }: { record: ClassRecord }) {
  const { events, lesson, sheet } = record;
  const whole = useMemo(() => stateAt(events, Number.POSITIVE_INFINITY), [events]);
  const plan = useMemo(() => planAsHappened(lesson, whole), [lesson, whole]);
  const [minute, setMinute] = useState(0);
  const [zoom, setZoom] = useState(0);
  const [isPlaying, setPlaying] = useState(false);
  const end = plan?.plan.endMin ?? 0;
  useEffect(() => {
    if (!isPlaying) return;
    const timer = setInterval(() => setMinute((at) => Math.min(end, at + 0.5)), PLAY_MS);
    return () => clearInterval(timer);
  }, [isPlaying, end]);
  const [height, setHeight] = useState<RibbonHeight>('half');
  const started = whole.visits[0]?.startedAt ?? 0;
  const now = started + minute * 60_000;
  const then = useMemo(() => stateAt(events, now), [events, now]);
  if (!plan) return null;
  const here = Object.keys(then.students);
  return (
    <section aria-label={w.replay}>
      <h2>{w.replay}</h2>
      <div className={css.recordKeys}>
        <Button onClick={() => setPlaying(!isPlaying)}>{isPlaying ? w.stop : w.play}</Button>
        <Slider
          ariaLabelForHandle={w.minute}
          tooltip={{ open: false }}
          min={0}
          max={Math.ceil(end)}
          step={0.5}
          value={minute}
          onChange={(given: number) => setMinute(given)}
        />
        <b className="numbers">{w.at(hourMinute(minute))}</b> <span data-testid="record-now">{currentItem(then)?.title}</span>
      </div>
      <Ribbon
        lesson={{
          ...lesson,
          steps: plan.solution.items.flatMap((item) => lesson.steps.find((step) => step.id === item.step) ?? []),
        }}
        plan={plan}
        minute={minute}
        onMinute={setMinute}
        selectedStep={null}
        onStep={() => undefined}
        zoom={zoom}
        onZoom={setZoom}
        withChain={false}
        onChain={() => undefined}
        onDrag={() => undefined}
        onPin={() => undefined}
        height={height}
        onHeight={setHeight}
      />
      <div className={deskCss.recordRoom}>
        <SeatPlan
          live={{ ...calm, version: 0, state: then, online: true, ready: true, you: null, connected: here }}
          sheet={sheet}
          connection={{ now: () => now }}
        />
      </div>
    </section>
  );
}
