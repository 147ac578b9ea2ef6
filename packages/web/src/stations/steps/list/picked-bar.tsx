import { passageOfSteps } from '@viaticum/core/draft';
import { Button, Input } from 'antd';
import { nanoid } from 'nanoid';
import { type FormEvent, useMemo, useState } from 'react';
import { useKeep } from '../../../api/queries.js';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useSaidChange } from '../../../lesson/use-said-change.js';
import { passageWords, listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import css from './picked-bar.module.css';

/** What can be done with several steps at once. */
export function PickedBar({ ids, onNone }: { ids: string[]; onNone: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const keep = useKeep();
  const say = useSaidChange();
  const [isKeeping, setKeeping] = useState(false);
  const [name, setName] = useState('');
  const passage = useMemo(() => passageOfSteps(lesson, ids, () => nanoid(8)), [lesson, ids]);
  const removeAll = () => {
    if (!session.do('leaveOut', { ids })) return;
    say(words.steps.removedMany(ids.length));
    onNone();
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const steps = lesson.steps.filter((step) => ids.includes(step.id));
    keep.mutate({ kind: 'steps', name: name.trim(), steps }, { onSuccess: () => setKeeping(false) });
  };
  return (
    <div className={css.pickedBar} role="toolbar" aria-label={w.picked(ids.length)}>
      <b>{w.picked(ids.length)}</b>
      <Button onClick={() => session.do('joinSteps', { ids }) && onNone()}>{w.join}</Button>
      {passage && <Button onClick={() => session.do('makePassage', passage) && onNone()}>{passageWords.make}</Button>}
      <Button onClick={() => session.do('copySteps', { ids, newIds: ids.map(() => nanoid(8)) })}>{w.double}</Button>
      <Button onClick={() => session.do('moveSteps', { ids, by: -1 })}>{w.earlier}</Button>
      <Button onClick={() => session.do('moveSteps', { ids, by: 1 })}>{w.later}</Button>
      <Button onClick={() => removeAll()}>{w.remove}</Button>
      <Button aria-expanded={isKeeping} onClick={() => setKeeping(!isKeeping)}>
        {w.keep}
      </Button>
      <Button type="text" onClick={onNone}>
        {w.none}
      </Button>
      {isKeeping && (
        <form onSubmit={submit}>
          <Input
            value={name}
            onChange={(event) => setName(event.target.value)}
            aria-label={w.keepName}
            placeholder={w.keepName}
            maxLength={120}
            required
          />
          <Button type="primary" htmlType="submit">
            {w.keep}
          </Button>
        </form>
      )}
      {keep.isSuccess && !isKeeping && <span role="status">{w.kept(keep.data.kept.name)}</span>}
      {keep.error && (
        <span className="signal" role="alert">
          {keep.error.message}
        </span>
      )}
    </div>
  );
}
