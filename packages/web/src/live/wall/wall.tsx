import { useQuery } from '@tanstack/react-query';
import type { FollowSheet, JoinAnswer, SheetStep } from '@viaticum/contract';
import { localeNow } from '@viaticum/contract';
import {
  belief,
  coatsNow,
  countedStep,
  currentItem,
  isPainted,
  partsOf,
  planMinute,
  secondsLeft,
  viewOf,
  waitedFor,
} from '@viaticum/core/class';
import { clock, legibleMm, listInWords, pixelsFor } from '@viaticum/core/units';
import { InputNumber, QRCode } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { call } from '../../api/http.js';
import { Fold } from '../../ui/fold.js';
import { useSpoken } from '../../ui/language.js';
import { layersAt } from '../../ui/stage-layers.js';
import { unbroken } from '../../ui/swatch.js';
import { Themed } from '../../ui/themed.js';
import { techniqueWords } from '../../words/terms.js';
import { wallWords as w } from '../../words/wall.js';
import { coatName } from '../coat-name.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { DryingFilm } from '../follow/drying-film.js';
import { doneAt, Painted, StagesAt } from '../painted.js';
import { easelsInRow } from '../seat-grid.js';
import { useLive, useNowEvery, useOfTime } from '../use-live.js';
import { useOpenClass } from '../use-open-class.js';
import css from './wall.module.css';

const TURN_MS = 9000;
const SAID_MS = 3 * 60_000;
const MOST_MIXES = 3;
const QR_PX = 150;
const KEY = 'viaticum-wall';
type Screen = { inches: number; metres: number };

/** The projector or television of a class: what all do now, readable from the last easel. It joins nobody and names nobody. */
export default function Wall() {
  return (
    <Themed where="live">
      <OpenWall />
    </Themed>
  );
}

function OpenWall() {
  const { code = '' } = useParams();
  const { sheet, connection } = useOpenClass(code, 'wall');
  const isSpoken = useSpoken(sheet.data?.language);
  if (sheet.error) throw sheet.error;
  if (!connection || !sheet.data || !isSpoken) return <p className={clsx(css.wall, css.wallOpening)}>{w.waiting}</p>;
  return (
    <StagesAt base={`/api/join/${code}`}>
      <Showing connection={connection} sheet={sheet.data} code={code} />
    </StagesAt>
  );
}

/** The screen of a class that is known and connected. */
export function Showing({ connection, sheet, code }: { connection: LiveConnection; sheet: FollowSheet; code: string }) {
  const heard = useLive(connection);
  const [asked] = useSearchParams();
  // Of a class in groups the wall of one of them: /wall/CODE?group=first
  const live = { ...heard, state: viewOf(heard.state, asked.get('group') ?? partsOf(heard.state)[0]?.id ?? undefined) };
  const [screen, setScreen] = useScreen();
  if (!live.ready) return <p className={clsx(css.wall, css.wallOpening)}>{w.waiting}</p>;
  const letter = Math.max(
    24,
    Math.round(pixelsFor(legibleMm(screen.metres), screen.inches, window.screen.width, window.screen.height)),
  );
  return (
    <main className={css.wall} style={{ '--letter': `${letter}px` } as React.CSSProperties}>
      <Canvas connection={connection} live={live} sheet={sheet} />
      <section className={css.wallNow} data-testid="wall-now">
        <Now connection={connection} live={live} sheet={sheet} />
      </section>
      <footer className={css.wallFoot}>
        <Foot connection={connection} live={live} code={code} />
        <Easels connection={connection} live={live} sheet={sheet} />
      </footer>
      {!live.online && (
        <p className={css.wallLost} role="status">
          {w.lost}
        </p>
      )}
      <ThisScreen screen={screen} onScreen={setScreen} />
    </main>
  );
}

/** How large the screen is and from how far it is read; kept on this machine. */
function useScreen(): [Screen, (screen: Screen) => void] {
  const [screen, setScreen] = useState<Screen>(() => {
    try {
      const { inches, metres } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Screen>;
      return { inches: Number(inches) || 55, metres: Number(metres) || 8 };
    } catch {
      return { inches: 55, metres: 8 };
    }
  });
  return [
    screen,
    (next) => {
      localStorage.setItem(KEY, JSON.stringify(next));
      setScreen(next);
    },
  ];
}

type Parts = { connection: LiveConnection; live: LiveSnapshot; sheet: FollowSheet };

function Canvas({ connection, live, sheet }: Parts) {
  const { plan } = live.state;
  const item = currentItem(live.state);
  // While a step is done the canvas shows its end: that is what all paint towards.
  const at = useOfTime(connection, (now) =>
    item?.kind === 'step' ? item.endMin : Math.round(planMinute(live.state, now) * 6) / 6,
  );
  return (
    <figure className={css.wallCanvas}>
      <Painted
        sheet={sheet}
        // Before the start: what it is to become.
        done={plan ? doneAt(plan, live.state.current?.index ?? plan.items.length - 1, true) : new Set(Object.keys(sheet.steps))}
        layers={plan ? layersAt(sheet, plan, item ? at : plan.endMin) : []}
        label={item?.title ?? sheet.title}
        shownPx={560}
      />
    </figure>
  );
}

function Now({ connection, live, sheet }: Parts) {
  const { state } = live;
  const item = currentItem(state);
  if (state.phase === 'ended') return <h1>{w.ended}</h1>;
  const { plan } = state;
  if (state.phase === 'planned') return <Planned sheet={sheet} />;
  if (!item || !plan)
    return (
      <>
        <p>{w.before}</p>
        <h1>{sheet.title}</h1>
      </>
    );
  const step = item.stepId ? sheet.steps[item.stepId] : undefined;
  return (
    <>
      <p>
        {item.kind === 'pause' ? w.pause : item.kind === 'break' ? w.break : step ? w.step(step.number, sheet.stepCount) : ''}
      </p>
      <h1>{item.title}</h1>
      {step && <ToDo connection={connection} step={step} />}
      <StepClock connection={connection} live={live} />
      {item.kind === 'pause' && <Drying connection={connection} live={live} sheet={sheet} />}
    </>
  );
}

/** A class that is to come: when it begins, where, and what to bring. */
function Planned({ sheet }: Pick<Parts, 'sheet'>) {
  const { code = '' } = useParams();
  const { data } = useQuery({ queryKey: ['join', code], queryFn: () => call<JoinAnswer>('GET', `/api/join/${code}`) });
  const begins =
    data?.startsAt &&
    new Intl.DateTimeFormat(localeNow(), {
      weekday: 'long',
      day: 'numeric',
      month: 'long',
      hour: '2-digit',
      minute: '2-digit',
      timeZone: data.timeZone ?? 'UTC',
    }).format(new Date(data.startsAt));
  return (
    <>
      <p>{begins ? w.begins(begins) : w.before}</p>
      <h1>{sheet.title}</h1>
      {data?.place && <p>{data.place}</p>}
      {sheet.tubes.length > 0 && <p className={css.wallBring}>{w.bring(listInWords(sheet.tubes.map(({ name }) => name)))}</p>}
    </>
  );
}

function StepClock({ connection, live: { state } }: Omit<Parts, 'sheet'>) {
  const says = useOfTime(connection, (now) => {
    const left = secondsLeft(state, now);
    return state.phase === 'held' ? w.held : left < 0 ? w.over : clock(left);
  });
  return (
    <p className={clsx(css.wallClock, !/\d/.test(says) && css.words)} data-testid="wall-clock">
      {says}
    </p>
  );
}

/** The film that a pause waits for, and what to do meanwhile. */
function Drying({ connection, live: { state }, sheet }: Parts) {
  const { coats, minute } = coatsNow(state, useNowEvery(connection, 2));
  const item = currentItem(state);
  const slowest = item && state.plan ? waitedFor(state.plan.coats, item) : null;
  const coat = slowest && coats.find((one) => one.stepId === slowest.stepId && one.areaId === slowest.areaId);
  if (!coat) return null;
  return (
    <>
      <DryingFilm coat={coat} name={coatName(sheet, state.plan, coat)} sheet={sheet} minute={minute} />
      {item?.meanwhile && (
        <p className={css.wallMeanwhile}>
          {w.meanwhile}: {item.meanwhile}
        </p>
      )}
    </>
  );
}

/** What to do with which brush, and the recipes with their colours: they take turns, so that each is read from the last easel. */
function ToDo({ connection, step }: { connection: LiveConnection; step: SheetStep }) {
  const isTheirTurn = useOfTime(connection, (now) => Math.floor(now / TURN_MS) % 2 === 1);
  const brush = [step.brush, step.technique && techniqueWords[step.technique as keyof typeof techniqueWords]]
    .filter(Boolean)
    .join(', ');
  if (step.mixes.length > 0 && isTheirTurn)
    return (
      <ul className={css.wallMixes} data-testid="wall-mixes">
        {step.mixes.slice(0, MOST_MIXES).map((mix) => (
          <li key={mix.id}>
            <i style={{ background: mix.rgb }} />
            <span>
              <b>{mix.name}</b> {unbroken(mix.words)}
            </span>
          </li>
        ))}
      </ul>
    );
  return (
    <div className={css.wallDo}>
      {brush && <p className={css.wallBrush}>{brush}</p>}
      {step.lines[0] && <p>{step.lines[0]}</p>}
    </div>
  );
}

/** What the instructor said to all, for some minutes; else where to join. */
function Foot({ connection, live, code }: Omit<Parts, 'sheet'> & { code: string }) {
  const { data } = useQuery({
    queryKey: ['join', code],
    queryFn: () => call<{ address: string; expected: number }>('GET', `/api/join/${encodeURIComponent(code)}`),
  });
  const said = live.state.said.at(-1);
  const isFresh = useOfTime(connection, (now) => said !== undefined && now - said.at < SAID_MS);
  const joined = Object.keys(live.state.students).length;
  const areAllHere = data !== undefined && data.expected > 0 && joined >= data.expected;
  if (live.state.phase === 'ended') return <div />;
  if (said && isFresh) return <p className={css.wallSaid}>{said.text}</p>;
  if (areAllHere) return <p className={css.wallHere}>{w.allHere}</p>;
  const address = data?.address ?? `${location.origin}/join/${code}`;
  return (
    <div className={css.wallJoin}>
      <span role="img" aria-label={w.qr}>
        <QRCode type="svg" value={address} bordered={false} size={QR_PX} bgColor="#ffffff" color="var(--grey-12)" aria-hidden />
      </span>
      <p>
        {w.join(address.replace(/^https?:\/\//, '').replace(/\/[^/]*$/, ''))} <b>{code}</b>
      </p>
    </div>
  );
}

/** Everybody who joined has an easel, standing as in the room's plan on the desk; it gets its canvas when they are done with the present step. No names. */
function Easels({ connection, live, sheet }: Parts) {
  const stepId = countedStep(live.state);
  // What may be taken for done is painted too.
  const done = useOfTime(connection, (now) =>
    Object.values(live.state.students)
      .filter((student) => stepId && isPainted(belief(live.state, student, now).standing.get(stepId)))
      .map((student) => student.id)
      .join(' '),
  ).split(' ');
  const students = Object.values(live.state.students).sort((a, b) => a.seat - b.seat);
  const columns = easelsInRow(students.length);
  return (
    <ul
      className={css.wallEasels}
      data-testid="wall-easels"
      aria-label={w.easels(students.length)}
      style={{ '--columns': columns, '--rows': Math.ceil(students.length / columns) } as React.CSSProperties}
    >
      {students.map((student) => (
        <li
          key={student.id}
          data-done={done.includes(student.id) || undefined}
          className={clsx(done.includes(student.id) && css.done)}
          style={{
            aspectRatio: `${sheet.canvas.widthMm} / ${sheet.canvas.heightMm}`,
            ...(student.edge && { borderColor: `var(--edge-${student.edge})` }),
          }}
        />
      ))}
    </ul>
  );
}

function ThisScreen({ screen, onScreen }: { screen: Screen; onScreen: (screen: Screen) => void }) {
  const number = (label: string, key: keyof Screen, least: number, most: number) => (
    <span>
      {label}{' '}
      <InputNumber
        aria-label={label}
        min={least}
        max={most}
        controls={false}
        value={screen[key]}
        onChange={(value) => value !== null && onScreen({ ...screen, [key]: value })}
      />
    </span>
  );
  return (
    <Fold className={css.wallScreen} head={w.screen}>
      {number(w.inches, 'inches', 10, 300)} {number(w.metres, 'metres', 1, 40)}
    </Fold>
  );
}
