import type { Kept, Lesson } from '@viaticum/contract';
import { type ReadySchool, readySchools, schoolOf, usualMin } from '@viaticum/core/draft';
import { InputNumber, Select } from 'antd';
import { beginWords as w } from '../words/begin.js';
import { draftWords } from '../words/school.js';
import css from './begin.module.css';

const OWN = 'own';
const READY = Object.keys(readySchools) as ReadySchool[];
type OwnMethod = Extract<Kept, { kind: 'method' }>;
/** For whom, for how long, and by which school; `school` names a ready one or a method of one's own. */
export type Decided = { school: string; level: Lesson['level']; wantedMin: number | null };
export const usual: Decided = { school: 'layers', level: 'beginner', wantedMin: null };

/** The choices of a ready school, or an own method with its rules. */
export function chosenSchool(school: string, methods: readonly OwnMethod[]): Pick<Lesson, 'school' | 'method'> {
  const own = methods.find((one) => school === `${OWN}:${one.name}`);
  return own ? { school: own.school, method: own.method } : { school: schoolOf(school as ReadySchool) };
}

export function Decisions({
  decided: { school, level, wantedMin },
  methods,
  onDecide,
}: {
  decided: Decided;
  methods: readonly OwnMethod[];
  onDecide: (next: Partial<Decided>) => void;
}) {
  return (
    <div className={css.decisions}>
      <div className="field">
        <span>{w.level}</span>
        <Select
          aria-label={w.level}
          value={level}
          onChange={(given) => onDecide({ level: given })}
          options={Object.entries(draftWords.levels).map(([one, name]) => ({ value: one as Lesson['level'], label: name }))}
        />
      </div>
      <div className="field">
        <span>{w.wanted}</span>
        <InputNumber
          aria-label={w.wanted}
          min={10}
          max={10_000}
          controls={false}
          suffix={w.minutes}
          placeholder={String(usualMin[level])}
          value={wantedMin}
          onChange={(given) => onDecide({ wantedMin: given })}
        />
      </div>
      <div className={`field ${css.wide}`}>
        <span>{w.school}</span>
        <Select
          aria-label={w.school}
          value={school}
          onChange={(given) => onDecide({ school: given })}
          options={[
            ...READY.map((one) => ({ value: one as string, label: w.schools[one].name })),
            ...methods.map((one) => ({ value: `${OWN}:${one.name}`, label: w.ownMethod(one.name) })),
          ]}
        />
      </div>
      {READY.includes(school as ReadySchool) && (
        <p className={`quiet small ${css.wide}`}>{w.schools[school as ReadySchool].why}</p>
      )}
    </div>
  );
}
