import type { Level } from '@viaticum/contract';
import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useBeginClass } from '../../api/class-queries.js';
import { useLesson, useSession, useSnapshot } from '../../lesson/context.js';
import { Choice } from '../../ui/choice.js';
import { WholeField } from '../../ui/whole-field.js';
import { paceWords, rehearseWords as w } from '../../words/class.js';
import { words } from '../../words/words.js';
import classCss from './class.module.css';

/** A class with simulated students, to practise the desk on. */
export function Rehearse() {
  const lesson = useLesson();
  const { id } = useSession();
  const { save } = useSnapshot();
  const navigate = useNavigate();
  const begin = useBeginClass();
  const [students, setStudents] = useState(Math.min(12, lesson.room.seats ?? 12));
  const [level, setLevel] = useState<Level>(lesson.level);
  const [sensor, setSensor] = useState(true);
  const isReady = save.kind === 'saved' && lesson.steps.length > 0;
  const start = () =>
    begin.mutate(
      { lessonId: id, rehearsal: { students, level, sensor } },
      { onSuccess: (one) => void navigate(`/desk/${one.code}`) },
    );
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <div className={classCss.paceGroup}>
        <WholeField label={w.students} value={students} least={1} most={40} onValue={setStudents} />
        <Choice
          label={w.level}
          value={level}
          options={Object.entries(paceWords.levels)}
          onChange={(one) => setLevel(one as Level)}
        />
      </div>
      <Checkbox className="small" checked={sensor} onChange={(event) => setSensor(event.target.checked)}>
        {' '}
        {w.sensor}
      </Checkbox>
      <Button type="primary" disabled={!isReady || begin.isPending} onClick={start}>
        {w.begin}
      </Button>
      {!isReady && <p className="small quiet">{lesson.steps.length === 0 ? words.class.noSteps : words.class.unsaved}</p>}
      {begin.error && (
        <p className="signal" role="alert">
          {begin.error.message}
        </p>
      )}
    </section>
  );
}
