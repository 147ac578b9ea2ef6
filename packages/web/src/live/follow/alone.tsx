import type { AloneSheet } from '@viaticum/contract';
import type { ClassState } from '@viaticum/core/class';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useMemo } from 'react';
import { followWords as w } from '../../words/follow.js';
import { ALONE_ID, aloneClass } from '../alone.js';
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
        kept: rememberedState<{ state: ClassState }>(key)?.state ?? null,
        keep: (state) => remember(key, state && { state }),
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
