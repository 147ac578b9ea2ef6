import { useQuery } from '@tanstack/react-query';
import { type Bringer, bringers } from '@viaticum/contract';
import { cautionsFor, type KitLine, letterFor, moneyInWords, studentLines, studioLines } from '@viaticum/core/kit';
import { Button, Checkbox, Input, QRCode, Select, Table } from 'antd';
import { useState } from 'react';
import { peopleQuery } from '../../api/class-queries.js';
import { kitLinkQuery, useMakeKitLink } from '../../api/kit-queries.js';
import { useSession } from '../../lesson/context.js';
import { CopyKey } from '../../ui/copy-key.js';
import { saveFile } from '../../ui/save-file.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.bring;

/** Every line with who brings it, a letter to a student, and the link by which the lists are ticked on a phone. */
export function Bring({ kit }: { kit: Kit }) {
  const { lines, money } = kit;
  const session = useSession();
  return (
    <>
      <section aria-label={w.title}>
        <h2>{w.title}</h2>
        <p>{w.about}</p>
        <Button onClick={() => void saveCsv(kit)}>{w.csv}</Button>
        <Table<KitLine>
          size="small"
          pagination={false}
          rowKey={({ key }) => key}
          dataSource={lines}
          data-testid="kit-lines"
          columns={[
            { title: '', render: (_, line) => <span className="quiet">{kitWords.things.shelves[line.shelf]}</span> },
            {
              title: w.columns.thing,
              render: (_, line) => (
                <>
                  {line.name}
                  {line.note && <span className="small quiet"> {line.note}</span>}
                </>
              ),
            },
            { title: w.columns.amount, align: 'right', render: (_, line) => <b className="numbers">{line.amount}</b> },
            { title: w.columns.each, align: 'right', render: (_, line) => <span className="numbers">{line.each}</span> },
            {
              title: w.columns.by,
              render: (_, line) => (
                <Select<Bringer>
                  aria-label={w.byOf(line.name)}
                  size="small"
                  value={line.by}
                  style={{ width: 190 }}
                  options={bringers.map((value) => ({ value, label: w.by[value] }))}
                  onChange={(by) => session.do('setBringer', { what: line.key, by })}
                />
              ),
            },
            {
              title: w.columns.cost,
              align: 'right',
              render: (_, line) => <span className="numbers">{line.costMinor === null ? '' : money(line.costMinor)}</span>,
            },
          ]}
        />
      </section>
      <div className={css.two}>
        <StudentLetter kit={kit} />
        <Phone />
      </div>
    </>
  );
}

/** The letter to one student: of who came before it is known what they have. */
function StudentLetter({ kit: { lesson, lines, studio, saveStudio } }: { kit: Kit }) {
  const { data: people = [] } = useQuery(peopleQuery);
  const [personId, setPersonId] = useState('');
  const [typed, setTyped] = useState('Ines');
  const person = people.find(({ id }) => id === personId);
  const things = studio.has.find((one) => one.personId === person?.id)?.things ?? [];
  const firstName = person?.firstName ?? (typed.trim() || '…');
  const letter = letterFor(lesson, lines, { firstName, has: new Set(things) });
  const theirs = studentLines(lines);
  const keep = (own: string, isThere: boolean) => {
    if (!person) return;
    const next = isThere ? [...things, own] : things.filter((one) => one !== own);
    const others = studio.has.filter((one) => one.personId !== person.id);
    saveStudio({ has: next.length > 0 ? [...others, { personId: person.id, things: next }] : others });
  };
  return (
    <section aria-label={w.letter}>
      <h2>{w.letter}</h2>
      <p className="quiet">{w.letterAbout}</p>
      <div className={css.asked}>
        {people.length > 0 && (
          <span>
            {w.person}
            <Select
              aria-label={w.person}
              value={personId}
              style={{ minWidth: 180 }}
              options={[
                { value: '', label: w.somebody },
                ...people.map(({ id, firstName: name }) => ({ value: id, label: name })),
              ]}
              onChange={setPersonId}
            />
          </span>
        )}
        {!person && (
          <span>
            {w.to}
            <Input aria-label={w.to} value={typed} maxLength={40} onChange={(event) => setTyped(event.target.value)} />
          </span>
        )}
      </div>
      {person && theirs.length > 0 && (
        <fieldset className={css.has}>
          <legend className="small quiet">
            {person.firstName} {w.hasAlready}
          </legend>
          {theirs.map(({ own, name }) => (
            <Checkbox key={own} checked={things.includes(own)} onChange={(event) => keep(own, event.target.checked)}>
              {name}
            </Checkbox>
          ))}
        </fieldset>
      )}
      <p className={css.letter} data-testid="letter">
        {letter}
      </p>
      <CopyKey text={letter} label={w.copy} done={w.copied} />
    </section>
  );
}

/** The link to the lists, also to be read off with a phone. */
function Phone() {
  const { id } = useSession();
  const { data } = useQuery(kitLinkQuery(id));
  const make = useMakeKitLink(id);
  return (
    <section aria-label={w.phone}>
      <h2>{w.phone}</h2>
      <p className="quiet">{w.phoneAbout}</p>
      <p className={css.rowKeys}>
        <Button loading={make.isPending} onClick={() => make.mutate()}>
          {data?.address ? w.renew : w.make}
        </Button>
        {data?.address && <CopyKey text={data.address} label={w.copyLink} done={w.copied} />}
      </p>
      {data?.address && (
        <>
          <QRCode type="svg" value={data.address} size={150} bordered={false} />
          <a href={data.address} target="_blank" rel="noreferrer">
            {data.address.replace(/^https?:\/\//, '')}
          </a>
        </>
      )}
      {make.error && (
        <p className="signal" role="alert">
          {make.error.message}
        </p>
      )}
    </section>
  );
}

const saveCsv = async ({ lesson, lines, studio }: Kit) => {
  const { shoppingCsv } = await import('@viaticum/core/format');
  const rows = studioLines(lines).map((line) => ({
    shelf: kitWords.things.shelves[line.shelf],
    name: line.name,
    amount: line.amount,
    each: line.each ?? '',
    by: w.by[line.by],
    cost: line.costMinor === null ? '' : moneyInWords(line.costMinor, studio.currency),
  }));
  const mind = cautionsFor(lesson).flatMap(({ on, words }) => (on.includes('shopping') ? [words] : []));
  saveFile(`${lesson.title}, shopping.csv`, new Blob([shoppingCsv(rows, studio.currency, mind)], { type: 'text/csv' }));
};
