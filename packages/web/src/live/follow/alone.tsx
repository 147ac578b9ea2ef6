import { useMutation } from '@tanstack/react-query';
import type { AloneSheet, ClassEvent } from '@viaticum/contract';
import type { ClassState } from '@viaticum/core/class';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useMemo } from 'react';
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
        <Told link={link} events={own.events()} />
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
function Told({ link, events }: { link: string; events: readonly ClassEvent[] }) {
  const tell = useMutation({
    mutationFn: () => call('POST', `/api/alone/${encodeURIComponent(link)}/log`, { events }),
  });
  if (events.length === 0) return null;
  if (tell.isSuccess)
    return (
      <p role="status" data-testid="told">
        {w.alone.told}
      </p>
    );
  return (
    <>
      <p>{w.alone.tellAbout}</p>
      {tell.error && (
        <p className="signal" role="alert">
          {tell.error.message}
        </p>
      )}
      <Button type="text" className={clsx('plain', followCss.bigKey)} loading={tell.isPending} onClick={() => tell.mutate()}>
        {w.alone.tell}
      </Button>
    </>
  );
}
