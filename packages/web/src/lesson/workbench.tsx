import { useQueryClient } from '@tanstack/react-query';
import type { LessonAnswer } from '@viaticum/contract';
import { clsx } from 'clsx';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { Outlet, useLocation, useParams } from 'react-router';
import { readLesson } from '../api/queries.js';
import { RefusalContext } from '../ui/refusal.js';
import { placeAt } from '../ui/ribbon/lanes.js';
import { Ribbon } from '../ui/ribbon/ribbon.js';
import ribbonCss from '../ui/ribbon/ribbon.module.css';
import { useRemembered } from '../ui/use-remembered.js';
import { words } from '../words/words.js';
import { Banners } from './banners.js';
import { Beside } from './beside.js';
import {
  SessionContext,
  usePlan,
  useSession,
  useTriedOut,
  useView,
  useWorkedOut,
  useWorkingOut,
  type View,
  ViewContext,
  WorkedOutContext,
} from './context.js';
import { Header } from './header.js';
import { lessonCheck } from './kept.js';
import { useKeys } from './keys.js';
import { Rail } from './rail.js';
import { useRibbonHeight } from './ribbon-height.js';
import { type LessonSession, lessonSession } from './store.js';
import css from './workbench.module.css';

const FirstTour = lazy(() => import('./first-tour.js'));
const KeyList = lazy(() => import('./key-list.js').then((module) => ({ default: module.KeyList })));
const Versions = lazy(() => import('./versions.js').then((module) => ({ default: module.Versions })));
const Find = lazy(() => import('./find.js').then((module) => ({ default: module.Find })));

/** A lesson open on the bench: rail, header, the station's work, the ribbon below, what to know beside. */
export default function Workbench() {
  const { id = '' } = useParams();
  const [session, fault] = useOpenLesson(id);
  const view = useViewState();
  if (fault) throw fault;
  if (!session) return <p className="opening quiet">{words.lesson.loading}</p>;
  return (
    <SessionContext.Provider value={session}>
      <RefusalContext.Provider value={session}>
        <ViewContext.Provider value={view}>
          <WorkedOut />
        </ViewContext.Provider>
      </RefusalContext.Provider>
    </SessionContext.Provider>
  );
}

/** Separates what follows the plan from what follows every change. */
function WorkedOut() {
  return (
    <WorkedOutContext.Provider value={useTriedOut(useWorkingOut())}>
      <Bench />
    </WorkedOutContext.Provider>
  );
}

function Bench() {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const view = useView();
  const session = useSession();
  const [showKeys, setShowKeys] = useState(false);
  const [isFinding, setFinding] = useState(false);
  const [isLooking, setLooking] = useState(false);
  const [isTourSeen, setTourSeen] = useRemembered('viaticum-tour-seen', false);
  const [isBesideOpen, setBesideOpen] = useRemembered('viaticum-beside', false);
  const [, , , station = '', topic = ''] = useLocation().pathname.split('/');
  const ribbon = useRibbonHeight(station, topic);
  useKeys({
    showKeys: () => setShowKeys(true),
    find: () => setFinding(true),
    worthKnowing: () => setBesideOpen(!isBesideOpen),
    ribbon: ribbon.next,
  });
  return (
    <div className={css.workbench}>
      <Header />
      <Banners />
      <Rail onKeys={() => setShowKeys(true)} onFind={() => setFinding(true)} onVersions={() => setLooking(true)} />
      <main className={css.workbenchStation} id="station">
        <Outlet />
      </main>
      {ribbon.height && (
        <div className={clsx('print-else', ribbonCss.workbenchRibbon)}>
          <Ribbon
            lesson={lesson}
            plan={plan}
            minute={view.zoom < 0 ? view.minute : Math.min(view.minute, plan.plan.endMin)}
            onMinute={view.setMinute}
            selectedStep={view.stepId}
            onStep={view.selectStep}
            zoom={view.zoom}
            onZoom={view.setZoom}
            withChain={view.chain}
            onChain={() => view.toggle('chain')}
            onDrag={view.setDrag}
            onPin={(id, startMin) => {
              view.selectStep(id);
              session.do('pinAt', { id, startMin, to: placeAt(plan, id, startMin) });
            }}
            height={ribbon.height}
            onHeight={ribbon.set}
          />
        </div>
      )}
      <Beside isOpen={isBesideOpen} onOpen={setBesideOpen} />
      {!isTourSeen && (
        <Suspense fallback={null}>
          <FirstTour onEnd={() => setTourSeen(true)} />
        </Suspense>
      )}
      {showKeys && (
        <Suspense fallback={null}>
          <KeyList onClose={() => setShowKeys(false)} />
        </Suspense>
      )}
      {isLooking && (
        <Suspense fallback={null}>
          <Versions onClose={() => setLooking(false)} />
        </Suspense>
      )}
      {isFinding && (
        <Suspense fallback={null}>
          <Find onClose={() => setFinding(false)} />
        </Suspense>
      )}
    </div>
  );
}

function useOpenLesson(id: string): [LessonSession | null, Error | null] {
  const [session, setSession] = useState<LessonSession | null>(null);
  const [fault, setFault] = useState<Error | null>(null);
  const client = useQueryClient();
  useEffect(() => {
    let gone = false;
    let opened: LessonSession | null = null;
    readLesson(id)
      .then(async (answer: LessonAnswer) => {
        const isLesson = await lessonCheck(id);
        if (gone) return;
        opened = lessonSession(answer, isLesson);
        setSession(opened);
      })
      .catch((error: Error) => !gone && setFault(error));
    const leaving = () => opened?.flush();
    window.addEventListener('pagehide', leaving);
    return () => {
      gone = true;
      window.removeEventListener('pagehide', leaving);
      opened?.close();
      void client.invalidateQueries({ queryKey: ['lessons'] });
    };
  }, [id, client]);
  return [session, fault];
}

function useViewState(): View {
  const [minute, setMinute] = useState(0);
  const [stepId, selectStep] = useState<string | null>(null);
  const [areaId, selectArea] = useState<string | null>(null);
  const [on, setOn] = useState({ squint: false, outlines: true, chain: false });
  const [zoom, setZoom] = useState(0);
  const [whatIf, setWhatIf] = useState<View['whatIf']>(null);
  const [drag, setDrag] = useState<View['drag']>(null);
  const [seen, setSeen] = useState<View['seen']>([]);
  return useMemo(
    () => ({
      minute,
      setMinute,
      stepId,
      selectStep,
      areaId,
      selectArea,
      ...on,
      toggle: (what) => setOn((was) => ({ ...was, [what]: !was[what] })),
      zoom,
      setZoom,
      whatIf,
      setWhatIf,
      drag,
      setDrag,
      seen,
      setSeen,
    }),
    [minute, stepId, areaId, on, zoom, whatIf, drag, seen],
  );
}
