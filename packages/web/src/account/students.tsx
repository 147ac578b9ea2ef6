import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { retentionDays, type SaveRetention } from '@viaticum/contract';
import { App, Select } from 'antd';
import { Link } from 'react-router';
import { peopleQuery } from '../api/class-queries.js';
import { call } from '../api/http.js';
import { privacyWords as w } from '../words/privacy.js';
import css from './account.module.css';
import { accountQuery } from './account-queries.js';
import { StoredOf } from './stored-of.js';

const FOR_EVER = 'ever';

/** How long names of students are kept, and who came before: given what is stored of them, and erased. */
export function Students({ days }: { days: number | null }) {
  const client = useQueryClient();
  const { message } = App.useApp();
  const { data: people = [] } = useQuery(peopleQuery);
  const keep = useMutation({
    mutationFn: (next: SaveRetention['days']) => call('PUT', '/api/account/retention', { days: next }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: accountQuery.queryKey });
      void message.success(w.kept);
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  const options = [null, ...[...retentionDays].reverse()].map((value) => ({ value: value ?? FOR_EVER, label: w.keeps(value) }));
  return (
    <section>
      <h2>{w.students}</h2>
      <p className="quiet">
        {w.studentsAbout} <Link to="/stored">{w.link}</Link>
      </p>
      <Select
        aria-label={w.retention}
        style={{ maxWidth: 280 }}
        value={days ?? FOR_EVER}
        options={options}
        onChange={(value) => keep.mutate(value === FOR_EVER ? null : (value as SaveRetention['days']))}
      />
      {people.length > 0 && (
        <>
          <h3>{w.cameBefore}</h3>
          <ul className={css.rows}>
            {people.map(({ id, firstName, classes }) => (
              <li key={id}>
                <strong>{firstName}</strong>
                <span className="quiet small">{w.classes(classes)}</span>
                <StoredOf
                  name={firstName}
                  at={`/api/people/${id}`}
                  ask={w.eraseAsk(firstName)}
                  onErased={() => client.invalidateQueries({ queryKey: ['people'] })}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
