import { findings, type ShownFinding } from '@viaticum/core/check';
import type { CommandArgs, CommandName } from '@viaticum/core/document';
import { type FormEvent, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { words } from '../words/words.js';
import { usePlan, useSession, useView, useWorkedOut } from './context.js';

/** What to know about this lesson: findings as sentences, with their reason, a fix, and setting aside with a word why. */
export function Beside({ onKeys, onFind }: { onKeys: () => void; onFind: () => void }) {
  const lesson = useWorkedOut();
  const { id } = useParams();
  const plan = usePlan();
  // The light moves far more often than the lesson changes.
  const found = useMemo(() => findings(lesson, plan), [lesson, plan]);
  return (
    <aside className="beside" aria-label={words.lesson.beside}>
      <h2>{words.lesson.beside}</h2>
      {found.length === 0 && <p className="quiet">{words.lesson.nothing}</p>}
      <ul>
        {found.map((finding) => (
          <Finding key={finding.id} finding={finding} />
        ))}
      </ul>
      <p className="beside-keys">
        <button type="button" className="key bare small" onClick={onFind} aria-keyshortcuts="/">
          {words.lesson.find}
        </button>
        <Link to={`/lesson/${id}/read`} className="key bare small">
          {words.lesson.read}
        </Link>
        <button type="button" className="key bare small" onClick={onKeys} aria-keyshortcuts="?">
          {words.lesson.keys}
        </button>
      </p>
    </aside>
  );
}

function Finding({ finding }: { finding: ShownFinding }) {
  const session = useSession();
  const view = useView();
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState('');
  const isAside = finding.setAside !== undefined;
  const { stepId, areaId } = finding.place;
  const isShown = (stepId === undefined || stepId === view.stepId) && (areaId === undefined || areaId === view.areaId);
  const show = () => {
    if (stepId) view.selectStep(stepId);
    if (areaId) view.selectArea(areaId);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    session.do('setAside', { finding: finding.id, why: why.trim() || '…' });
  };
  return (
    <li
      className={`finding${finding.serious && !isAside ? ' serious' : ''}${isAside ? ' aside' : ''}`}
      // Only where the pointer comes to read: not when the list changes beneath it, nor while something is dragged over.
      onPointerMove={(event) => event.buttons === 0 && (event.movementX !== 0 || event.movementY !== 0) && !isShown && show()}
      onFocus={show}
    >
      <h3>{finding.about}</h3>
      <p>{finding.words}</p>
      <p className="quiet small">{isAside ? words.lesson.asideBecause(finding.setAside as string) : finding.reason}</p>
      {asking && !isAside ? (
        <form onSubmit={submit} className="finding-why">
          <input
            className="plain-input"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
            placeholder={words.lesson.setAsideWhy}
            aria-label={words.lesson.setAsideWhy}
            maxLength={300}
            required
          />
          <button type="submit" className="key">
            {words.lesson.setAside}
          </button>
        </form>
      ) : (
        <p className="finding-keys">
          {finding.fix && !isAside && (
            <button
              type="button"
              className="key"
              onClick={() =>
                finding.fix && session.do(finding.fix.command as CommandName, finding.fix.args as CommandArgs<CommandName>)
              }
            >
              {finding.fix.words}
            </button>
          )}
          <button
            type="button"
            className="key bare small"
            onClick={() => (isAside ? session.do('setAside', { finding: finding.id, why: null }) : setAsking(true))}
          >
            {isAside ? words.lesson.takeUp : words.lesson.setAside}
          </button>
        </p>
      )}
    </li>
  );
}
