import type { Lesson, Tube } from '@viaticum/contract';
import { metalName, pigmentName, shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { listInWords } from '@viaticum/core/units';
import { cssRgb } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { pigmentOf, pigmentTable } from '@viaticum/kernels/pigment';
import { Button, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { FoundHere } from '../../lesson/found-here.js';
import { words } from '../../words/words.js';
import { mixesWith, TakeOut } from './take-out.js';
import css from './tube-list.module.css';

const w = words.paints;

/** The pigment table, to choose a tube from by its Colour Index name or its customary one. */
export function AddTube() {
  const session = useSession();
  const options = useMemo(
    () =>
      [...pigmentTable.values()].map((pigment) => ({
        value: pigment.id,
        search: `${pigment.id} ${pigment.name} ${pigmentName(pigment.id)}`.toLowerCase(),
        label: (
          <span className={css.tubeOption}>
            <i style={{ background: cssRgb(mixColour([{ pigment: pigment.id, parts: 1 }]).srgb) }} />
            <span>
              {pigmentName(pigment.id)}{' '}
              <span className="quiet small">{pigment.isMixture ? '' : pigment.id.replace(/-.*/, '')}</span>
            </span>
          </span>
        ),
      })),
    [],
  );
  return (
    <Select
      aria-label={w.addTube}
      placeholder={w.addTube}
      value={null}
      options={options}
      showSearch={{ filterOption: (input, option) => option?.search.includes(input.toLowerCase()) ?? false }}
      onChange={(pigment: string) => session.do('addTube', { tube: { id: nanoid(8), pigment, grade: 'artist' } })}
      popupMatchSelectWidth={320}
      style={{ width: '100%' }}
    />
  );
}

/** The lesson's tubes in short. */
export function TubeList({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const [going, setGoing] = useState<Tube | null>(null);
  return (
    <section className={css.tubes} data-testid="tubes">
      <h2>{w.tubes}</h2>
      <AddTube />
      <ul>
        {lesson.tubes.map((tube) => {
          const pigment = pigmentOf(tube.pigment);
          return (
            <li key={tube.id}>
              <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
              <span>
                {shortTubeName(tube)}
                <span className="quiet small">
                  {pigment.isMixture || tube.own ? '' : `${pigment.id.replace(/-.*/, '')}, `}
                  {w.opacity[pigment.opacity]}
                  {pigment.metals.length > 0 && ` · ${w.metals(listInWords(pigment.metals.map(metalName)))}`}
                </span>
                <FoundHere tubeId={tube.id} />
              </span>
              <Button
                type="text"
                size="small"
                aria-label={`${w.takeOut}: ${shortTubeName(tube)}`}
                onClick={() =>
                  mixesWith(lesson, tube.id).length > 0 ? setGoing(tube) : session.do('removeTube', { id: tube.id })
                }
              >
                ×
              </Button>
            </li>
          );
        })}
      </ul>
      {going && <TakeOut lesson={lesson} tube={going} onClose={() => setGoing(null)} />}
    </section>
  );
}
