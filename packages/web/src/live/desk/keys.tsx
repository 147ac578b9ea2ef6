import { chanceOfDry, coatUnder, currentItem, goingOn, TAKE_BACK_MS, waitedFor } from '@viaticum/core/class';
import { listInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useCallback, useEffect, useState } from 'react';
import { LinkKey } from '../../ui/link-key.js';
import { letterOf, singleKeysOn } from '../../ui/single-keys.js';
import { deskWords as w } from '../../words/desk.js';
import { coatName } from '../coat-name.js';
import { useOfTime } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './keys.module.css';
import type { DeskParts } from './parts.js';

/** A coat that is dry with less chance than this was hardly touched; the key is pressed again within so long. */
const HARDLY = 0.05;
const AGAIN_MS = 4000;
/** Just after a step changed the key rests. */
const KEY_RESTS_MS = 2000;
/** So long a key stays that asks once more. */
const SURE_MS = 3000;

const MOST_NAMES = 3;
const someNames = (names: readonly string[]): string =>
  names.length <= MOST_NAMES + 1
    ? listInWords([...names])
    : w.namesAndMore(names.slice(0, MOST_NAMES).join(', '), names.length - MOST_NAMES);

/** The large keys, which are also the keyboard's and a presenter's clicker's. */
export function Keys({ connection, live, sheet, code, isCo = false }: DeskParts) {
  const { state } = live;
  const [sure, setSure] = useState(false);
  const items = state.plan?.items ?? [];
  const at = state.current?.index ?? -1;
  const next = items[at + 1];
  // The hands that press are no faster where a rehearsal runs faster.
  const canTakeBack = useOfTime(
    connection,
    (now) =>
      state.current !== null &&
      state.before.length > 0 &&
      now - state.current.startedAt < TAKE_BACK_MS * (state.clock?.speed ?? 1),
  );
  const would = useOfTime(connection, (now) => {
    const { wet, behind, asks } = goingOn(state, now);
    const needs = wet ? [w.needsMore(coatName(sheet, state.plan, wet.coat), wet.leftMin)] : [];
    const left = behind.map(({ stepId, names }) => ({ names: someNames(names), title: sheet.steps[stepId]?.title ?? '' }));
    const says = [...needs, ...(left.length > 0 ? [w.notWith(left)] : [])].join(' · ');
    return `${wet ? 'wet' : asks ? 'behind' : 'clear'}|${says}`;
  });
  const [reason = 'clear', under = ''] = would.split('|');
  const ended = state.phase === 'ended';
  // What would paint on wet, or leave most behind, is pressed twice.
  const [askedAt, setAskedAt] = useState<{ item: number } | null>(null);
  useEffect(() => {
    if (!askedAt) return;
    const timer = setTimeout(() => setAskedAt(null), SURE_MS);
    return () => clearTimeout(timer);
  }, [askedAt]);
  const isSure = askedAt?.item === at;
  const isPause = items[at]?.kind === 'pause';
  const goOn = useCallback(() => {
    if (!next) return;
    if (reason !== 'clear' && !isSure) return setAskedAt({ item: at });
    setAskedAt(null);
    void connection.say({ type: reason === 'wet' && isPause && next.stepId ? 'paintOn' : 'goOn', from: at });
  }, [connection, next, at, reason, isSure, isPause]);
  const takeBack = useCallback(() => void connection.say({ type: 'takeBack' }), [connection]);
  const back = useCallback(() => {
    if (canTakeBack) takeBack();
    else if (at > 0) void connection.say({ type: 'goTo', from: at, to: at - 1 });
  }, [connection, canTakeBack, takeBack, at]);
  const holdOrResume = useCallback(
    () => void connection.say({ type: state.phase === 'held' ? 'resume' : 'hold' }),
    [connection, state.phase],
  );
  const extend = useCallback(() => void connection.say({ type: 'extend', minutes: 1 }), [connection]);
  const running = state.phase === 'running' || state.phase === 'held';
  const item = currentItem(state);
  const waited = running && item?.kind === 'pause' && state.plan ? waitedFor(state.plan.coats, item)?.areaId : undefined;
  // A key pressed by chance must not free paint that can hardly be dry: it is asked for once more.
  const [early, setEarly] = useState<{ at: number; minutes: number; planned: number } | null>(null);
  const startedAt = state.current?.startedAt ?? 0;
  const touchDry = useCallback(() => {
    const now = connection.now();
    if (!waited || now - startedAt < KEY_RESTS_MS) return;
    const under = coatUnder(state, waited, now);
    const isAgain = early !== null && now - early.at < AGAIN_MS;
    if (under && !isAgain && chanceOfDry(state, waited, now) < HARDLY) {
      setEarly({
        at: now,
        minutes: Math.round(under.sinceMin),
        planned: Math.round((under.coat.paintOverMin ?? 0) * state.dryFactor),
      });
      return;
    }
    setEarly(null);
    void connection.say({ type: 'touchTest', areaId: waited, dry: true });
  }, [connection, state, waited, startedAt, early]);
  const isAsking = useOfTime(connection, (now) => early !== null && now - early.at < AGAIN_MS);
  useEffect(() => {
    if (ended) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      // Keys rest while something is typed.
      if ((event.target as Element | null)?.closest('input, textarea, select')) return;
      const does: Record<string, (() => void) | undefined> = {
        ArrowRight: goOn,
        PageDown: goOn,
        ArrowLeft: back,
        PageUp: back,
        h: running ? holdOrResume : undefined,
        e: running ? extend : undefined,
        d: waited ? touchDry : undefined,
      };
      const key = letterOf(event);
      const act = key.length === 1 && !singleKeysOn() ? undefined : does[key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [ended, running, waited, touchDry, goOn, back, holdOrResume, extend]);
  if (ended)
    return (
      <footer className={css.deskKeys}>
        {!isCo && (
          <LinkKey className={clsx(deskCss.deskKey, deskCss.main)} to={`/class/${code}`}>
            {w.record}
          </LinkKey>
        )}
      </footer>
    );
  return (
    <footer className={css.deskKeys}>
      {early && isAsking && (
        <p className={css.early} role="alert">
          {w.early(early.minutes, early.planned)}
        </p>
      )}
      <Button
        type="text"
        className={clsx('plain', deskCss.deskKey)}
        disabled={!running}
        onClick={holdOrResume}
        aria-keyshortcuts="H"
      >
        {state.phase === 'held' ? w.resume : w.hold} <kbd>H</kbd>
      </Button>
      <Button type="text" className={clsx('plain', deskCss.deskKey)} disabled={!running} onClick={extend} aria-keyshortcuts="E">
        {w.extend} <kbd>E</kbd>
      </Button>
      <Button
        type="text"
        className={clsx('plain', deskCss.deskKey)}
        disabled={!canTakeBack}
        onClick={takeBack}
        aria-keyshortcuts="ArrowLeft"
      >
        {w.takeBack} <kbd>←</kbd>
      </Button>
      <Button
        type="text"
        className={clsx('plain', deskCss.deskKey, deskCss.main, isSure && css.asking)}
        disabled={!next}
        onClick={goOn}
        aria-keyshortcuts="ArrowRight PageDown"
      >
        {next ? (at < 0 ? w.start(next.title) : w.goOn(next.title)) : w.last} <kbd>→</kbd>
        {under !== '' && <small className={css.behind}>{under}</small>}
        {isSure && (
          <small className={css.behind} role="status">
            {w.again}
          </small>
        )}
      </Button>
      {!isCo && (
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey)}
          onClick={() => (sure ? void connection.say({ type: 'end' }) : setSure(true))}
          onBlur={() => setSure(false)}
        >
          {sure ? w.endSure : w.end}
        </Button>
      )}
    </footer>
  );
}
