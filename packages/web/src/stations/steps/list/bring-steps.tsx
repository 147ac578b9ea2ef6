import { useQuery } from '@tanstack/react-query';
import type { Step } from '@viaticum/contract';
import { plainWords } from '@viaticum/core/text';
import { Button, Checkbox, Input, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useParams } from 'react-router';
import { keptQuery, lessonQuery, lessonsQuery, useLetGo } from '../../../api/queries.js';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { Dialog } from '../../../ui/dialog.js';
import { listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import css from './bring-steps.module.css';

type Source = { id: string; title: string; steps: Step[]; keptId?: string };

/** Steps that are kept, and those of other lessons, chosen and put in after the step in hand. */
export function BringSteps({ onClose }: { onClose: () => void }) {
  const { id: own } = useParams();
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { data: kept } = useQuery(keptQuery);
  const { data: lessons } = useQuery(lessonsQuery);
  const others = (lessons ?? []).filter(({ id, card }) => id !== own && card.steps > 0);
  const [from, setFrom] = useState<string | null>(null);
  const otherId = from ?? others[0]?.id;
  const { data: other } = useQuery({ ...lessonQuery(otherId ?? ''), enabled: otherId !== undefined });
  const letGo = useLetGo();
  const [sought, setSought] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const sources: Source[] = [
    ...(kept ?? []).flatMap(({ id, kept: one }): Source[] =>
      one.kind === 'steps' ? [{ id, title: `${w.keptSteps}: ${one.name}`, steps: one.steps, keptId: id }] : [],
    ),
    ...(other ? [{ id: other.id, title: w.otherLesson(other.document.title), steps: other.document.steps }] : []),
  ];
  const fits = (step: Step) => plainWords(`${step.title} ${step.say}`).toLowerCase().includes(sought.trim().toLowerCase());
  const shown = sources
    .map((source) => ({ ...source, steps: source.steps.filter(fits) }))
    .filter((source) => source.steps.length > 0);
  const keyOf = (source: Source, step: Step) => `${source.id}/${step.id}`;
  const toggle = (key: string) =>
    setChosen((was) => {
      const next = new Set(was);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  const put = () => {
    const steps = sources.flatMap((source) =>
      source.steps.filter((step) => chosen.has(keyOf(source, step))).map((step): Step => ({ ...step, id: nanoid(8) })),
    );
    const afterId = view.stepId ?? lesson.steps.at(-1)?.id ?? null;
    if (session.do('insertSteps', { steps, afterId })) {
      view.selectStep(steps[0]?.id ?? null);
      onClose();
    }
  };
  return (
    <Dialog title={w.bringTitle} onClose={onClose}>
      <label className="field">
        <span>{w.find}</span>
        <Input type="search" value={sought} onChange={(event) => setSought(event.target.value)} />
      </label>
      {others.length > 1 && (
        <Select
          aria-label={w.fromLesson}
          style={{ width: '100%' }}
          showSearch={{ optionFilterProp: 'label' }}
          {...(otherId && { value: otherId })}
          options={others.map(({ id, title }) => ({ value: id, label: title }))}
          onChange={setFrom}
          getPopupContainer={(trigger) => trigger.parentElement as HTMLElement}
        />
      )}
      <div className={css.bringList} data-testid="bring-list">
        {shown.length === 0 && <p className="quiet">{w.nothing}</p>}
        {shown.map((source) => (
          <fieldset key={source.id}>
            <legend>
              {source.title}{' '}
              {source.keptId && (
                <Button type="text" size="small" onClick={() => letGo.mutate(source.keptId as string)}>
                  {w.letGo}
                </Button>
              )}
            </legend>
            {source.steps.map((step) => (
              <Checkbox key={step.id} checked={chosen.has(keyOf(source, step))} onChange={() => toggle(keyOf(source, step))}>
                {step.title}{' '}
                <span className="quiet small">{step.technique ? words.techniques[step.technique] : words.kinds[step.kind]}</span>
              </Checkbox>
            ))}
          </fieldset>
        ))}
      </div>
      <div className="row">
        <Button type="primary" disabled={chosen.size === 0} onClick={put}>
          {w.put(chosen.size)}
        </Button>
        <Button onClick={onClose}>{w.cancel}</Button>
      </div>
    </Dialog>
  );
}
