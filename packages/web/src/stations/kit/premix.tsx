import type { Premixing } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { mlInWords, type Premix, scrapGrey, standsInFor, storageLife, stores } from '@viaticum/core/kit';
import { syringeInWords, volumeShown, volumeUnit, waitInWords } from '@viaticum/core/units';
import { cssRgb } from '@viaticum/kernels/colour';
import { Button, Select, Table } from 'antd';
import { clsx } from 'clsx';
import { useSession } from '../../lesson/context.js';
import { saveFile } from '../../ui/save-file.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.premix;
const DAY = 24 * 60;
const lasts = (minutes: number): string =>
  !Number.isFinite(minutes) ? w.never : minutes >= DAY ? `${Math.round(minutes / DAY)} d` : waitInWords(minutes);

/** Which mixes are made once for all, how much of each, how they are measured, and how long they keep. */
export function PremixTopic({ kit }: { kit: Kit }) {
  const { lesson, paint } = kit;
  const session = useSession();
  const looks = looksOf(lesson);
  const said = new Set((lesson.kit?.premix ?? []).map(({ mixId }) => mixId));
  const rows = paint.mixes.map(({ premix }) => premix);
  const batches = rows.filter(({ isBatch }) => isBatch);
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <p className={css.rowKeys}>
        <Button disabled={batches.length === 0} onClick={() => void saveLabels(kit)}>
          {w.labels}
        </Button>
        <Button disabled={batches.length === 0} onClick={() => void saveSheet(kit)}>
          {w.sheet}
        </Button>
      </p>
      <Table<Premix>
        size="small"
        pagination={false}
        rowKey={({ mix }) => mix.id}
        dataSource={rows}
        data-testid="kit-premix"
        columns={[
          {
            title: w.columns.mix,
            width: '20%',
            render: (_, { mix }) => (
              <>
                <i className={css.swatch} style={{ background: looks.get(mix.id)?.rgb }} />
                {mix.name}
              </>
            ),
          },
          {
            title: w.columns.why,
            width: '36%',
            render: (_, { reasons }) =>
              reasons.length === 0 ? (
                <span className="quiet">{w.no}</span>
              ) : (
                <ul className={css.reasons}>
                  {reasons.map(({ words, weight }) => (
                    <li key={words} className={clsx(weight === 'must' && css.must)}>
                      {words}
                    </li>
                  ))}
                </ul>
              ),
          },
          {
            title: w.columns.how,
            render: (_, { mix, isBatch, batch }) => (
              <>
                <Select
                  aria-label={w.howOf(mix.name)}
                  size="small"
                  value={said.has(mix.id) ? (isBatch ? 'batch' : 'palette') : 'auto'}
                  style={{ width: 250 }}
                  options={[
                    { value: 'auto', label: `${w.auto}: ${w.hows[isBatch && !said.has(mix.id) ? 'batch' : 'palette']}` },
                    ...Object.entries(w.hows).map(([value, label]) => ({ value, label })),
                  ]}
                  onChange={(how) => session.do('setPremix', { mixId: mix.id, how: how === 'auto' ? null : (how as Premixing) })}
                />
                {batch && (
                  <>
                    <p className="numbers">{w.batch(batch.ml, batch.portions, mlInWords(batch.portionMl))}</p>
                    {batch.largestMl > batch.portionMl * 1.05 && <p className="small">{w.largest(mlInWords(batch.largestMl))}</p>}
                    <p className="small">
                      {w.parts}: {batch.parts.map(({ name, ml }) => `${syringeInWords(ml)} ${name}`).join(' + ')}
                    </p>
                    <p className="small quiet">
                      {w.rounded(batch.roundedBy)}; {w.minutes(batch.minutes)}
                      {batch.container && `; ${w.container(batch.container.kind, batch.container.ml)}`}
                    </p>
                  </>
                )}
              </>
            ),
          },
        ]}
      />
      <h3>{w.keeps}</h3>
      <ul>
        {stores.map((store) => (
          <li key={store}>
            {w.store[store]}: <b className="numbers">{lasts(storageLife(store, lesson.room).minutes)}</b>
          </li>
        ))}
      </ul>
      <p className="small quiet">{w.jarRules}</p>
      <Remnants kit={kit} />
    </section>
  );
}

/** What is left at the end, and what it is good for. */
function Remnants({ kit: { lesson, paint } }: { kit: Kit }) {
  const scrap = scrapGrey(lesson, paint);
  const pairs = standsInFor(lesson, paint);
  if (!scrap) return null;
  return (
    <>
      <h3>{w.left}</h3>
      <p>
        <i className={css.swatch} style={{ background: cssRgb(scrap.rgb) }} />
        {w.scrap(scrap.ml, scrap.lab[0], scrap.isGround)}
      </p>
      {pairs.slice(0, 4).map((pair) => (
        <p key={`${pair.left} ${pair.for}`}>{w.standsIn(pair.left, pair.for)}</p>
      ))}
    </>
  );
}

const saveLabels = async (kit: Kit) => {
  const { labelsPdf } = await import('../../pdf/labels.js');
  const looks = looksOf(kit.lesson);
  const labels = kit.paint.mixes.flatMap(({ premix: { mix, batch }, volume }) =>
    batch
      ? Array.from({ length: batch.portions }, () => ({
          name: mix.name,
          rgb: looks.get(mix.id)?.rgb ?? '#fff',
          words: looks.get(mix.id)?.words ?? '',
          steps: volume.steps.map((step) => kit.lesson.steps.indexOf(step) + 1),
          keepsDays: Math.round(storageLife(batch.container?.kind ?? 'bag', kit.lesson.room).minutes / DAY),
        }))
      : [],
  );
  saveFile(
    `${kit.lesson.title}, labels.pdf`,
    new Blob([(await labelsPdf(kit.lesson.title, labels)) as BlobPart], { type: 'application/pdf' }),
  );
};
const saveSheet = async ({ lesson, paint }: Kit) => {
  const { premixCsv } = await import('@viaticum/core/format');
  const rows = paint.mixes.flatMap(({ premix: { mix, batch } }) => (batch ? [{ name: mix.name, ...batch }] : []));
  saveFile(
    `${lesson.title}, mixing sheet.csv`,
    new Blob([premixCsv(rows, { unit: volumeUnit(), shown: volumeShown })], { type: 'text/csv' }),
  );
};
