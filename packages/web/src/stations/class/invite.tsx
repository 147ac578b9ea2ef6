import { brushInWords, brushOf } from '@viaticum/core/brush';
import { shortTubeName } from '@viaticum/core/lesson';
import { sizeInWords } from '@viaticum/core/units';
import { useState } from 'react';
import { useLesson, usePlan, useSession } from '../../lesson/context.js';
import { saveFile } from '../../ui/save-file.js';
import { inviteWords as w } from '../../words-class.js';

/** A date for the class, as a file for calendars, with what to bring. */
export function Invite() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const { id } = useSession();
  const [when, setWhen] = useState('');
  const [place, setPlace] = useState(lesson.room.name);
  const [fault, setFault] = useState<string | null>(null);
  const { widthMm, heightMm } = lesson.support;
  const brushes = [...new Set(lesson.steps.flatMap((step) => brushOf(step.brushId) ?? []))];
  const bring = w.bring(
    sizeInWords(widthMm, heightMm, lesson.units),
    lesson.tubes.filter((tube) => tube.students !== false).map(shortTubeName),
    brushes.map((brush) => brushInWords(brush)),
  );
  const save = async () => {
    const startMs = new Date(when).getTime();
    if (!Number.isFinite(startMs)) return setFault(w.needWhen);
    setFault(null);
    const { toIcs } = await import('@viaticum/core/format');
    const minutes = Math.max(5, Math.ceil(plan.endMin / 5) * 5);
    const entry = {
      id: `${id}-${when.replace(/\D/g, '')}`,
      title: lesson.title,
      startMs,
      endMs: startMs + minutes * 60_000,
      place,
      words: bring,
    };
    saveFile(`${lesson.title}.ics`, new Blob([toIcs(lesson.title, [entry], Date.now())], { type: 'text/calendar' }));
  };
  return (
    <section className="invite" aria-label={w.title}>
      <h2>{w.title}</h2>
      <div className="pace-group">
        <label className="field">
          <span>{w.when}</span>
          <input type="datetime-local" value={when} onChange={(event) => setWhen(event.target.value)} />
        </label>
        <label className="field">
          <span>{w.place}</span>
          <input value={place} maxLength={120} onChange={(event) => setPlace(event.target.value)} />
        </label>
      </div>
      <p className="small quiet invite-bring">{bring}</p>
      <button type="button" className="key" onClick={() => void save()}>
        {w.save}
      </button>
      {fault && (
        <p className="signal small" role="alert">
          {fault}
        </p>
      )}
    </section>
  );
}
