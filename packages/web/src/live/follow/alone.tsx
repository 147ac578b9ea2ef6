import { type AloneSheet, type ClassEvent, LEAST_ALONE_SHARE } from '@viaticum/contract';
import type { ClassState } from '@viaticum/core/class';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { call } from '../../api/http.js';
import { followWords as w } from '../../words/follow.js';
import { ALONE_ID, aloneClass, type KeptAlone } from '../alone.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import followCss from './follow.module.css';
import { Present } from './present.js';
import { remember, rememberedState } from './remembered.js';
import { Resting } from './resting.js';

/** A lesson painted alone, at one's own pace, with the drying clock of one's own coats. */
export function Alone({ link, given }: { link: string; given: AloneSheet }) {
  const key = `viaticum-alone-class-${link}`;
  const own = useMemo(
    () =>
      aloneClass(given, {
        // One that was begun before happenings were kept has none to tell.
        kept: keptAs(rememberedState<{ state: ClassState; events?: ClassEvent[] }>(key)),
        keep: (kept) => remember(key, kept),
      }),
    [given, key],
  );
  const live = useLive(own);
  const student = live.state.students[ALONE_ID];
  const again = (
    <Button type="text" className={clsx('plain', followCss.bigKey)} onClick={own.forget}>
      {w.alone.again}
    </Button>
  );
  if (live.state.phase === 'ended')
    return (
      <Resting title={w.alone.ended} about={w.endedAbout} more={given.sheet.title}>
        <Told link={link} events={own.events()} planMin={given.plan.endMin} />
        {again}
      </Resting>
    );
  if (!student || !live.state.current)
    return (
      <Resting title={given.sheet.title} about={w.alone.startAbout(minutesInWords(given.plan.endMin))}>
        <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main)} onClick={own.begin}>
          {w.alone.start}
        </Button>
      </Resting>
    );
  return (
    <StagesAt base={`/api/alone/${encodeURIComponent(link)}`}>
      <Present connection={own} live={live} sheet={given.sheet} student={student} isAlone />
    </StagesAt>
  );
}

const keptAs = (kept: { state: ClassState; events?: ClassEvent[] } | null): KeptAlone | null =>
  kept && { state: kept.state, events: kept.events ?? [] };

/** How long each step took goes to the instructor, without a name, when whoever painted wants it so. */
function Told({ link, events, planMin }: { link: string; events: readonly ClassEvent[]; planMin: number }) {
  const [state, setState] = useState<'open' | 'sending' | 'told'>('open');
  const [fault, setFault] = useState<string | null>(null);
  const tell = async () => {
    setState('sending');
    setFault(null);
    try {
      await call('POST', `/api/alone/${encodeURIComponent(link)}/log`, { events });
      setState('told');
    } catch (error) {
      setFault((error as Error).message);
      setState('open');
    }
  };
  // Who looked the lesson through has no times to tell.
  const [first, last] = [events[0]?.at ?? 0, events.at(-1)?.at ?? 0];
  if (last - first < LEAST_ALONE_SHARE * planMin * 60_000) return null;
  if (state === 'told')
    return (
      <p role="status" data-testid="told">
        {w.alone.told}
      </p>
    );
  return (
    <>
      <p>{w.alone.tellAbout}</p>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      <Button type="text" className={clsx('plain', followCss.bigKey)} loading={state === 'sending'} onClick={() => void tell()}>
        {w.alone.tell}
      </Button>
    </>
  );
}
