import { currentItem, TAKE_BACK_MS, waitedFor } from '@viaticum/core/class';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useCallback, useEffect, useState } from 'react';
import { letterOf, singleKeysOn } from '../../ui/single-keys.js';
import { deskWords as w } from '../../words/desk.js';
import { useOfTime } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './keys.module.css';
import type { DeskParts } from './parts.js';

/** The large keys, which are also the keyboard's and a presenter's clicker's. */
export function Keys({ connection, live }: DeskParts) {
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
  const ended = state.phase === 'ended';
  const goOn = useCallback(() => void (next && connection.say({ type: 'goOn', from: at })), [connection, next, at]);
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
        d: waited ? () => void connection.say({ type: 'touchTest', areaId: waited, dry: true }) : undefined,
      };
      const key = letterOf(event);
      const act = key.length === 1 && !singleKeysOn() ? undefined : does[key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [ended, running, waited, connection, goOn, back, holdOrResume, extend]);
  if (ended)
    return (
      <footer className={clsx(css.deskKeys, deskCss.deskLarge)} data-testid="desk-large">
        {w.ended}
      </footer>
    );
  return (
    <footer className={css.deskKeys}>
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
      {canTakeBack ? (
        <Button type="text" className={clsx('plain', deskCss.deskKey)} onClick={takeBack} aria-keyshortcuts="ArrowLeft">
          {w.takeBack} <kbd>←</kbd>
        </Button>
      ) : (
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey)}
          onClick={() => (sure ? void connection.say({ type: 'end' }) : setSure(true))}
          onBlur={() => setSure(false)}
        >
          {sure ? w.endSure : w.end}
        </Button>
      )}
      <Button
        type="text"
        className={clsx('plain', deskCss.deskKey, deskCss.main)}
        disabled={!next}
        onClick={goOn}
        aria-keyshortcuts="ArrowRight PageDown"
      >
        {next ? (at < 0 ? w.start(next.title) : w.goOn(next.title.charAt(0).toLowerCase() + next.title.slice(1))) : w.last}{' '}
        <kbd>→</kbd>
      </Button>
    </footer>
  );
}
