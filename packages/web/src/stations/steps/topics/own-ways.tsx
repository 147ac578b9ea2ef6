import { type Lesson, type OwnChoices, ownChoices } from '@viaticum/contract';
import { Button, Select } from 'antd';
import { useState } from 'react';
import { useSession } from '../../../lesson/context.js';
import { schoolWords, ownWayWords as w } from '../../../words/school.js';
import stepsCss from '../steps.module.css';

const AS_LESSON = 'as-lesson';

/** Areas that are painted in a way of their own: a wet sky and a layered animal in one lesson. */
export function OwnWays({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const [adding, setAdding] = useState<string | null>(null);
  const shown = lesson.areas.filter((area) => area.ownWay || area.id === adding);
  const others = lesson.areas.filter((area) => !shown.includes(area));
  const set = (id: string, was: OwnChoices | undefined, choice: keyof OwnChoices, given: string) => {
    const { [choice]: _, ...rest } = was ?? {};
    const next = given === AS_LESSON ? rest : { ...rest, [choice]: given };
    session.do('setOwnWay', { ids: [id], ownWay: Object.keys(next).length > 0 ? (next as OwnChoices) : null });
  };
  return (
    <section aria-label={w.title}>
      <h3>{w.title}</h3>
      {shown.map((area) => (
        <section key={area.id} aria-label={area.name}>
          <h4>
            {area.name}{' '}
            <Button
              type="text"
              size="small"
              onClick={() => {
                setAdding(null);
                if (area.ownWay) session.do('setOwnWay', { ids: [area.id], ownWay: null });
              }}
            >
              {w.asLesson}
            </Button>
          </h4>
          <div className={stepsCss.draftSchool}>
            {ownChoices.map((choice) => (
              <div key={choice} className="field">
                <span>{schoolWords[choice].ask}</span>
                <Select
                  aria-label={w.choiceOf(schoolWords[choice].ask, area.name)}
                  value={area.ownWay?.[choice] ?? AS_LESSON}
                  onChange={(given) => set(area.id, area.ownWay, choice, given)}
                  options={[
                    {
                      value: AS_LESSON,
                      label: w.like((schoolWords[choice].options as Record<string, string>)[lesson.school[choice]] ?? ''),
                    },
                    ...Object.entries(schoolWords[choice].options)
                      .filter(([option]) => option !== lesson.school[choice])
                      .map(([option, label]) => ({ value: option, label })),
                  ]}
                />
              </div>
            ))}
          </div>
        </section>
      ))}
      {others.length > 0 && (
        <Select
          aria-label={w.add}
          placeholder={w.add}
          value={null}
          onChange={(id: string | null) => setAdding(id)}
          options={others.map((area) => ({ value: area.id, label: area.name }))}
        />
      )}
    </section>
  );
}
