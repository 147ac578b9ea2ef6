import { CODE_DECIDES, cautionsFor, groupOf, kitRoom, moneyInWords, paysFrom, readMoney } from '@viaticum/core/kit';
import { Button, Checkbox, Input } from 'antd';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { NumberField } from '../../ui/number-field.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.room;
const m = kitWords.money;

/** The room with this group in it, the usual cautions, and whether the class pays. */
export function RoomTopic({ kit }: { kit: Kit }) {
  const { lesson, studio, saveStudio } = kit;
  const session = useSession();
  const room = kitRoom(lesson, studio);
  const number = (label: string, key: 'otherW' | 'roomM3' | 'airChanges' | 'sinks', least: number, most: number) => (
    <span>
      {label}
      <NumberField
        label={label}
        value={studio[key]}
        onValue={(n) => {
          if (!(n >= least && n <= most) || (key !== 'roomM3' && key !== 'airChanges' && !Number.isInteger(n))) return false;
          saveStudio({ [key]: n });
          return true;
        }}
      />
    </span>
  );
  return (
    <div className={css.two}>
      <section aria-label={w.title}>
        <h2>{w.title}</h2>
        <p>{w.seats(room.people, room.tables, room.tableM2.toFixed(1))}</p>
        <div className={css.asked}>
          {number(w.roomM3, 'roomM3', 5, 100_000)}
          {number(w.changes, 'airChanges', 0.1, 50)}
          {number(w.sinks, 'sinks', 0, 100)}
          {number(w.otherW, 'otherW', 0, 100_000)}
        </div>
        <p>{w.damper(100 * room.damperBy, room.paintOverMin.as, room.paintOverMin.full)}</p>
        {room.damperBy > 0.01 && (
          <Button onClick={() => session.do('setRoom', { room: { humidity: Math.round(room.full.humidity * 100) / 100 } })}>
            {w.plan}
          </Button>
        )}
        <p>{w.fresh(room.freshLPerS)}</p>
        <p>{room.light}</p>
        <p>
          {room.dryers ? w.dryers(room.dryers.each, Math.round(room.dryers.limitW), room.dryers.watts) : w.noCircuits}{' '}
          {room.dryers && CODE_DECIDES()}
        </p>
        <h3>{w.waste}</h3>
        <ul>
          {room.waste.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
        <Money kit={kit} />
      </section>
      <section aria-label={w.cautions}>
        <h2>{w.cautions}</h2>
        <Checkbox
          checked={lesson.kit?.children === true}
          onChange={(event) =>
            event.target.checked
              ? session.do('editKit', { kit: { children: true } })
              : session.do('editKit', { kit: {}, clear: ['children'] })
          }
        >
          {m.children}
        </Checkbox>
        <ul data-testid="cautions">
          {cautionsFor(lesson).map(({ key, words }) => (
            <li key={key}>{words}</li>
          ))}
        </ul>
      </section>
    </div>
  );
}

/** From how many on a class pays for itself. */
function Money({ kit: { lesson, paint, studio } }: { kit: Kit }) {
  const session = useSession();
  const [fault, setFault] = useState<string | null>(null);
  const { feeMinor, fixedMinor } = lesson.kit ?? {};
  const material = paint.usedMinor === null ? 0 : Math.round(paint.usedMinor / groupOf(lesson).heads);
  const field = (label: string, key: 'feeMinor' | 'fixedMinor', value: number | undefined) => (
    <span>
      {label}, {studio.currency}
      <Input
        key={`${value}`}
        aria-label={label}
        defaultValue={value === undefined ? '' : moneyInWords(value, studio.currency)}
        inputMode="decimal"
        style={{ width: 120 }}
        onBlur={(event) => {
          const text = event.target.value;
          if (text.trim() === '') {
            if (value !== undefined) session.do('editKit', { kit: {}, clear: [key] });
            return setFault(null);
          }
          const minor = readMoney(text, studio.currency);
          setFault(minor === null ? m.bad : null);
          if (minor !== null && minor !== value) session.do('editKit', { kit: { [key]: minor } });
        }}
      />
    </span>
  );
  return (
    <>
      <h3>{m.title}</h3>
      <div className={css.asked}>
        {field(m.fee, 'feeMinor', feeMinor)}
        {field(m.fixed, 'fixedMinor', fixedMinor)}
      </div>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      <p>{feeMinor === undefined ? m.unset : m.from(paysFrom(feeMinor, 0, material, fixedMinor ?? 0))}</p>
    </>
  );
}
