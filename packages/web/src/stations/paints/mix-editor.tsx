import { type Amount, type Lesson, type Mix, sayBy, smallAmounts } from '@viaticum/contract';
import { looksOf, type MixCovering } from '@viaticum/core/derived';
import { amountInWords, HIDES_AT, howSure, shortTubeName } from '@viaticum/core/mix';
import { cssRgb, labToSrgb, valueStep } from '@viaticum/kernels/colour';
import { partsOf } from '@viaticum/kernels/mixing';
import { Button, Checkbox, Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { useRemoval } from '../../lesson/use-removal.js';
import { CommitInput } from '../../ui/commit-input.js';
import { BrushOut } from '../../ui/swatch.js';
import { words } from '../../words/words.js';
import { CoveringFacts, Thinning } from './covering-facts.js';
import { Found } from './found.js';
import css from './mix-editor.module.css';
import { Target } from './target.js';

const w = words.paints;
const amounts: readonly Amount[] = [
  ...[...smallAmounts].sort((one, other) => partsOf(one) - partsOf(other)),
  ...Array.from({ length: 12 }, (_, i) => i + 1),
];

/** One mix: its colour wet and dry against its target, recipes found and in use, how it covers and thins. */
export function MixEditor({
  lesson,
  mix,
  ground,
  covering,
}: {
  lesson: Lesson;
  mix: Mix;
  ground: string;
  covering: MixCovering | null;
}) {
  const session = useSession();
  const ask = useRemoval();
  const look = looksOf(lesson).get(mix.id);
  const used = lesson.steps.filter((step) => step.mixIds.includes(mix.id)).length;
  const sure = useMemo(() => howSure(mix, lesson), [mix, lesson]);
  const seen = mix.targetState === 'wet' ? look?.wet : look?.colour;
  return (
    <section className={css.mixEditor}>
      <CommitInput
        wraps
        className={css.mixName}
        value={mix.name}
        label={words.picture.rename(mix.name)}
        onCommit={(name, burst) => session.do('renameMix', { id: mix.id, name }, burst)}
      />
      <div className={css.mixLarge}>
        <BrushOut
          rgb={look?.rgb ?? ''}
          wetRgb={look?.wetRgb ?? ''}
          groundRgb={ground}
          cover={covering && covering.contrastRatio < HIDES_AT ? covering.contrastRatio : 1}
          label={mix.name}
        />
        {mix.targetLab && (
          <i className={css.mixTarget} style={{ background: cssRgb(labToSrgb(mix.targetLab)) }} title={w.target} />
        )}
      </div>
      <p className={clsx(css.mixLegend, 'small quiet')}>
        <span>{w.wet}</span>
        <span>{w.dry}</span>
        {mix.targetLab && <span>{w.target}</span>}
      </p>
      {look?.off && seen && (
        <p>
          <b className={css.mixOff} data-testid="mix-off">
            {look.off}
          </b>{' '}
          <span className="quiet small numbers">
            {w.exactly(look.deltaE ?? 0)}
            {w.value(valueStep(seen.lab[0]))}, {w.model}
          </span>
        </p>
      )}
      {sure !== null && <p className="small quiet">{w.sure(sure)}.</p>}
      <Target lesson={lesson} mix={mix} />
      <Found lesson={lesson} mix={mix} />
      <Recipe lesson={lesson} mix={mix} />
      {covering && <CoveringFacts lesson={lesson} mix={mix} covering={covering} />}
      <Thinning lesson={lesson} mix={mix} />
      <Checkbox
        className={clsx(css.mixLetDown, 'small')}
        checked={mix.letDown ?? false}
        onChange={(event) => session.do('setLetDown', { id: mix.id, letDown: event.target.checked })}
      >
        {w.letDown}
      </Checkbox>
      <p className={clsx(css.mixFoot, 'small quiet')} data-testid="mix-foot">
        {w.usedIn(used)}
        <Button
          type="text"
          size="small"
          onClick={() => ask('mixes', mix.id, mix.name, () => session.do('removeMix', { id: mix.id }))}
        >
          {w.remove}
        </Button>
      </p>
    </section>
  );
}

type Part = { kind: 'tube' | 'mix'; id: string; parts: Amount };

/** The recipe in use, in parts of tubes and mixes that can be changed by hand, and the order in which to put it together. */
function Recipe({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const session = useSession();
  const look = looksOf(lesson).get(mix.id);
  const parts: Part[] = [
    ...(mix.mixedFrom ?? []).map(({ mixId, parts }): Part => ({ kind: 'mix', id: mixId, parts })),
    ...mix.recipe.map(({ tubeId, parts }): Part => ({ kind: 'tube', id: tubeId, parts })),
  ];
  const nameOf = ({ kind, id }: Part) => {
    if (kind === 'mix') return lesson.mixes.find((one) => one.id === id)?.name ?? '';
    const tube = lesson.tubes.find((one) => one.id === id);
    return tube ? shortTubeName(tube) : '';
  };
  const set = (next: Part[]) =>
    session.do('setRecipe', {
      id: mix.id,
      recipe: next.flatMap(({ kind, id, parts }) => (kind === 'tube' ? [{ tubeId: id, parts }] : [])),
      mixedFrom: next.flatMap(({ kind, id, parts }) => (kind === 'mix' ? [{ mixId: id, parts }] : [])),
    });
  const tubes = lesson.tubes.filter((tube) => !mix.recipe.some((part) => part.tubeId === tube.id));
  const mixes = lesson.mixes.filter(
    (one) => one.id !== mix.id && !mix.mixedFrom?.some((part) => part.mixId === one.id) && one.recipe.length > 0,
  );
  const order =
    look?.parts.map((part) =>
      typeof part.parts === 'number'
        ? `${amountInWords(part.parts)} ${part.name}`
        : sayBy('mix|{0} of {1}', amountInWords(part.parts), part.name),
    ) ?? [];
  return (
    <>
      <h3>{w.recipe}</h3>
      <ul className={css.mixRecipe}>
        {parts.map((part) => (
          <li key={part.id}>
            <Select
              value={String(part.parts)}
              aria-label={w.parts(nameOf(part))}
              onChange={(given) => {
                const amount = (Number(given) || given) as Amount;
                set(parts.map((one) => (one === part ? { ...one, parts: amount } : one)));
              }}
              options={[...new Set([...amounts, part.parts])].map((amount) => ({
                value: String(amount),
                label: amountInWords(amount),
              }))}
            />
            <span>{part.kind === 'mix' ? w.onMix(nameOf(part)) : nameOf(part)}</span>
            <Button
              type="text"
              size="small"
              aria-label={`${w.takeOut}: ${nameOf(part)}`}
              onClick={() => set(parts.filter((one) => one !== part))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      {tubes.length + mixes.length > 0 && (
        <Select<string>
          className={css.wideSelect}
          value={null}
          placeholder={w.addToRecipe}
          aria-label={w.addToRecipe}
          onChange={(given) => {
            const [kind, id] = given.split('/') as [Part['kind'], string];
            set([...parts, { kind, id, parts: 1 }]);
          }}
          options={[
            { label: w.tubesGroup, options: tubes.map((tube) => ({ value: `tube/${tube.id}`, label: shortTubeName(tube) })) },
            ...(mixes.length > 0
              ? [{ label: w.mixesGroup, options: mixes.map((mix) => ({ value: `mix/${mix.id}`, label: mix.name })) }]
              : []),
          ]}
        />
      )}
      {order.length > 1 && (
        <p className={clsx('small', css.mixOrder)} data-testid="mix-order">
          <span className="quiet">{w.order}:</span> {w.orderWords(order)}
        </p>
      )}
    </>
  );
}
