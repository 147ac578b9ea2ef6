import { useQuery } from '@tanstack/react-query';
import type { Level } from '@viaticum/contract';
import { bookedMin, type Group, type TwoSpeeds } from '@viaticum/core/pace';
import { listInWords, minutesInWords } from '@viaticum/core/units';
import { Checkbox, Table } from 'antd';
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
const MOST_HELPS = 6;
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
        <span className="small number-said">
          {w.assistants}{' '}
          <NumberField
            label={w.assistants}
            value={group.assistants ?? 0}
            onValue={(count) => count >= 0 && count <= 20 && set({ assistants: Math.round(count) })}
          />
        </span>
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

function Outcome({ answer, group }: { answer: PaceAnswer; group: Group }) {
  const { result, bins, helps, tooShort, planMin, twoSpeeds } = answer;
  const lesson = useWorkedOut();
  const titleOf = (id: string) => lesson.steps.find((step) => step.id === id)?.title ?? '';
  const titles = (ids: readonly string[]) => listInWords(ids.map(titleOf));
  const { endMin, classMin, classInSlot, perStep, bottlenecks, hands } = result;
  const longest = [...perStep].sort((a, b) => b.waitMin - a.waitMin)[0];
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  return (
    <>
      {tooShort && (
        <p className={css.paceShort} role="alert">
          {w.tooShort(minutesInWords(planMin), minutesInWords(group.slotMin), minutesInWords(tooShort.shortMin))}{' '}
          {tooShort.leaveOut.length > 0 && w.makesFit(titles(tooShort.leaveOut), tooShort.fitsAfter)}
        </p>
      )}
      <p className={css.paceChance}>
        <b className="numbers">{w.chance(classInSlot)}</b> {w.ofFinishing(minutesInWords(group.slotMin))}
      </p>
      <p>{w.ends(minutesInWords(classMin.p50), minutesInWords(classMin.p90), minutesInWords(endMin.p90))}</p>
      <p className="small">{w.book(minutesInWords(bookedMin(classMin.p90)))}</p>
      <figure className={css.paceChart} aria-label={w.chart}>
        <ResponsiveContainer width="100%" height={150}>
          <BarChart data={bins} margin={{ top: 20, right: 12, bottom: 2, left: 0 }} barCategoryGap={1}>
            <XAxis
              dataKey="fromMin"
              type="number"
              domain={[(first: number) => Math.min(first, group.slotMin), (last: number) => Math.max(last, group.slotMin)]}
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
      {hands.waitedMin >= 1 && (
        <p className="small">
          {w.hands(minutesInWords(hands.helpedMin), minutesInWords(hands.waitedMin), group.assistants ?? 0)}
        </p>
      )}
      <h3>{w.helps}</h3>
      {helps.length === 0 && <p className="small">{w.nothingHelps}</p>}
      <ol className="small">
        {helps.slice(0, MOST_HELPS).map(({ kind, stepIds, savedMin, classInSlot: chance }) => (
          <li key={`${kind} ${stepIds.join(' ')}`}>
            {w.help[kind](titles(stepIds))}:{' '}
            <span className="numbers">
              {w.saves(minutesInWords(savedMin), chance > classInSlot + 0.01 ? w.chance(chance) : null)}
            </span>
          </li>
        ))}
      </ol>
      {twoSpeeds && <InTwoSpeeds two={twoSpeeds} titles={titles} titleOf={titleOf} />}
    </>
  );
}

/** The class as two groups that meet at every pause: what each needs, and what the slower one leaves out. */
type TwoSpeedsProps = { two: TwoSpeeds; titles: (ids: readonly string[]) => string; titleOf: (id: string) => string };
function InTwoSpeeds({ two, titles, titleOf }: TwoSpeedsProps) {
  const { quick, slow, leftOut, stretches } = two;
  return (
    <Fold className="small" head={w.twoSpeeds}>
      <p>
        {w.twoSpeedsEnd(quick.n, minutesInWords(quick.endMin), slow.n, minutesInWords(slow.wholeMin))}{' '}
        {leftOut.length > 0 && w.twoSpeedsLeft(titles(leftOut), minutesInWords(slow.endMin))}
      </p>
      <Table
        size="small"
        pagination={false}
        rowKey={(one) => one.stepIds.join(' ')}
        dataSource={stretches}
        columns={[
          { title: w.stretch, render: (_, one) => w.fromTo(titleOf(one.stepIds[0] ?? ''), titleOf(one.stepIds.at(-1) ?? '')) },
          { title: w.quickHalf(quick.n), className: 'numbers', render: (_, one) => minutesInWords(one.quickMin) },
          {
            title: w.slowHalf(slow.n),
            className: 'numbers',
            render: (_, one) => (
              <>
                {minutesInWords(one.slowMin)}
                {one.leftOut.length > 0 && <div className="quiet">{w.without(titles(one.leftOut))}</div>}
              </>
            ),
          },
        ]}
      />
    </Fold>
  );
}
