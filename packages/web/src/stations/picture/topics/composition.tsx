import { findingOfNote, isOrnament, isWorthTelling } from '@viaticum/core/check';
import { visibleOf } from '@viaticum/core/derived';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { useJob } from '../../../lesson/laid.js';
import { Working } from '../../../ui/working.js';
import { words } from '../../../words/words.js';
import { useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import css from './composition.module.css';

const w = words.picture.composition;

/** Measures of the composition as sentences with their reason. */
export function CompositionTopic() {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { unit } = useEasel();
  const [at, setAt] = useState<[number, number] | null>(null);
  const areas = useMemo(
    () =>
      visibleOf(lesson)
        .map((part) => {
          const area = lesson.areas.find((one) => one.id === part.id);
          const thing = lesson.things.find((one) => one.id === area?.thingId);
          return {
            id: part.id,
            name: area?.name ?? '',
            outline: part.outline,
            sheet: area?.outline,
            facing: thing?.facing,
            thingName: thing?.name,
          };
        })
        .filter((area) => area.outline.length > 0),
    [lesson],
  );
  const job = useJob('notes', { areas, subjectId: lesson.subjectAreaId }, 200);
  const { answer, fault } = job;
  const ornament = isOrnament(lesson);
  const notes = (answer ?? [])
    .map((note) => {
      const finding = findingOfNote(note);
      const isMeant = finding !== null && lesson.setAside.some((one) => one.finding === finding);
      return { ...note, finding, isMeant, worth: isWorthTelling(lesson, note) && !isMeant };
    })
    .sort((a, b) => Number(b.worth) - Number(a.worth));
  return (
    <>
      <div className="field">
        <span>{w.subject}</span>
        <Select
          aria-label={w.subject}
          value={lesson.subjectAreaId ?? ''}
          onChange={(given) => session.do('setSubject', { id: given || null })}
          options={[{ value: '', label: w.noSubject }, ...lesson.areas.map((area) => ({ value: area.id, label: area.name }))]}
        />
      </div>
      {fault && <p className="signal">{fault}</p>}
      {!answer && !fault && <Working said={words.picture.measuring} job={job} />}
      <ul className={css.notes} data-testid="notes">
        {notes.map((note, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: several notes of a kind stand in the order they were found
          <li key={`${note.kind}${i}`} className={clsx(note.worth && css.worth)}>
            <Button
              type="text"
              className={clsx('plain', css.note)}
              onPointerEnter={() => {
                setAt(note.at ?? null);
                if (note.areaIds[0]) view.selectArea(note.areaIds[0]);
              }}
              onFocus={() => {
                setAt(note.at ?? null);
                if (note.areaIds[0]) view.selectArea(note.areaIds[0]);
              }}
              onPointerLeave={() => setAt(null)}
            >
              <span>{note.text}</span>
              <span className="quiet small">{note.reason}</span>
            </Button>
            {note.finding !== null && (note.worth || note.isMeant) && (
              <Button
                size="small"
                type="text"
                className={css.meant}
                aria-label={`${note.isMeant ? w.notMeant : w.meant}: ${note.text}`}
                onClick={() => session.do('setAside', { finding: note.finding as string, why: note.isMeant ? null : w.meant })}
              >
                {note.isMeant ? w.notMeant : w.meant}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p className="quiet small">{ornament ? w.ornament : w.practice}</p>
      {at && (
        <OnCanvas>
          <g pointerEvents="none" fill="none">
            <circle cx={at[0]} cy={at[1]} r={unit * 13} stroke="var(--white)" strokeWidth={unit * 4} />
            <circle cx={at[0]} cy={at[1]} r={unit * 13} stroke="var(--grey-12)" strokeWidth={unit * 1.8} />
          </g>
        </OnCanvas>
      )}
    </>
  );
}
