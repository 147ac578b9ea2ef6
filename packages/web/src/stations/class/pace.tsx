import { useQuery } from '@tanstack/react-query';
import type { Level } from '@viaticum/contract';
import type { Group } from '@viaticum/core/pace';
import { minutesInWords } from '@viaticum/core/units';
import { Checkbox } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { Bar, BarChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { peopleQuery } from '../../api/class-queries.js';
import { usePlan, useWorkedOut } from '../../lesson/context.js';
import { Choice } from '../../ui/choice.js';
import { Fold } from '../../ui/fold.js';
import { NumberField } from '../../ui/number-field.js';
import { TurnField } from '../../ui/turn-field.js';
import { paceWords as w } from '../../words/class.js';
import { deskWords } from '../../words/desk.js';
import type { PaceAnswer, PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
import classCss from './class.module.css';
import css from './pace.module.css';

const RUNS = 10_000;
const overs = [null, 0, 2, 5, 10] as const;

/** Will this group finish: the class played before it is held, where it is held up, and what would help. */
export function Pace() {
  const lesson = useWorkedOut();
  const { plan } = usePlan();
  const worker = useWorker(planWorker);
  const [group, setGroup] = useState<Group>({
    n: Math.min(lesson.room.seats ?? 12, 30),
    level: lesson.level,
    q: 0.9,
    overMin: 5,
    slotMin: lesson.wantedMin ?? Math.ceil(plan.endMin / 30) * 30,
  });
  const set = (change: Partial<Group>) => {
    setGroup({ ...group, ...change });
    return true;
  };
  // Words and marks do not change how long the class takes.
  const args = useMemo(() => (lesson.steps.length === 0 ? null : { lesson, group, runs: RUNS }), [lesson, group]);
  const { answer, progress, fault } = useJobOf<PlanJobs, 'pace'>(worker, 'pace', args, { afterMs: 300 });
  if (lesson.steps.length === 0) return <p className="quiet">{w.needSteps}</p>;
  return (
    <section className={classCss.pace} aria-label={w.title}>
      <h2>{w.title}</h2>
      <div className={classCss.paceGroup}>
        <span className="small number-said">
          {w.students}{' '}
          <NumberField label={w.students} value={group.n} onValue={(n) => n >= 1 && n <= 300 && set({ n: Math.round(n) })} />
        </span>
        <Choice
          label={w.level}
          value={group.level}
          options={Object.entries(w.levels)}
          onChange={(level) => set({ level: level as Level })}
        />
        <TurnField
          label={w.gate}
          said={w.gateSaid(group.q)}
          min={0.5}
          max={1}
          step={0.05}
          value={group.q}
          onChange={(given) => set({ q: given })}
        />
        <Choice
          label={w.over}
          value={String(group.overMin)}
          options={overs.map((one) => [String(one), one === null ? w.never : String(one)] as const)}
          onChange={(one) => set({ overMin: one === 'null' ? null : Number(one) })}
        />
        <span className="small number-said">
          {w.slot}{' '}
          <NumberField
            label={w.slot}
            value={group.slotMin}
            onValue={(slotMin) => slotMin > 0 && slotMin <= 2000 && set({ slotMin })}
          />
        </span>
      </div>
      <Returning onFactors={(factors) => set({ factors })} />
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {progress !== null && (
        <p className="small quiet" role="status">
          {w.playing(progress)}
        </p>
      )}
      {answer && <Outcome answer={answer} group={group} />}
      <p className="small quiet">{w.about}</p>
    </section>
  );
}

/** Students who came before, each with the pace that their classes showed. */
function Returning({ onFactors }: { onFactors: (factors: number[]) => void }) {
  const { data } = useQuery(peopleQuery);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const known = (data ?? []).filter((person) => person.pace !== null);
  if (known.length === 0) return null;
  const choose = (ids: readonly string[]) => {
    setChosen(ids);
    onFactors(known.filter((person) => ids.includes(person.id)).map((person) => person.pace as number));
  };
  return (
    <Fold className={clsx('small', css.paceReturning)} head={w.returning(chosen.length)}>
      <p className="quiet">{w.returningAbout}</p>
      {known.map((person) => (
        <Checkbox
          key={person.id}
          checked={chosen.includes(person.id)}
          onChange={(event) => choose(event.target.checked ? [...chosen, person.id] : chosen.filter((id) => id !== person.id))}
        >
          {person.firstName}
          {deskWords.student.pace(person.pace)}
        </Checkbox>
      ))}
    </Fold>
  );
}

function Outcome({ answer: { result, bins, helps }, group }: { answer: PaceAnswer; group: Group }) {
  const lesson = useWorkedOut();
  const titleOf = (id: string | null) => lesson.steps.find((step) => step.id === id)?.title ?? '';
  const { endMin, finishInSlot, perStep, bottlenecks } = result;
  const longest = [...perStep].sort((a, b) => b.waitMin - a.waitMin)[0];
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  return (
    <>
      <p className={css.paceChance}>
        <b className="numbers">{w.chance(finishInSlot)}</b> {w.ofFinishing(minutesInWords(group.slotMin))}
      </p>
      <p>{w.ends(minutesInWords(endMin.p05), minutesInWords(endMin.p50), minutesInWords(endMin.p95))}</p>
      <figure className={css.paceChart} aria-label={w.chart}>
        <ResponsiveContainer width="100%" height={150}>
          <BarChart data={bins} margin={{ top: 20, right: 12, bottom: 2, left: 0 }} barCategoryGap={1}>
            <XAxis
              dataKey="fromMin"
              type="number"
              domain={['dataMin', 'dataMax']}
              tickFormatter={(minutes: number) => minutesInWords(minutes)}
              tick={{ fontSize: 12.5 }}
            />
            <YAxis width={38} tickFormatter={(share: number) => percent(share)} tick={{ fontSize: 12.5 }} />
            <Tooltip
              isAnimationActive={false}
              formatter={(share) => [percent(Number(share)), w.share]}
              labelFormatter={(minutes) => minutesInWords(Number(minutes))}
            />
            <Bar dataKey="share" fill="var(--grey-37)" isAnimationActive={false} />
            <ReferenceLine
              x={group.slotMin}
              stroke="var(--signal)"
              strokeWidth={2}
              label={{ value: w.slotLine, position: 'top', fontSize: 12.5, fill: 'var(--signal)' }}
            />
          </BarChart>
        </ResponsiveContainer>
      </figure>
      <h3>{w.holds}</h3>
      {bottlenecks.length === 0 && <p className="small">{w.nothingHolds}</p>}
      <ol className="small">
        {bottlenecks.slice(0, 3).map((id) => {
          const own = perStep.find((step) => step.id === id);
          return <li key={id}>{w.hold(titleOf(id), minutesInWords(own?.overMin ?? 0), percent(own?.lateShare ?? 0))}</li>;
        })}
      </ol>
      {longest && longest.waitMin > 1 && <p className="small">{w.waits(titleOf(longest.id), minutesInWords(longest.waitMin))}</p>}
      <h3>{w.helps}</h3>
      <ol className="small">
        {helps.map(({ kind, savedMin, finishInSlot: chance }) => (
          <li key={kind}>
            {w.help[kind]}: <span className="numbers">{w.saves(savedMin, w.chance(chance))}</span>
          </li>
        ))}
      </ol>
    </>
  );
}
