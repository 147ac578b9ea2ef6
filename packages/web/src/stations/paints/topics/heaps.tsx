import { keepings } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { type Heap, heapsOf, keepingOf } from '@viaticum/core/heap';
import { hourMinute, minutesInWords, waitInWords } from '@viaticum/core/units';
import { Segmented, Table } from 'antd';
import { useLesson, usePlan, useSession } from '../../../lesson/context.js';
import { words } from '../../../words/words.js';
import paintsCss from '../paints.module.css';
import css from './heaps.module.css';

const w = words.paints;
const DAY_MIN = 1440;

/** The heaps of paint through the class: how much, how long they last where they lie, and what to do about it. */
export function HeapsTopic() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const heaps = heapsOf(lesson, plan);
  const looks = looksOf(lesson);
  const kept = keepingOf(lesson);
  const [mix, about, used, rests, keeps, so] = w.heapColumns;
  return (
    <div className={paintsCss.paintsPage}>
      <div className={css.kept}>
        <span id="kept-on">{w.keptOn}</span>
        <Segmented
          aria-labelledby="kept-on"
          value={kept}
          options={keepings.map((one) => ({ value: one, label: w.keepings[one] }))}
          onChange={(one) => session.do('setKeeping', { kept: one })}
        />
      </div>
      <p className="quiet">{w.heapsAbout(w.keepings[kept])}</p>
      {heaps.length === 0 ? (
        <p className="quiet">{w.heapsNone}</p>
      ) : (
        <Table<Heap>
          size="small"
          pagination={false}
          rowKey={(heap) => heap.mix.id}
          dataSource={[...heaps]}
          data-testid="heaps-table"
          columns={[
            {
              title: mix,
              render: (_, heap) => (
                <span className={css.mix}>
                  <i style={{ background: looks.get(heap.mix.id)?.rgb }} />
                  {heap.mix.name}
                </span>
              ),
            },
            { title: about, align: 'right', render: (_, heap) => <span className="numbers">{w.heapMl(heap.ml)}</span> },
            {
              title: used,
              render: (_, heap) => (
                <span className="numbers">
                  {w.heapUsed(hourMinute(heap.fromMin), hourMinute(heap.untilMin))}
                  {heap.isPremixed && <span className="quiet small"> {w.heapPremixed}</span>}
                </span>
              ),
            },
            {
              title: rests,
              align: 'right',
              render: (_, heap) => (
                <span className="numbers">{heap.longest.restMin < 1 ? '–' : waitInWords(heap.longest.restMin)}</span>
              ),
            },
            {
              title: keeps,
              align: 'right',
              render: (_, heap) => (
                <span className="numbers">{heap.keepsMin >= DAY_MIN ? w.heapNever : minutesInWords(heap.keepsMin)}</span>
              ),
            },
            {
              title: so,
              render: (_, heap) => {
                if (!heap.late) return <span className="quiet">{w.heapFits}</span>;
                const at = lesson.steps.findIndex((step) => step.id === heap.late?.stepId) + 1;
                return heap.late.restMin < 3 * heap.keepsMin && kept === 'plate'
                  ? w.heapCover(heap.mistEveryMin)
                  : w.heapLate(at, heap.late.rematchDeltaE);
              },
            },
          ]}
        />
      )}
      <p className="quiet small">{w.heapAmounts}</p>
    </div>
  );
}
