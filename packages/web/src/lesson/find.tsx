import { type FoundKind, type FoundThing, findInLesson } from '@viaticum/core/derived';
import { Button, Input } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { Dialog } from '../ui/dialog.js';
import { findWords as w } from '../words/steps.js';
import { useLesson, usePlan, useView } from './context.js';
import css from './find.module.css';

const stationOf: Record<FoundKind, string> = {
  stage: 'steps',
  step: 'steps',
  sample: 'steps',
  mark: 'steps',
  area: 'picture',
  thing: 'picture',
  mix: 'paints',
  tube: 'paints',
};

/** Looks through the whole lesson; what is chosen is shown at its station. */
export function Find({ onClose }: { onClose: () => void }) {
  const lesson = useLesson();
  const { plan } = usePlan();
  const view = useView();
  const navigate = useNavigate();
  const { id } = useParams();
  const [sought, setSought] = useState('');
  const found = findInLesson(lesson, sought);
  const go = (thing: FoundThing) => {
    const step = lesson.steps.find((one) => one.id === thing.id || (thing.kind === 'stage' && one.stageId === thing.id));
    if (step) {
      view.selectStep(step.id);
      const item = plan.items.find((one) => one.stepId === step.id);
      if (item) view.setMinute(item.endMin);
    }
    const area = lesson.areas.find((one) => one.id === thing.id || (thing.kind === 'thing' && one.thingId === thing.id));
    if (area) view.selectArea(area.id);
    void navigate(`/lesson/${id}/${stationOf[thing.kind]}`);
    onClose();
  };
  return (
    <Dialog title={w.title} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (found[0]) go(found[0]);
        }}
      >
        <label className="field">
          <span>{w.field}</span>
          <Input type="search" autoFocus value={sought} onChange={(event) => setSought(event.target.value)} />
        </label>
      </form>
      {sought.trim() !== '' && found.length === 0 && <p className="quiet">{w.nothing}</p>}
      <ul className={css.findList} data-testid="find-list" aria-live="polite">
        {found.map((thing) => (
          <li key={`${thing.kind}${thing.id}`}>
            <Button type="text" className="plain" onClick={() => go(thing)}>
              <span className="quiet small">{w.kinds[thing.kind]}</span> <b>{thing.name}</b>
              {thing.excerpt && <span className={clsx('quiet small', css.findExcerpt)}>{thing.excerpt}</span>}
            </Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
