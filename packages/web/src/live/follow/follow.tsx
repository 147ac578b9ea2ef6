import type { AloneSheet, FollowSheet, JoinAnswer, OtherRecipes } from '@viaticum/contract';
import { languageNow } from '@viaticum/contract';
import { asKept, type ClassState, type Reading, type Student, viewFor } from '@viaticum/core/class';
import { setMeasures, usualMeasures } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type ApiFailure, call } from '../../api/http.js';
import { clockTime } from '../../ui/clock.js';
import { useSpoken } from '../../ui/language.js';
import { useHeld } from '../../ui/use-held.js';
import { followWords as w } from '../../words/follow.js';
import { closeConnection, type LiveConnection, liveConnection } from '../connection.js';
import { keptRows } from '../kept-rows.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import { Alone } from './alone.js';
import css from './follow.module.css';
import { lackingIn } from './kit.js';
import { phoneLanguage } from './phone-settings.js';
import { Present } from './present.js';
import { forgetOld, remember, remembered, rememberedState } from './remembered.js';
import { Resting } from './resting.js';

// Fields are needed once, before a phone has joined.
const AskCode = lazy(() => import('./asking.js').then((module) => ({ default: module.AskCode })));
const AskName = lazy(() => import('./asking.js').then((module) => ({ default: module.AskName })));

// The slate of who films is another page.
const Shoot = lazy(() => import('../shoot/shoot.js'));

const RETRY_MS = 2000;
const tokenKey = (code: string) => `viaticum-student-${code}`;
const OVER = 410;
const CLOCK_KEY = 'viaticum-clock';
const sheetKey = (code: string) => `viaticum-sheet-${code}`;
const stateKey = (code: string) => `viaticum-class-${code}`;
const codeOfPage = () =>
  decodeURIComponent(location.pathname.replace(/^\/join\/?/, ''))
    .toUpperCase()
    .replace(/\s/g, '');

/** A student's phone: the code, a first name, then one step a screen; or a lesson painted alone, from its link. */
export function Follow() {
  useEffect(() => forgetOld(/^\/paint\/([\w-]+)/.exec(location.pathname)?.[1] ?? codeOfPage()), []);
  if (/^\/shoot\//.test(location.pathname))
    return (
      <Suspense fallback={<main className={css.followPage} />}>
        <Shoot />
      </Suspense>
    );
  const link = /^\/paint\/([\w-]+)/.exec(location.pathname)?.[1];
  return link ? <AlonePage link={link} /> : <InClass />;
}

function AlonePage({ link }: { link: string }) {
  const { found, fault } = useKept<AloneSheet>(`/api/alone/${encodeURIComponent(link)}`, `viaticum-alone-${link}`, 0);
  const isSpoken = useSpoken(found ? (phoneLanguage() ?? found.sheet.language ?? 'en') : undefined);
  if (fault) return <Resting title={w.noLesson} about={fault} />;
  return found && isSpoken ? <Alone link={link} given={found} /> : <main className={css.followPage} data-testid="follow-page" />;
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
          // Of a class that is over a phone keeps showing what it was given while it was in it.
          if (kept && (error.status === 0 || error.status === OVER)) setAnswer({ url, found: kept, fault: null });
          else if (error.status !== 0) setAnswer({ url, found: null, fault: error.message });
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
  const isSpoken = useSpoken(sheet ? (phoneLanguage() ?? sheet.language ?? 'en') : undefined);
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
  // As the instructor of the class measures and in the language of the class, before anything of it is shown.
  if (sheet) setMeasures({ ...(sheet.measures ?? usualMeasures), language: languageNow() });
  return sheet && isSpoken ? (
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

/** Others take their names meanwhile. */
const OFFERED_MS = 5000;
/** The names on the class's list that nobody has taken, for who has not joined yet. */
function useOffered(isAsked: boolean): readonly string[] {
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    if (!isAsked) return;
    const timer = setInterval(() => setTurn((before) => before + 1), OFFERED_MS);
    return () => clearInterval(timer);
  }, [isAsked]);
  const url = isAsked ? `/api/join/${encodeURIComponent(codeOfPage())}` : null;
  const { found } = useKept<JoinAnswer>(url, `viaticum-offered-${codeOfPage()}`, turn);
  return found?.offered ?? [];
}

function Joined({ connection, sheet, onOpened }: { connection: LiveConnection; sheet: FollowSheet; onOpened: () => void }) {
  const live = useLive(connection);
  const [fault, setFault] = useState<string | null>(null);
  const wasPlanned = useRef(false);
  const isGuest = live.ready && !live.you && live.state.phase !== 'planned';
  const offered = useOffered(isGuest);
  const isPlanned = live.ready && live.state.phase === 'planned';
  useEffect(() => {
    if (wasPlanned.current && !isPlanned) onOpened();
    wasPlanned.current = isPlanned;
  }, [isPlanned, onOpened]);
  if (!live.ready) return <main className={css.followPage} data-testid="follow-page" />;
  // Of a class in groups a phone follows the one that it is in.
  const own = { ...live, state: viewFor(live.state, live.you ?? undefined) };
  const heard = live.you ? live.state.students[live.you] : undefined;
  // What was said here counts here at once.
  const student = heard && asKept(live.state, heard, live.kept);
  if (isPlanned) return <Resting title={w.notYetOpen} about={w.notYetOpenAbout} more={sheet.title} lost={!live.online} />;
  if (live.state.phase === 'ended') return <Over connection={connection} live={own} sheet={sheet} student={student} />;
  if (live.isAtDoor) return <Resting title={w.atDoor} about={w.atDoorAbout} more={sheet.title} lost={!live.online} />;
  if (!live.you || (!student && live.state.removed.includes(live.you))) {
    return (
      <Suspense fallback={<main className={css.followPage} data-testid="follow-page" />}>
        <AskName
          title={sheet.title}
          fault={fault}
          sheet={sheet}
          offered={offered}
          onName={async (firstName, kit, has) => {
            const answer = await connection.say({ type: 'join', firstName, kit, has });
            setFault(answer.ok ? null : (answer.message ?? null));
          }}
        />
      </Suspense>
    );
  }
  if (!student) return <main className={css.followPage} data-testid="follow-page" />;
  if (!own.state.current)
    return (
      <Resting title={w.waiting} about={w.waitingAbout} more={student.firstName} lost={!live.online}>
        {student.edge && <Edge edge={student.edge} />}
      </Resting>
    );
  return <WithKit connection={connection} live={own} sheet={sheet} student={student} />;
}

/** The colour by which one is told from somebody of the same name. */
const Edge = ({ edge }: { edge: number }) => (
  <p className={css.edge} style={{ borderColor: `var(--edge-${edge})` }}>
    {w.edge(w.edges[edge] ?? '')}
  </p>
);

/** After the end: when it was, and the steps to look through again. */
function Over({ student, ...props }: Omit<Parameters<typeof Present>[0], 'student'> & { student: Student | undefined }) {
  const [isLooking, setLooking] = useState(false);
  const { live } = props;
  if (isLooking && student && live.state.current) return <Present {...props} student={student} isOver />;
  const at = live.state.visits.at(-1)?.endedAt ?? live.state.at;
  return (
    <Resting title={w.ended} about={w.endedAbout} more={w.endedAt(clockTime(at))}>
      {student && live.state.current && (
        <Button type="text" className={clsx('plain', css.bigKey)} onClick={() => setLooking(true)}>
          {w.lookThrough}
        </Button>
      )}
    </Resting>
  );
}

/** The present step with the recipes for the tubes that this student has now. */
function WithKit(props: Parameters<typeof Present>[0]) {
  const lacking = lackingIn(props.sheet.tubes, props.student.kit);
  // Without a tube there is nothing to mix: they share a palette.
  if (lacking.length === 0 || lacking.length === props.sheet.tubes.length) return <Present {...props} />;
  const without = lacking.join(',');
  return <OwnRecipes key={without} {...props} without={without} />;
}

/** So long nothing but that it is looked for is shown: mostly the recipe is there by then. */
const LOOKING_MS = 300;

function OwnRecipes({ without, ...props }: Parameters<typeof Present>[0] & { without: string }) {
  const { sheet } = props;
  const code = codeOfPage();
  const key = `viaticum-recipes-${code}-${without}`;
  const [others, setOthers] = useState<OtherRecipes | null>(() => remembered(key));
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    if (others) return;
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
    const timer = setTimeout(() => setLong(true), LOOKING_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [code, without, key, others]);
  const own = useMemo(() => (others ? withRecipes(sheet, others) : sheet), [sheet, others]);
  return <Present {...props} sheet={own} lookingFor={others ? null : isLong ? 'long' : 'short'} />;
}

const withRecipes = (sheet: FollowSheet, others: OtherRecipes): FollowSheet => ({
  ...sheet,
  steps: Object.fromEntries(
    Object.entries(sheet.steps).map(([id, step]) => [
      id,
      {
        ...step,
        mixes: step.mixes.map((mix) => {
          const other = others[mix.id];
          // The mix stays where it lies on the palette.
          return other ? { ...mix, ...other, full: mix.words } : mix;
        }),
      },
    ]),
  ),
});
