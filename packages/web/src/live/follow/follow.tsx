import type { AloneSheet, FollowSheet, OtherRecipes } from '@viaticum/contract';
import { asKept, type ClassState, type Reading } from '@viaticum/core/class';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type ApiFailure, call } from '../../api/http.js';
import { useHeld } from '../../ui/use-held.js';
import { followWords as w } from '../../words/follow.js';
import { closeConnection, type LiveConnection, liveConnection } from '../connection.js';
import { keptRows } from '../kept-rows.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import { Alone } from './alone.js';
import css from './follow.module.css';
import { Present } from './present.js';
import { remember, remembered, rememberedState } from './remembered.js';
import { Resting } from './resting.js';

// Fields are needed once, before a phone has joined.
const AskCode = lazy(() => import('./asking.js').then((module) => ({ default: module.AskCode })));
const AskName = lazy(() => import('./asking.js').then((module) => ({ default: module.AskName })));

const RETRY_MS = 2000;
const tokenKey = (code: string) => `viaticum-student-${code}`;
const CLOCK_KEY = 'viaticum-clock';
const sheetKey = (code: string) => `viaticum-sheet-${code}`;
const stateKey = (code: string) => `viaticum-class-${code}`;
const codeOfPage = () =>
  decodeURIComponent(location.pathname.replace(/^\/join\/?/, ''))
    .toUpperCase()
    .replace(/\s/g, '');

/** A student's phone: the code, a first name, then one step a screen; or a lesson painted alone, from its link. */
export function Follow() {
  const link = /^\/paint\/([\w-]+)/.exec(location.pathname)?.[1];
  return link ? <AlonePage link={link} /> : <InClass />;
}

function AlonePage({ link }: { link: string }) {
  const { found, fault } = useKept<AloneSheet>(`/api/alone/${encodeURIComponent(link)}`, `viaticum-alone-${link}`, 0);
  if (fault) return <Resting title={w.noLesson} about={fault} />;
  return found ? <Alone link={link} given={found} /> : <main className={css.followPage} data-testid="follow-page" />;
}

/** Something from the server, or as it was kept where there is no network; looked for again until it comes. */
function useKept<T>(url: string | null, key: string, turn: number): { found: T | null; fault: string | null } {
  const [answer, setAnswer] = useState<{ url: string | null; found: T | null; fault: string | null }>({
    url,
    found: null,
    fault: null,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again at every turn
  useEffect(() => {
    if (!url) return;
    let gone = false;
    const look = (): void => {
      call<T>('GET', url).then(
        (found) => {
          if (gone) return;
          remember(key, found);
          setAnswer({ url, found, fault: null });
        },
        (error: ApiFailure) => {
          if (gone) return;
          const kept = remembered<T>(key);
          if (error.status !== 0) setAnswer({ url, found: null, fault: error.message });
          else if (kept) setAnswer({ url, found: kept, fault: null });
          else setTimeout(look, RETRY_MS);
        },
      );
    };
    look();
    return () => {
      gone = true;
    };
  }, [url, key, turn]);
  return answer.url === url ? answer : { found: null, fault: null };
}

function InClass() {
  const [code, setCode] = useState(codeOfPage());
  // A class that was planned may open with a lesson that was changed meanwhile.
  const [opened, setOpened] = useState(0);
  const { found: sheet, fault } = useKept<FollowSheet>(
    code ? `/api/join/${encodeURIComponent(code)}/sheet` : null,
    sheetKey(code),
    opened,
  );
  if (!code || fault) {
    return (
      <Suspense fallback={<main className={css.followPage} data-testid="follow-page" />}>
        <AskCode
          fault={fault}
          onCode={(next) => {
            history.replaceState(null, '', `/join/${next}`);
            setCode(next);
          }}
        />
      </Suspense>
    );
  }
  return sheet ? (
    <Connected code={code} sheet={sheet} onOpened={() => setOpened((turn) => turn + 1)} />
  ) : (
    <main className={css.followPage} data-testid="follow-page" />
  );
}

function Connected({ code, sheet, onOpened }: { code: string; sheet: FollowSheet; onOpened: () => void }) {
  const connect = useCallback(
    () =>
      liveConnection(code, 'phone', {
        token: localStorage.getItem(tokenKey(code)),
        keepToken: (token) => localStorage.setItem(tokenKey(code), token),
        kept: rememberedState<{ state: ClassState; you: string | null }>(stateKey(code)),
        keep: (state, you) => remember(stateKey(code), { state, you }),
        rows: keptRows(code),
        clock: { stored: remembered<Reading>(CLOCK_KEY), keep: (reading) => remember(CLOCK_KEY, reading) },
      }),
    [code],
  );
  const connection = useHeld(connect, closeConnection);
  if (!connection) return <main className={css.followPage} data-testid="follow-page" />;
  return (
    <StagesAt base={`/api/join/${encodeURIComponent(code)}`}>
      <Joined connection={connection} sheet={sheet} onOpened={onOpened} />
    </StagesAt>
  );
}

function Joined({ connection, sheet, onOpened }: { connection: LiveConnection; sheet: FollowSheet; onOpened: () => void }) {
  const live = useLive(connection);
  const [fault, setFault] = useState<string | null>(null);
  const wasPlanned = useRef(false);
  const isPlanned = live.ready && live.state.phase === 'planned';
  useEffect(() => {
    if (wasPlanned.current && !isPlanned) onOpened();
    wasPlanned.current = isPlanned;
  }, [isPlanned, onOpened]);
  if (!live.ready) return <main className={css.followPage} data-testid="follow-page" />;
  const heard = live.you ? live.state.students[live.you] : undefined;
  // What was said here counts here at once.
  const student = heard && asKept(live.state, heard, live.kept);
  if (isPlanned) return <Resting title={w.notYetOpen} about={w.notYetOpenAbout} more={sheet.title} lost={!live.online} />;
  if (live.state.phase === 'ended') return <Resting title={w.ended} about={w.endedAbout} />;
  if (live.isAtDoor) return <Resting title={w.atDoor} about={w.atDoorAbout} more={sheet.title} lost={!live.online} />;
  if (!live.you || (!student && live.state.removed.includes(live.you))) {
    return (
      <Suspense fallback={<main className={css.followPage} data-testid="follow-page" />}>
        <AskName
          title={sheet.title}
          fault={fault}
          tubes={sheet.tubes}
          ways={sheet.ways ?? {}}
          onName={async (firstName, kit, has) => {
            const answer = await connection.say({ type: 'join', firstName, kit, has });
            setFault(answer.ok ? null : (answer.message ?? null));
          }}
        />
      </Suspense>
    );
  }
  if (!student) return <main className={css.followPage} data-testid="follow-page" />;
  if (!live.state.current)
    return <Resting title={w.waiting} about={w.waitingAbout} more={student.firstName} lost={!live.online} />;
  return <WithKit connection={connection} live={live} sheet={sheet} student={student} />;
}

/** The present step with the recipes for the tubes that this student has. */
function WithKit(props: Parameters<typeof Present>[0]) {
  const { sheet, student } = props;
  const code = codeOfPage();
  const lacking = sheet.tubes.filter((tube) => student.kit.length > 0 && !student.kit.includes(tube.id)).map((tube) => tube.id);
  const without = lacking.join(',');
  const key = `viaticum-recipes-${code}-${without}`;
  const [others, setOthers] = useState<OtherRecipes | null>(() => remembered(key));
  useEffect(() => {
    if (!without || others) return;
    let gone = false;
    const look = (): void => {
      call<OtherRecipes>('GET', `/api/join/${encodeURIComponent(code)}/recipes?without=${encodeURIComponent(without)}`).then(
        (found) => {
          remember(key, found);
          if (!gone) setOthers(found);
        },
        () => !gone && setTimeout(look, 3000),
      );
    };
    look();
    return () => {
      gone = true;
    };
  }, [code, without, key, others]);
  return (
    <Present
      {...props}
      sheet={useMemo(() => (without && others ? withRecipes(sheet, others) : sheet), [sheet, others, without])}
    />
  );
}

const withRecipes = (sheet: FollowSheet, others: OtherRecipes): FollowSheet => ({
  ...sheet,
  steps: Object.fromEntries(
    Object.entries(sheet.steps).map(([id, step]) => [
      id,
      // The mix stays where it lies on the palette.
      { ...step, mixes: step.mixes.map((mix) => ({ ...mix, ...others[mix.id] })) },
    ]),
  ),
});
