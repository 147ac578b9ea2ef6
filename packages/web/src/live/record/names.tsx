import { useQueryClient } from '@tanstack/react-query';
import type { ClassRecord } from '@viaticum/contract';
import { ERASED_NAME, stateAt } from '@viaticum/core/class';
import { App, Button, Popconfirm } from 'antd';
import { useMemo } from 'react';
import accountCss from '../../account/account.module.css';
import { StoredOf } from '../../account/stored-of.js';
import { classRecordQuery } from '../../api/class-queries.js';
import { call } from '../../api/http.js';
import { privacyWords as w } from '../../words/privacy.js';

/** Who was in a class, each to be given what is stored of them or to be erased; or all at once. */
export function Names({ code, record }: { code: string; record: ClassRecord }) {
  const client = useQueryClient();
  const { message } = App.useApp();
  const here = useMemo(() => {
    const { students } = stateAt(record.events, Number.POSITIVE_INFINITY);
    return Object.values(students).filter(({ firstName }) => firstName !== ERASED_NAME);
  }, [record]);
  const anew = () => client.invalidateQueries({ queryKey: classRecordQuery(code).queryKey });
  const eraseAll = () =>
    call('DELETE', `/api/classes/${code}/names`).then(
      () => {
        void message.success(w.allErased);
        void anew();
      },
      (fault: Error) => void message.error(fault.message),
    );
  if (here.length === 0) return null;
  return (
    <section aria-label={w.names}>
      <h2>{w.names}</h2>
      <p className="quiet small">{w.namesAbout}</p>
      <ul className={accountCss.rows}>
        {here.map(({ id, firstName }) => (
          <li key={id}>
            <span>{firstName}</span>
            <StoredOf
              name={firstName}
              at={`/api/classes/${code}/students/${encodeURIComponent(id)}`}
              ask={w.eraseHereAsk(firstName)}
              onErased={anew}
            />
          </li>
        ))}
      </ul>
      <Popconfirm title={w.eraseAllAsk} okText={w.eraseAll} onConfirm={eraseAll} styles={{ root: { maxWidth: 340 } }}>
        <Button>{w.eraseAll}</Button>
      </Popconfirm>
    </section>
  );
}
