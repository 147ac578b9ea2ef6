import { useQuery } from '@tanstack/react-query';
import { type Lesson, type Method, type Technique, techniques } from '@viaticum/contract';
import { Button, Input, Select } from 'antd';
import { type FormEvent, useState } from 'react';
import { keptQuery, useKeep } from '../../../api/queries.js';
import { useLesson, useSession } from '../../../lesson/context.js';
import { NumberField } from '../../../ui/number-field.js';
import { RichInput } from '../../../ui/rich-input.js';
import { draftWords as d } from '../../../words/school.js';
import { words } from '../../../words/words.js';
import stepsCss from '../steps.module.css';
import css from './own-method.module.css';

const w = d.method;
const NONE = '';

/** An instructor's own rules for drafts, beside the school: kept under a name for other lessons, or taken from there. */
export function OwnMethod() {
  const lesson = useLesson();
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState(lesson.method?.name ?? '');
  return (
    <section aria-label={w.title} className={css.ownMethod}>
      <p>
        <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {w.title}
          {lesson.method ? `: ${lesson.method.name}` : ''}
        </Button>
      </p>
      {isOpen && (
        <>
          <p className="quiet small">{w.about}</p>
          <Rules onName={setName} />
          <KeepMethod name={name} onName={setName} />
        </>
      )}
    </section>
  );
}

/** The method of this lesson, or one that has no rule yet. */
const methodOf = (lesson: Lesson): Method => lesson.method ?? { name: w.unnamed };

/** The rules one by one, or those of a method that is kept. */
function Rules({ onName }: { onName: (name: string) => void }) {
  const lesson = useLesson();
  const session = useSession();
  const { data: kept } = useQuery(keptQuery);
  const method = methodOf(lesson);
  const methods = (kept ?? []).flatMap((one) => (one.kept.kind === 'method' ? [one.kept] : []));
  const set = (change: Partial<Method>) => session.do('setMethod', { method: { ...method, ...change } });
  const clear = (field: keyof Method) => {
    const { [field]: _, ...rest } = method;
    return session.do('setMethod', { method: rest as Method });
  };
  const take = (chosen: string) => {
    const own = methods.find((one) => one.name === chosen);
    if (!own) session.do('setMethod', { method: null });
    else {
      session.doAll([
        ['setSchool', { school: own.school }],
        ['setMethod', { method: own.method }],
      ]);
      onName(own.name);
    }
  };
  const number = (field: 'coats' | 'breakEveryMin', label: string, otherwise: number, round = 1) => (
    <span className="field">
      <span>{label}</span>
      <NumberField
        label={label}
        value={method[field] ?? otherwise}
        onValue={(value) => set({ [field]: Math.max(1, Math.round(value / round) * round) })}
      />
    </span>
  );
  const later = method.laterTechnique;
  const says = (technique: Technique) => method.says?.find((one) => one.technique === technique)?.say ?? '';
  const say = (technique: Technique, text: string) => {
    const others = (method.says ?? []).filter((one) => one.technique !== technique);
    set({ says: text.trim() === '' ? others : [...others, { technique, say: text }] });
  };
  return (
    <>
      <div className={stepsCss.markFields}>
        <div className="field">
          <span>{w.kept}</span>
          <Select
            aria-label={w.kept}
            value={methods.some((one) => one.name === lesson.method?.name) ? lesson.method?.name : NONE}
            onChange={(given) => take(given)}
            options={[{ value: NONE, label: w.none }, ...methods.map((one) => ({ value: one.name, label: one.name }))]}
          />
        </div>
        {number('coats', w.coats, 3)}
        {number('breakEveryMin', w.breakEvery, 60, 5)}
        <div className="field">
          <span>{w.later}</span>
          <Select
            aria-label={w.later}
            value={later ?? NONE}
            onChange={(given) => (given === NONE ? clear('laterTechnique') : set({ laterTechnique: given as Technique }))}
            options={[
              { value: NONE, label: w.asSchool },
              ...techniques.map((one) => ({ value: one, label: words.techniques[one] })),
            ]}
          />
        </div>
        <span className="field">
          <span>{w.laterShare}</span>
          <NumberField
            label={w.laterShare}
            value={Math.round((method.laterShare ?? 0.35) * 100)}
            onValue={(value) => value >= 5 && value <= 100 && set({ laterShare: value / 100 })}
          />
        </span>
      </div>
      {(['block-in', 'blend', later ?? 'dry-brush'] as Technique[]).map((technique) => (
        <RichInput
          key={technique}
          label={w.say(words.techniques[technique])}
          value={says(technique)}
          rows={2}
          onCommit={(text) => say(technique, text)}
        />
      ))}
    </>
  );
}

function KeepMethod({ name, onName }: { name: string; onName: (name: string) => void }) {
  const lesson = useLesson();
  const session = useSession();
  const keep = useKeep();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const named = { ...methodOf(lesson), name: name.trim() };
    if (session.do('setMethod', { method: named }))
      keep.mutate({ kind: 'method', name: named.name, school: lesson.school, method: named });
  };
  return (
    <form onSubmit={submit} className={css.ownMethodKeep}>
      <Input
        aria-label={w.name}
        placeholder={w.name}
        value={name}
        onChange={(event) => onName(event.target.value)}
        maxLength={120}
        required
      />
      <Button htmlType="submit">{w.keep}</Button>
      {keep.isSuccess && <span role="status">{w.isKept}</span>}
      {keep.error && (
        <span className="signal" role="alert">
          {keep.error.message}
        </span>
      )}
    </form>
  );
}
