import {
  ahead,
  airChange,
  classMinute,
  coatKey,
  coatsNow,
  currentItem,
  readAir,
  type TypedAir,
  touchable,
  waitedFor,
} from '@viaticum/core/class';
import { degreesUnit, minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button, Input } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { clockTime } from '../../ui/clock.js';
import { deskWords as w } from '../../words/desk.js';
import { words } from '../../words/words.js';
import { coatName } from '../coat-name.js';
import { useNowEvery } from '../use-live.js';
import deskCss from './desk.module.css';
import { HostFilm } from './near-film.js';
import css from './near-now.module.css';
import type { DeskAnswer, DeskParts } from './parts.js';

/** The room's air, the touch test, the time, and where to join. */
export function Now({ answer, ...parts }: DeskParts & { answer: DeskAnswer }) {
  const { live, code } = parts;
  const item = currentItem(live.state);
  const address = answer.addresses[0] ?? '';
  return (
    <>
      <HostFilm {...parts} />
      <Air {...parts} />
      <TouchTest {...parts} />
      <PaintOn {...parts} />
      {live.state.phase !== 'ended' && <Time {...parts} />}
      {live.state.phase !== 'ended' && (
        <section>
          <h2>{w.join}</h2>
          <p>{address.replace(/^https?:\/\//, '').replace(/\/[^/]+$/, '')}</p>
          <p className={css.deskCode}>{code}</p>
          {!item && <img src={`/api/classes/${code}/qr.svg`} alt={words.class.qr} width={150} height={150} />}
        </section>
      )}
    </>
  );
}

function Air({ connection, live, sheet }: DeskParts) {
  const { state } = live;
  const [isNoting, setNoting] = useState(false);
  const [airC, setAirC] = useState('');
  const [humidity, setHumidity] = useState('');
  const [fault, setFault] = useState<TypedAir | null>(null);
  const room = state.plan?.room;
  if (!room) return null;
  const air = state.climate ?? room;
  const isRunning = state.phase === 'running' || state.phase === 'held';
  const note = async () => {
    const typed = readAir(airC, humidity);
    setFault(typed);
    if (!typed.air) return;
    const { ok } = await connection.say({ type: 'climate', ...typed.air });
    if (ok) setNoting(false);
  };
  return (
    <section aria-label={w.room}>
      <h2>
        {w.room}: {room.name}
        {state.rehearsal && state.climate?.bySensor ? `, ${w.simulated}` : ''}
      </h2>
      <p className={clsx(css.deskFigure, 'numbers')}>{w.airOf(air.airC, air.humidity)}</p>
      {state.climate && <AirDoes connection={connection} live={live} sheet={sheet} />}
      {isNoting ? (
        <form
          className={deskCss.deskAir}
          onSubmit={(event) => {
            event.preventDefault();
            void note();
          }}
        >
          <Input
            aria-label={w.airC}
            placeholder={degreesUnit()}
            inputMode="decimal"
            value={airC}
            status={fault?.field === 'airC' ? 'error' : ''}
            onChange={(event) => setAirC(event.target.value)}
          />
          <Input
            aria-label={w.humidity}
            placeholder="%"
            inputMode="decimal"
            value={humidity}
            status={fault?.field === 'humidity' ? 'error' : ''}
            onChange={(event) => setHumidity(event.target.value)}
          />
          <Button
            type="text"
            className={clsx('plain', deskCss.deskKey, 'small')}
            htmlType="submit"
            disabled={airC === '' || humidity === ''}
          >
            {w.noteAir}
          </Button>
          {fault?.fault && (
            <p className={css.deskFault} role="alert">
              {fault.fault}
            </p>
          )}
        </form>
      ) : (
        isRunning && (
          <Button type="text" className={clsx('plain', css.deskLink)} onClick={() => setNoting(true)}>
            {w.noteAir}
          </Button>
        )
      )}
    </section>
  );
}

/** What the air that was noted does: to coats that lie wet, else to those that are to come. */
function AirDoes({ connection, live: { state }, sheet }: Pick<DeskParts, 'connection' | 'live' | 'sheet'>) {
  const change = airChange(state, useNowEvery(connection, 15));
  if (!change) return null;
  const inWords = (minutes: number) => (Number.isFinite(minutes) ? waitInWords(minutes) : w.never);
  const named = change.wet.map((coat) => ({ ...coat, name: coatName(sheet, state.plan, coat) }));
  const each = named.filter((coat, k) => named.findIndex(({ name }) => name === coat.name) === k);
  const shown = each.slice(0, MOST_COATS);
  const coats = shown.map(({ name, wasMin, isMin }) => ({ name, was: inWords(wasMin), is: inWords(isMin) }));
  return (
    <>
      {coats.length > 0 && <p>{w.airCoats(coats, each.length - shown.length)}</p>}
      {change.times && <p className={deskCss.deskQuiet}>{w.airTimes(change.times.least, change.times.most)}</p>}
      {shown.some(({ wasMin, isMin }) => isMin - wasMin >= LONGER_MIN) && <p className={deskCss.deskQuiet}>{w.airLonger}</p>}
    </>
  );
}
const MOST_COATS = 3;
/** So many minutes more are worth doing something about. */
const LONGER_MIN = 5;

/** The coat that a pause waits for, touched: what is found corrects the drying of this class. */
export function TouchTest({
  connection,
  live,
  sheet,
  hasKey = true,
}: Pick<DeskParts, 'connection' | 'live' | 'sheet'> & {
  /** The desk's keyboard has a key for it. */
  hasKey?: boolean;
}) {
  const now = useNowEvery(connection, 5);
  const { state } = live;
  const [chosen, setChosen] = useState<string | null>(null);
  const item = currentItem(state);
  if (!item || state.phase === 'ended' || !state.plan) return null;
  // In a step it is what was painted last that one may want to touch.
  const { coats } = coatsNow(state, now);
  const coat = item.kind === 'pause' ? waitedFor(state.plan.coats, item) : null;
  const meant = touchable(state, now);
  const last =
    meant.find((one) => coatKey(one) === chosen) ??
    coat ??
    meant[0] ??
    coats.filter((one) => one.stepId !== item.stepId && one.paintOverMin !== null).at(-1);
  if (!last) return null;
  const touch = (dry: boolean) => void connection.say({ type: 'touchTest', areaId: last.areaId, dry });
  const name = coatName(sheet, state.plan, last);
  const percent = Math.round((state.dryFactor - 1) * 100);
  const newest = state.touches.at(-1);
  return (
    <section aria-label={w.touch}>
      <h2>{w.touch}</h2>
      {meant.length > 1 && (
        <fieldset className={css.which}>
          <legend className={deskCss.deskQuiet}>{w.whichTouched}</legend>
          {meant.map((one) => (
            <Button
              key={coatKey(one)}
              type="text"
              className={clsx('plain', deskCss.deskKey, 'small')}
              aria-pressed={coatKey(one) === coatKey(last)}
              onClick={() => setChosen(coatKey(one))}
            >
              {coatName(sheet, state.plan, one)}
            </Button>
          ))}
        </fieldset>
      )}
      <p className={deskCss.deskTouch}>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          onClick={() => touch(true)}
          {...(last === coat && hasKey && { 'aria-keyshortcuts': 'D' })}
        >
          {w.isDry(name)} {coat && last === coat && hasKey && <kbd>D</kbd>}
        </Button>
        <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={() => touch(false)}>
          {w.notYet}
        </Button>
      </p>
      {newest?.at !== undefined && (
        <p className={deskCss.deskTouch}>
          <Button
            type="text"
            className={clsx('plain', deskCss.deskKey, 'small')}
            onClick={() => void connection.say({ type: 'touchBack', at: newest.at as number })}
          >
            {w.touchBack(newest.dryAtMin !== undefined)}
          </Button>
        </p>
      )}
      {state.touches.length > 0 && <p className={deskCss.deskQuiet}>{w.dries(percent, state.touches.length)}</p>}
    </section>
  );
}

/** In a pause: what would happen if the class went on now, and the way to do it all the same. */
function PaintOn({ connection, live }: DeskParts) {
  const { state } = live;
  const item = currentItem(state);
  const from = state.current?.index;
  const next = from === undefined ? undefined : state.plan?.items[from + 1];
  if (item?.kind !== 'pause' || from === undefined || !next?.stepId || state.phase === 'ended') return null;
  return (
    <section aria-label={w.waiting}>
      <h2>{w.waiting}</h2>
      {item.reason && <p className={deskCss.deskQuiet}>{item.reason}</p>}
      <p className={deskCss.deskTouch}>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          onClick={() => void connection.say({ type: 'paintOn', from })}
        >
          {w.paintOn}
        </Button>
      </p>
    </section>
  );
}

function Time({ connection, live }: DeskParts) {
  const now = useNowEvery(connection, 5);
  const { state } = live;
  const { plan } = state;
  const [isPlanning, setPlanning] = useState(false);
  const [isPlanned, setPlanned] = useState(false);
  if (!plan) return null;
  const at = state.current?.index;
  const minute = classMinute(state, now);
  const coming = ahead(state, now);
  const end = coming.at(-1)?.endMin ?? plan.endMin;
  const started = state.visits[0]?.startedAt ?? now;
  const shift = Math.round(end - state.plannedMin);
  const nextBreak = coming.slice(1).find(({ item, startMin, endMin }) => item.kind === 'break' && endMin > startMin);
  const replan = async (quickest: boolean) => {
    if (at === undefined) return;
    setPlanning(true);
    const { ok } = await connection.say({ type: 'replan', from: at, ...(quickest && { quickest }) });
    setPlanning(false);
    setPlanned(ok);
  };
  return (
    <section aria-label={w.time}>
      <h2>{w.time}</h2>
      <p className={clsx(css.deskFigure, 'numbers')}>{clockTime(now)}</p>
      {at === undefined ? (
        <p className={deskCss.deskQuiet}>{w.planned(minutesInWords(plan.endMin))}</p>
      ) : (
        <>
          <p>{Number.isFinite(end) ? w.ends(clockTime(started + end * 60_000)) : w.noEnd}</p>
          {Number.isFinite(end) && Math.abs(shift) >= 1 && (
            <p className={deskCss.deskQuiet}>{shift > 0 ? w.later(minutesInWords(shift)) : w.sooner(minutesInWords(-shift))}</p>
          )}
          {nextBreak && Number.isFinite(nextBreak.startMin) && (
            <p className={deskCss.deskQuiet}>{w.nextBreak(waitInWords(Math.max(0, nextBreak.startMin - minute)))}</p>
          )}
          {state.phase !== 'ended' && (
            <p className={deskCss.deskTouch}>
              <Button
                type="text"
                className={clsx('plain', deskCss.deskKey, 'small')}
                disabled={isPlanning}
                onClick={() => void replan(false)}
              >
                {isPlanning ? w.replanning : w.replan}
              </Button>
              <Button type="text" className={clsx('plain', css.deskLink)} disabled={isPlanning} onClick={() => void replan(true)}>
                {w.replanQuickest}
              </Button>
            </p>
          )}
          {isPlanned && !isPlanning && (
            <p className={deskCss.deskQuiet} role="status">
              {w.replanned}
            </p>
          )}
        </>
      )}
    </section>
  );
}
