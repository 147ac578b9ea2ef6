import type { Lesson, Mix, MixedPart, RecipePart } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { type FamilyMember, recipeInWords, shortTubeName } from '@viaticum/core/mix';
import { cssRgb, labToSrgb, valueStep } from '@viaticum/kernels/colour';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { Choice } from '../../../ui/choice.js';
import { words } from '../../../words/words.js';
import type { FamilyKind } from '../../../workers/paint-jobs.js';
import { paintSide, useBench, usePaintJob } from '../paint-context.js';
import paintsCss from '../paints.module.css';
import css from './families.module.css';

const w = words.paints;
const kinds = Object.keys(w.families) as FamilyKind[];
const BETWEEN = { ladder: [5, 6, 7, 8, 9], gradient: [1, 2, 3, 4, 5, 6, 7] } as const;

/** Chains of mixes that share a mix: ladders, greys, gradients, shadow and light; looked at before they are put on the palette. */
export function FamiliesTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { selected, select } = useBench();
  const [kind, setKind] = useState<FamilyKind>('ladder');
  const [other, setOther] = useState<string>('');
  const [steps, setSteps] = useState(7);
  const [value, setValue] = useState(6);
  const mixed = lesson.mixes.filter((mix) => looksOf(lesson).get(mix.id)?.colour);
  const base = mixed.find((mix) => mix.id === selected) ?? mixed[0];
  const otherId =
    kind === 'gradient'
      ? (mixed.find((mix) => mix.id === other && mix.id !== base?.id) ?? mixed.find((mix) => mix.id !== base?.id))?.id
      : other;
  const lightness = ((value - 1) * 100) / 9;
  const asked = useMemo(
    () =>
      base && (kind !== 'gradient' || otherId)
        ? { lesson: paintSide(lesson), kind, mixId: base.id, otherId: otherId || null, steps, lightness }
        : null,
    [lesson, kind, base, otherId, steps, lightness],
  );
  const { answer, fault } = usePaintJob('family', asked);
  if (!base) return <p className={clsx(paintsCss.paintsPage, 'quiet')}>{w.needsMix}</p>;
  const others = mixed.filter((mix) => mix.id !== base.id);
  const members = answer?.members ?? [];
  const fresh = members.filter((member) => !(member.parts.length === 1 && member.parts[0]?.id === base.id));
  const take = () => {
    const mixes = fresh.map((member) =>
      asMix(lesson, member, kind === 'greys' ? member.name : w.familyName(base.name, member.name)),
    );
    const at = kind === 'greys' ? undefined : lesson.mixes.findIndex((mix) => mix.id === base.id) + 1;
    if (session.do('addMixes', { mixes, ...(at !== undefined && { at }) })) select(mixes[0]?.id ?? null);
  };
  return (
    <div className={clsx(paintsCss.paintsPage, css.families)}>
      <fieldset className={css.choices}>
        <legend className="visually-hidden">{w.family}</legend>
        {kinds.map((one) => (
          <Button type={one === kind ? 'primary' : 'default'} key={one} aria-pressed={one === kind} onClick={() => setKind(one)}>
            {w.families[one]}
          </Button>
        ))}
      </fieldset>
      <p className="quiet">{w.familyAbout[kind]}</p>
      <div className={paintsCss.familyQuestions}>
        {kind !== 'greys' && <Choice label={w.fromMix} value={base.id} options={named(mixed)} onChange={select} />}
        {kind === 'gradient' && <Choice label={w.toMix} value={otherId ?? ''} options={named(others)} onChange={setOther} />}
        {kind === 'ladder' && (
          <Choice label={w.toDark} value={other} options={[['', w.ownDark], ...named(others)]} onChange={setOther} />
        )}
        {(kind === 'ladder' || kind === 'gradient') && (
          <Choice
            label={w.steps}
            value={steps}
            options={[...new Set([...BETWEEN[kind], steps])].sort((a, b) => a - b).map((n) => [n, String(n)] as const)}
            onChange={(n) => setSteps(Number(n))}
          />
        )}
        {kind === 'greys' && (
          <Choice
            label={w.greyValue}
            value={value}
            options={[3, 4, 5, 6, 7, 8, 9].map((n) => [n, String(n)] as const)}
            onChange={(n) => setValue(Number(n))}
          />
        )}
      </div>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {kind === 'greys' && answer && <p className="small">{w.parents(answer.parents.map((id) => nameOf(lesson, id)))}</p>}
      <ol className={css.family} data-testid="family">
        {members.map((member) => (
          <li key={member.name}>
            <i style={{ background: cssRgb(labToSrgb(member.lab)) }} />
            <b>{member.name === 'the mix itself' ? base.name : member.name}</b>
            <span className="small quiet numbers">{w.value(valueStep(member.lab[0]))}</span>
            <span className="small">
              {member.parts.length === 1 && member.parts[0]?.id === base.id
                ? w.itself
                : recipeInWords(
                    member.parts.map(({ id, parts }) => ({ tubeId: id, parts })),
                    (id) => nameOf(lesson, id),
                  )}
            </span>
          </li>
        ))}
      </ol>
      {fresh.length > 0 && (
        <Button type="primary" onClick={take}>
          {w.takeFamily(fresh.length)}
        </Button>
      )}
    </div>
  );
}

function nameOf(lesson: Lesson, id: string): string {
  const tube = lesson.tubes.find((one) => one.id === id);
  return tube ? shortTubeName(tube) : (lesson.mixes.find((mix) => mix.id === id)?.name ?? '');
}

/** A member of a family as a mix of the lesson: its tubes, and the mixes that it is mixed from. */
const asMix = (lesson: Lesson, member: FamilyMember, name: string): Mix => {
  const mixes = member.parts.filter(({ id }) => lesson.mixes.some((mix) => mix.id === id));
  return {
    id: nanoid(8),
    name,
    recipe: member.parts.filter((part) => !mixes.includes(part)).map(({ id, parts }): RecipePart => ({ tubeId: id, parts })),
    ...(mixes.length > 0 && { mixedFrom: mixes.map(({ id, parts }): MixedPart => ({ mixId: id, parts })) }),
  };
};

const named = (mixes: readonly Mix[]) => mixes.map((mix) => [mix.id, mix.name] as const);
