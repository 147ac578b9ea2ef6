import { groupOf, kitFindings, paysFrom } from '@viaticum/core/kit';
import { Button, Segmented, Select, Statistic } from 'antd';
import { lazy, Suspense, useMemo } from 'react';
import { useLesson, useSession } from '../../lesson/context.js';
import { NumberField } from '../../ui/number-field.js';
import { Topics, useTopic } from '../../ui/topics.js';
import { kitWords as w } from '../../words/kit.js';
import { Before } from './before.js';
import { Bring } from './bring.js';
import css from './kit.module.css';
import { Paint } from './paint.js';
import { PremixTopic } from './premix.js';
import { RoomTopic } from './room.js';
import { Things } from './things.js';
import { type Kit, useKit } from './use-kit.js';

const Pack = lazy(() => import('./pack.js').then((module) => ({ default: module.Pack })));
type Topic = keyof typeof w.topics;
const groups = (Object.keys(w.topics) as Topic[]).map((topic) => ({ name: w.topics[topic], topics: [topic] }));

/** What to buy, bring, prepare and print for a lesson and its group. */
export default function KitStation() {
  const [topic, setTopic] = useTopic(groups, 'paint');
  const kit = useKit();
  const isEmpty = kit.paint.mixes.length === 0;
  return (
    <>
      <Topics label={w.topicsLabel} names={w.topics} groups={groups} shown={topic} onShow={setTopic} />
      <div className={css.station} data-testid="kit">
        <Sums kit={kit} />
        <Noticed kit={kit} />
        {isEmpty && topic !== 'room' ? (
          <p className="quiet">{w.empty}</p>
        ) : (
          <>
            {topic === 'paint' && <Paint kit={kit} />}
            {topic === 'premix' && <PremixTopic kit={kit} />}
            {topic === 'things' && <Things kit={kit} />}
            {topic === 'bring' && <Bring kit={kit} />}
            {topic === 'before' && <Before kit={kit} />}
            {topic === 'room' && <RoomTopic kit={kit} />}
            {topic === 'pack' && (
              <Suspense fallback={null}>
                <Pack kit={kit} />
              </Suspense>
            )}
          </>
        )}
      </div>
    </>
  );
}

/** What is short, wasted or left to chance, with an act that mends it. */
function Noticed({ kit: { lesson, paint, studio } }: { kit: Kit }) {
  const session = useSession();
  const found = useMemo(() => kitFindings(lesson, paint, studio), [lesson, paint, studio]);
  if (found.length === 0) return null;
  return (
    <ul className={css.noticed} aria-label={w.noticed} data-testid="kit-noticed">
      {found.slice(0, MOST_NOTICED).map(({ key, words: says, fix }) => (
        <li key={key}>
          {says}{' '}
          {fix && (
            <Button size="small" onClick={() => session.do(fix.command, fix.args as never)}>
              {fix.words}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
const MOST_NOTICED = 4;

/** For whom it is reckoned, and what it comes to. */
function Sums({ kit: { lesson, paint, money, variantId, setVariantId } }: { kit: Kit }) {
  const session = useSession();
  const { variants } = useLesson();
  const { heads, teaching, tableOf } = groupOf(lesson);
  const { feeMinor, fixedMinor } = lesson.kit ?? {};
  const usedEach = paint.usedMinor === null ? null : Math.round(paint.usedMinor / heads);
  const from = feeMinor !== undefined ? paysFrom(feeMinor, 0, usedEach ?? 0, fixedMinor ?? 0) : null;
  const say = (kit: object) => session.do('editKit', { kit });
  return (
    <>
      <div className={css.asked}>
        <span>
          {w.heads}
          <NumberField label={w.heads} value={heads} onValue={(n) => say({ heads: n })} />
        </span>
        <span>
          {w.teaching}
          <NumberField label={w.teaching} value={teaching} onValue={(n) => say({ teaching: n })} />
        </span>
        <span>
          {w.tableOf}
          <NumberField label={w.tableOf} value={tableOf} onValue={(n) => say({ tableOf: n })} />
        </span>
        {variantId === null &&
          variants.map(({ id, name }) => (
            <span key={id}>
              {w.ofThem(name)}
              <NumberField
                label={w.ofThem(name)}
                value={lesson.kit?.others?.find(({ variantId }) => variantId === id)?.heads ?? 0}
                onValue={(n) => {
                  const rest = (lesson.kit?.others ?? []).filter(({ variantId }) => variantId !== id);
                  return say({ others: n === 0 ? rest : [...rest, { variantId: id, heads: n }] });
                }}
              />
            </span>
          ))}
        {variants.length > 0 && (
          <span>
            {w.variant}
            <Select
              aria-label={w.variant}
              value={variantId ?? ''}
              style={{ minWidth: 170 }}
              options={[{ value: '', label: w.asItIs }, ...variants.map(({ id, name }) => ({ value: id, label: name }))]}
              onChange={(id) => setVariantId(id || null)}
            />
          </span>
        )}
        <span>
          {w.by}
          <Segmented
            aria-label={w.by}
            value={lesson.kit?.by ?? 'studio'}
            options={Object.entries(w.bys).map(([value, label]) => ({ value, label }))}
            onChange={(by) => say({ by })}
          />
        </span>
      </div>
      <div className={css.sums}>
        <Statistic title={(lesson.kit?.others?.length ?? 0) > 0 ? w.aHeadMean : w.aHead} value={w.ml(paint.headMl)} />
        <Statistic title={w.group} value={w.ml(paint.groupMl)} />
        <Statistic title={w.buy} value={paint.cashMinor === null ? w.noPrice : money(paint.cashMinor)} />
        {usedEach !== null && <Statistic title={w.used} value={money(usedEach)} />}
        {from !== null && <Statistic title={w.paysFrom} value={from} />}
      </div>
    </>
  );
}
