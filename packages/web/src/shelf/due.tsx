import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useState } from 'react';
import { lettersQuery } from '../api/class-queries.js';
import { call } from '../api/http.js';
import { shelfWords as w } from '../words/shelf.js';
import css from './shelf.module.css';

/** What one wanted to be reminded of, from its day on until it was seen. */
export function Due() {
  const client = useQueryClient();
  const { data } = useQuery({ ...lettersQuery, staleTime: 60_000 });
  const seen = useMutation({
    mutationFn: (id: string) => call('DELETE', `/api/reminders/${id}`),
    onSuccess: () => client.invalidateQueries({ queryKey: lettersQuery.queryKey }),
  });
  const [now] = useState(() => Date.now());
  const due = (data ?? []).filter(({ dueAt }) => dueAt !== null && new Date(dueAt).getTime() <= now);
  return due.map(({ id, subject, text }) => (
    <p key={id} className={css.backedUp} data-testid="due">
      <b>{subject}.</b> {text.split('\n')[0]}{' '}
      <Button size="small" onClick={() => seen.mutate(id)}>
        {w.seen}
      </Button>
    </p>
  ));
}
