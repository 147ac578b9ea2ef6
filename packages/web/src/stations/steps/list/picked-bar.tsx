import { nanoid } from 'nanoid';
import { type FormEvent, useState } from 'react';
import { useKeep } from '../../../api/queries.js';
import { useLesson, useSession } from '../../../lesson/context.js';
import { listWords as w } from '../../../words/steps.js';

/** What can be done with several steps at once. */
export function PickedBar({ ids, onNone }: { ids: string[]; onNone: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const keep = useKeep();
  const [isKeeping, setKeeping] = useState(false);
  const [name, setName] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const steps = lesson.steps.filter((step) => ids.includes(step.id));
    keep.mutate({ kind: 'steps', name: name.trim(), steps }, { onSuccess: () => setKeeping(false) });
  };
  return (
    <div className="picked-bar" role="toolbar" aria-label={w.picked(ids.length)}>
      <b>{w.picked(ids.length)}</b>
      <button type="button" className="key" onClick={() => session.do('joinSteps', { ids }) && onNone()}>
        {w.join}
      </button>
      <button type="button" className="key" onClick={() => session.do('copySteps', { ids, newIds: ids.map(() => nanoid(8)) })}>
        {w.double}
      </button>
      <button type="button" className="key" onClick={() => session.do('moveSteps', { ids, by: -1 })}>
        {w.earlier}
      </button>
      <button type="button" className="key" onClick={() => session.do('moveSteps', { ids, by: 1 })}>
        {w.later}
      </button>
      <button type="button" className="key" onClick={() => session.do('leaveOut', { ids }) && onNone()}>
        {w.remove}
      </button>
      <button type="button" className="key" aria-expanded={isKeeping} onClick={() => setKeeping(!isKeeping)}>
        {w.keep}
      </button>
      <button type="button" className="key bare" onClick={onNone}>
        {w.none}
      </button>
      {isKeeping && (
        <form onSubmit={submit}>
          <input
            className="plain-input"
            value={name}
            onChange={(event) => setName(event.target.value)}
            aria-label={w.keepName}
            placeholder={w.keepName}
            maxLength={120}
            required
          />
          <button type="submit" className="key main">
            {w.keep}
          </button>
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
