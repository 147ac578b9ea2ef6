import type { FollowSheet, OtherRecipes } from '@viaticum/contract';
import { useEffect, useMemo, useState } from 'react';
import { type ApiFailure, call } from '../../api/http.js';
import { words } from '../../words.js';
import { type LiveConnection, liveConnection } from '../connection.js';
import { useLive } from '../use-live.js';
import { AskCode, AskName } from './asking.js';
import { Present } from './present.js';
import './follow.css';

const w = words.follow;
const tokenKey = (code: string) => `viaticum-student-${code}`;
const sheetKey = (code: string) => `viaticum-sheet-${code}`;
const codeOfPage = () =>
  decodeURIComponent(location.pathname.replace(/^\/join\/?/, ''))
    .toUpperCase()
    .replace(/\s/g, '');

/** A student's phone: the code, a first name, then one step a screen. */
export function Follow() {
  const [code, setCode] = useState(codeOfPage());
  const [sheet, setSheet] = useState<FollowSheet | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (!code) return;
    let gone = false;
    const look = (): void => {
      call<FollowSheet>('GET', `/api/join/${encodeURIComponent(code)}/sheet`).then(
        (found) => {
          if (gone) return;
          localStorage.setItem(sheetKey(code), JSON.stringify(found));
          setSheet(found);
        },
        (error: ApiFailure) => {
          if (gone) return;
          const kept = localStorage.getItem(sheetKey(code));
          if (error.status === 0 && kept) setSheet(JSON.parse(kept) as FollowSheet);
          else if (error.status === 0) setTimeout(look, 2000);
          else setFault(error.message);
        },
      );
    };
    look();
    return () => {
      gone = true;
    };
  }, [code]);
  if (!code || fault) {
    return (
      <AskCode
        fault={fault}
        onCode={(next) => {
          setFault(null);
          history.replaceState(null, '', `/join/${next}`);
          setCode(next);
        }}
      />
    );
  }
  return sheet ? <Connected code={code} sheet={sheet} /> : <main className="follow-page" />;
}

function Connected({ code, sheet }: { code: string; sheet: FollowSheet }) {
  const [connection, setConnection] = useState<LiveConnection | null>(null);
  useEffect(() => {
    const fresh = liveConnection(code, 'phone', {
      token: localStorage.getItem(tokenKey(code)),
      keepToken: (token) => localStorage.setItem(tokenKey(code), token),
    });
    setConnection(fresh);
    return () => fresh.close();
  }, [code]);
  return connection ? <Joined connection={connection} sheet={sheet} /> : <main className="follow-page" />;
}

function Joined({ connection, sheet }: { connection: LiveConnection; sheet: FollowSheet }) {
  const live = useLive(connection);
  const [fault, setFault] = useState<string | null>(null);
  if (!live.ready) return <main className="follow-page" />;
  const student = live.you ? live.state.students[live.you] : undefined;
  if (live.state.phase === 'ended') return <Resting title={w.ended} about={w.endedAbout} />;
  if (!live.you || (!student && live.state.removed.includes(live.you))) {
    return (
      <AskName
        title={sheet.title}
        fault={fault}
        tubes={sheet.tubes}
        onName={async (firstName, kit) => {
          const answer = await connection.say({ type: 'join', firstName, kit });
          setFault(answer.ok ? null : (answer.message ?? null));
        }}
      />
    );
  }
  if (!student) return <main className="follow-page" />;
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
  const [others, setOthers] = useState<OtherRecipes | null>(() => JSON.parse(localStorage.getItem(key) ?? 'null'));
  useEffect(() => {
    if (!without || others) return;
    let gone = false;
    const look = (): void => {
      call<OtherRecipes>('GET', `/api/join/${encodeURIComponent(code)}/recipes?without=${encodeURIComponent(without)}`).then(
        (found) => {
          localStorage.setItem(key, JSON.stringify(found));
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
    Object.entries(sheet.steps).map(([id, step]) => [id, { ...step, mixes: step.mixes.map((mix) => others[mix.id] ?? mix) }]),
  ),
});

function Resting({ title, about, more, lost = false }: { title: string; about: string; more?: string; lost?: boolean }) {
  return (
    <main className="follow-page follow-rest">
      {more && <p className="quiet">{more}</p>}
      <h1>{title}</h1>
      <p>{about}</p>
      {lost && (
        <p className="follow-lost" role="status">
          {w.lost}
        </p>
      )}
    </main>
  );
}
