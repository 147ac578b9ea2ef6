import { type ClassLog, type HeapLeft, heapsLeft, type LoggedHeap, newStudio } from '@viaticum/contract';
import { kitPaint } from '@viaticum/core/kit';
import { volumeInWords } from '@viaticum/core/units';
import { Button, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { useHeaps } from '../../api/log-queries.js';
import { usePlan, useSession, useWorkedOut } from '../../lesson/context.js';
import { NumberField } from '../../ui/number-field.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';

const w = logWords.heaps;

/** What was left of each mix when the class ended, as a share or weighed: from it comes how much paint is used. */
export function Heaps({ id, log }: { id: string; log: ClassLog }) {
  const lesson = useWorkedOut();
  const { id: lessonId } = useSession();
  const { plan } = usePlan();
  const save = useHeaps();
  const known = log.heaps ?? [];
  const planned = useMemo(
    () =>
      kitPaint(lesson, plan, newStudio).mixes.map(({ premix, volume }) => ({
        mixId: premix.mix.id,
        name: premix.mix.name,
        mixedMl: volume.total * log.students,
        plannedMl: (volume.canvas + volume.brush + volume.kept) * log.students,
      })),
    [lesson, plan, log.students],
  );
  const [given, setGiven] = useState<readonly LoggedHeap[]>(known);
  // Of another lesson its mixes are not known here.
  const rows = log.lessonId === '' || log.lessonId === lessonId ? planned : [];
  if (rows.length === 0) return null;
  const set = (row: (typeof rows)[number], change: Partial<Pick<LoggedHeap, 'left' | 'grams'>>) => {
    const before = given.find((one) => one.mixId === row.mixId) ?? { ...row, left: 'some' as HeapLeft };
    const { grams, ...next } = { ...before, ...change };
    setGiven([...given.filter((one) => one.mixId !== row.mixId), { ...next, ...(grams !== undefined && { grams }) }]);
    return true;
  };
  return (
    <>
      <h3>{w.title}</h3>
      <p className="quiet">{w.about}</p>
      <table className={css.items}>
        <tbody>
          {rows.map((row) => {
            const own = given.find((one) => one.mixId === row.mixId);
            return (
              <tr key={row.mixId}>
                <th scope="row">
                  {row.name} <span className="quiet">{w.mixed(volumeInWords(row.mixedMl))}</span>
                </th>
                <td>
                  <Segmented
                    size="small"
                    aria-label={w.leftOf(row.name)}
                    value={own?.left ?? ''}
                    options={heapsLeft.map((value) => ({ value, label: w.lefts[value] }))}
                    onChange={(left) => set(row, { left: left as HeapLeft })}
                  />
                </td>
                <td>
                  <NumberField
                    label={w.gramsOf(row.name)}
                    unit="g"
                    value={own?.grams}
                    placeholder=""
                    onValue={(grams) => grams >= 0 && set(row, { grams })}
                    onClear={() => {
                      const { grams: _, ...rest } = own ?? { ...row, left: 'some' as HeapLeft };
                      setGiven([...given.filter((one) => one.mixId !== row.mixId), rest]);
                      return true;
                    }}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {save.error && (
        <p className="signal" role="alert">
          {save.error.message}
        </p>
      )}
      <p className={css.keys}>
        <Button
          disabled={given.length === 0 || given === known}
          loading={save.isPending}
          onClick={() => save.mutate({ id, heaps: [...given] })}
        >
          {w.save}
        </Button>
        {save.isSuccess && <span role="status">{w.saved}</span>}
      </p>
    </>
  );
}
