import type { Thing, TwinOf } from '@viaticum/contract';
import { outlineBox } from '@viaticum/core/area';
import { lineOf } from '@viaticum/core/document';
import { eyeOf } from '@viaticum/core/transfer';
import { lengthNumber } from '@viaticum/core/units';
import { Button, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { Choice } from '../../../ui/choice.js';
import { NumberField } from '../../../ui/number-field.js';
import { transferWords } from '../../../words/transfers.js';
import transfersCss from '../transfers.module.css';

const w = transferWords.twins;

/** Reflections: each follows its thing by itself. */
export function TwinsTopic() {
  const lesson = useLesson();
  const session = useSession();
  const things = lesson.things.filter((thing) => !thing.twinOf && thing.fate !== 'dropped');
  const [of, setOf] = useState(things[0]?.id ?? '');
  const chosen = things.find((thing) => thing.id === of) ?? things[0];
  const add = () => {
    if (!chosen) return;
    const box = outlineBox(lesson.areas.filter((area) => area.thingId === chosen.id).flatMap((area) => area.outline));
    const baseMm = Math.round(box ? box.y + box.height : lesson.support.heightMm / 2);
    session.do('addTwin', {
      id: nanoid(8),
      name: w.name(chosen.name),
      twinOf: {
        thingId: chosen.id,
        kind: 'reflection',
        baseMm,
        bankM: 0,
        eyeM: 1.6,
        horizonMm: Math.round(eyeOf(lesson).horizonMm),
      },
    });
  };
  const twins = lesson.things.filter((thing) => thing.twinOf);
  return (
    <>
      <p className="quiet small">{w.about}</p>
      {things.length === 0 ? (
        <p className="small">{w.needThings}</p>
      ) : (
        <div className={transfersCss.addRow}>
          <Choice
            label={w.of}
            value={chosen?.id ?? ''}
            options={things.map((thing) => [thing.id, thing.name] as const)}
            onChange={setOf}
          />
          <Button onClick={add}>{w.add}</Button>
        </div>
      )}
      {twins.length === 0 && things.length > 0 && <p className="quiet small">{w.none}</p>}
      {twins.map((twin) => (
        <Twin key={twin.id} twin={twin} />
      ))}
    </>
  );
}

function Twin({ twin }: { twin: Thing }) {
  const lesson = useLesson();
  const session = useSession();
  const own = twin.twinOf as TwinOf;
  const set = (twinOf: Partial<TwinOf>) => session.do('editTwin', { id: twin.id, twinOf });
  const number = (label: string, value: number, change: (value: number) => Partial<TwinOf>) => (
    <span className="small number-said">
      {label} <NumberField label={label} value={value} onValue={(next) => set(change(next))} />
    </span>
  );
  return (
    <section className={transfersCss.construction}>
      <h3>
        {twin.name}
        <Button type="text" size="small" onClick={() => session.do('removeTwin', { id: twin.id })}>
          {w.remove}
        </Button>
      </h3>
      <Choice
        label={w.of}
        value={own.kind}
        options={Object.entries(w.kinds)}
        onChange={(kind) => set({ kind: kind as TwinOf['kind'] })}
      />
      <p className={transfersCss.numbersRow}>
        {number(w.base, own.baseMm, (baseMm) => ({ baseMm }))}
        {own.kind === 'pull'
          ? number(w.share, Math.round((own.share ?? 0.6) * 100), (share) => ({
              share: Math.max(0.05, Math.min(3, share / 100)),
            }))
          : number(w.bank, own.bankM, (bankM) => ({ bankM: Math.max(0, bankM) }))}
        {own.kind === 'reflection' && number(w.eye, own.eyeM, (eyeM) => ({ eyeM: Math.max(0.1, eyeM) }))}
        {own.kind === 'reflection' && number(w.horizon, own.horizonMm, (horizonMm) => ({ horizonMm }))}
      </p>
      <Choice
        label={w.on}
        value={own.onAreaId ?? ''}
        options={[['', w.nothing], ...lesson.areas.filter((area) => !area.twinOfId).map((area) => [area.id, area.name] as const)]}
        onChange={(onAreaId) => onAreaId && set({ onAreaId })}
      />
      {own.kind === 'reflection' && own.bankM > 0 && (
        <div className="small choice">
          <span>{w.bankAreas}</span>
          <Select
            mode="multiple"
            aria-label={w.bankAreas}
            value={own.bankAreaIds ?? []}
            options={lesson.areas
              .filter((area) => !area.twinOfId && area.thingId !== own.thingId)
              .map((area) => ({ value: area.id, label: area.name }))}
            onChange={(bankAreaIds: string[]) => set({ bankAreaIds })}
          />
        </div>
      )}
      {own.kind === 'reflection' && own.baseMm <= own.horizonMm && (
        <p className="small signal" role="alert">
          {w.noWater}
        </p>
      )}
      <p className="small">
        {w.line(`${lengthNumber(lineOf(own), lesson.units)} ${lesson.units}`)} {w.hand} {own.kind === 'reflection' && w.leans}
      </p>
    </section>
  );
}
