import type { Lesson } from '@viaticum/contract';
import type { AirMap } from '@viaticum/core/advice';
import { planOf } from '@viaticum/core/plan';
import {
  degreesInWords,
  degreesMeant,
  degreesShown,
  degreesUnit,
  hourMinute,
  minutesInWords,
  timeOfDay,
} from '@viaticum/core/units';
import { Button, InputNumber, Radio, Slider, TimePicker } from 'antd';
import { clsx } from 'clsx';
import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat.js';
import { useMemo, useState } from 'react';
import { useLesson, usePlan, useSession, useView, type WhatIf } from '../../../lesson/context.js';
import { clockFields } from '../../../ui/clock.js';
import { words } from '../../../words/words.js';
import type { PlanJobs } from '../../../workers/plan-jobs.js';
import { planWorker } from '../../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../../workers/use-job.js';
import css from './what-if.module.css';

dayjs.extend(customParseFormat);
const w = words.plan.whatIf;

/** Other air and other students tried out on the ribbon; the map of air; the best start. */
export function WhatIfTopic() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const view = useView();
  const session = useSession();
  const own: WhatIf = {
    airC: lesson.room.airC,
    humidity: lesson.room.humidity,
    airSpeed: lesson.room.airSpeed,
    level: lesson.level,
  };
  const shown = view.whatIf ?? own;
  const set = (change: Partial<WhatIf>) => {
    const next = { ...shown, ...change };
    view.setWhatIf(JSON.stringify(next) === JSON.stringify(own) ? null : next);
  };
  const keep = () => {
    const { level: _, ...air } = shown;
    session.do('setRoom', { room: air });
    view.setWhatIf(null);
  };
  return (
    <div className={css.whatIf}>
      <p className="quiet">{w.about}</p>
      <AirField
        label={w.air}
        value={degreesShown(shown.airC)}
        least={degreesShown(5)}
        most={degreesShown(38)}
        step={1}
        unit={degreesUnit()}
        onValue={(degrees) => set({ airC: degreesMeant(degrees) })}
      />
      <AirField
        label={w.humidity}
        value={Math.round(shown.humidity * 100)}
        least={10}
        most={95}
        step={1}
        unit="%"
        onValue={(percent) => set({ humidity: percent / 100 })}
      />
      <AirField
        label={w.draught}
        value={shown.airSpeed}
        least={0}
        most={2}
        step={0.05}
        unit="m/s"
        onValue={(airSpeed) => set({ airSpeed })}
      />
      <div className={css.levels}>
        <span id="what-if-level">{w.level}</span>
        <Radio.Group
          aria-labelledby="what-if-level"
          value={shown.level}
          options={(Object.keys(w.levels) as Lesson['level'][]).map((level) => ({ value: level, label: w.levels[level] }))}
          onChange={({ target }) => set({ level: target.value as Lesson['level'] })}
        />
      </div>
      <p className={css.whatIfTime} role="status">
        {view.whatIf ? (
          <>
            <span>
              {w.now('')}
              <b className="numbers">{minutesInWords(plan.endMin)}</b> {w.instead(minutesInWords(planOf(lesson).plan.endMin))}
            </span>
            <Button onClick={() => view.setWhatIf(null)}>{w.back}</Button>
            <Button type="text" onClick={keep}>
              {w.keep}
            </Button>
          </>
        ) : (
          <span>
            <b className="numbers">{minutesInWords(plan.endMin)}</b> <span className="quiet">{w.same}</span>
          </span>
        )}
      </p>
      <MapOfAir lesson={lesson} onPick={set} />
      <Start lesson={lesson} />
    </div>
  );
}

function AirField({
  label,
  value,
  least,
  most,
  step,
  unit,
  onValue,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  unit: string;
  onValue: (value: number) => void;
}) {
  return (
    <div className={css.slider}>
      <span>{label}</span>
      <Slider min={least} max={most} step={step} value={value} onChange={onValue} ariaLabelForHandle={label} />
      <InputNumber
        aria-label={`${label}, ${unit}`}
        controls={false}
        min={least}
        max={most}
        step={step}
        suffix={unit}
        value={Math.round(value * 100) / 100}
        onChange={(next) => next !== null && onValue(next)}
      />
    </div>
  );
}

/** How long the lesson takes by temperature and humidity: darker is longer; today's air is framed. */
function MapOfAir({ lesson, onPick }: { lesson: Lesson; onPick: (air: Pick<WhatIf, 'airC' | 'humidity'>) => void }) {
  const worker = useWorker(planWorker);
  const args = useMemo(() => ({ lesson }), [lesson]);
  const { answer } = useJobOf<PlanJobs, 'map'>(worker, 'map', args, { afterMs: 200 });
  return (
    <section aria-label={w.map}>
      <h3>{w.map}</h3>
      <p className="quiet small">{w.mapAbout}</p>
      {answer && <MapTable map={answer} onPick={onPick} />}
    </section>
  );
}

const nearestTo = (values: readonly number[], value: number): number =>
  values.reduce((best, one, i) => (Math.abs(one - value) < Math.abs((values[best] as number) - value) ? i : best), 0);

function MapTable({ map, onPick }: { map: AirMap; onPick: (air: Pick<WhatIf, 'airC' | 'humidity'>) => void }) {
  const all = map.endMin.flat();
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const today = [nearestTo(map.humidity, map.today.humidity), nearestTo(map.airC, map.today.airC)];
  // By logarithm, so that the many dry rooms are told apart too; light enough to be read on.
  const shade = (minutes: number) => 94 - 36 * (Math.log(minutes / least) / Math.max(1e-6, Math.log(most / least)));
  return (
    <table className={css.airMap}>
      <tbody>
        {[...map.endMin.keys()].reverse().map((i) => (
          <tr key={map.humidity[i]}>
            <th className="numbers">{Math.round((map.humidity[i] as number) * 100)} %</th>
            {map.airC.map((airC, k) => {
              const minutes = map.endMin[i]?.[k] as number;
              const light = shade(minutes);
              const isToday = i === today[0] && k === today[1];
              const name = w.mapCell(airC, map.humidity[i] as number, minutesInWords(minutes));
              return (
                <td key={airC}>
                  <Button
                    type="text"
                    className={clsx('plain', isToday ? clsx(css.today, 'numbers') : 'numbers')}
                    style={{ background: `hsl(0 0% ${light}%)` }}
                    aria-label={isToday ? `${name}, ${w.today}` : name}
                    title={name}
                    onClick={() => onPick({ airC, humidity: map.humidity[i] as number })}
                  >
                    {hourMinute(minutes)}
                  </Button>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <th />
          {map.airC.map((airC) => (
            <th key={airC} className="numbers">
              {degreesInWords(airC)}
            </th>
          ))}
        </tr>
      </tfoot>
    </table>
  );
}

function Start({ lesson }: { lesson: Lesson }) {
  const [endBy, setEndBy] = useState('18:00');
  const worker = useWorker(planWorker);
  const [hours, minutes] = endBy.split(':').map(Number);
  const endByMin = (hours ?? 18) * 60 + (minutes ?? 0);
  const args = useMemo(() => (Number.isFinite(endByMin) ? { lesson, endByMin } : null), [lesson, endByMin]);
  const { answer, fault, isDone } = useJobOf<PlanJobs, 'start'>(worker, 'start', args, { afterMs: 250 });
  const longest = Math.max(1, ...(answer?.byStart.map((one) => one.lengthMin) ?? []));
  return (
    <section aria-label={w.start}>
      <h3>{w.start}</h3>
      <div>
        {w.endBy}{' '}
        <TimePicker
          aria-label={w.endBy}
          {...clockFields()}
          minuteStep={5}
          needConfirm={false}
          allowClear={false}
          value={dayjs(endBy, 'HH:mm')}
          onChange={(time) => time && setEndBy(time.format('HH:mm'))}
        />{' '}
        <span role="status">
          {fault ??
            (answer
              ? w.startAt(timeOfDay(answer.startMin), minutesInWords(answer.lengthMin), timeOfDay(answer.endMin))
              : args && isDone && w.noStart)}
        </span>
      </div>
      {lesson.room.hours && answer ? (
        <>
          <p className="quiet small">{w.byHour}</p>
          <ul className={css.byHour} data-testid="by-hour">
            {answer.byStart.map((one) => (
              <li key={one.startMin}>
                <span className="numbers">{timeOfDay(one.startMin)}</span>
                <i style={{ width: `${(60 * one.lengthMin) / longest}%` }} />
                <span className="numbers">{minutesInWords(one.lengthMin)}</span>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p className="quiet small">{w.needHours}</p>
      )}
    </section>
  );
}
