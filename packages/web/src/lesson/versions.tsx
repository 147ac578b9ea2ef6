import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { LessonAnswer, RevisionAnswer } from '@viaticum/contract';
import { differences } from '@viaticum/core/versions';
import { App, Button, Drawer, Input } from 'antd';
import { useMemo, useState } from 'react';
import { call } from '../api/http.js';
import { momentWords } from '../ui/moment.js';
import { historyWords as w } from '../words/history.js';
import { useLesson, useSession } from './context.js';
import css from './history.module.css';
import { Said } from './said.js';

const DRAWER_PX = 520;

/** The versions of the open lesson: what has changed since each, a name for it, and the way back to it. */
export function Versions({ onClose }: { onClose: () => void }) {
  const { id } = useSession();
  const { data: versions, error } = useQuery({
    queryKey: ['versions', id],
    queryFn: () => call<RevisionAnswer[]>('GET', `/api/lessons/${id}/revisions`),
    staleTime: 0,
  });
  const [opened, open] = useState<number | null>(null);
  const isAlone = new Set(versions?.map(({ author }) => author)).size <= 1;
  return (
    <Drawer open size={DRAWER_PX} title={<h2 className="dialog-title">{w.title}</h2>} onClose={onClose}>
      <p className="quiet">{w.about}</p>
      {error && <p role="alert">{error.message}</p>}
      {versions?.length === 0 && <p>{w.none}</p>}
      <ul className={css.list}>
        {versions?.map((version) => (
          <li key={version.id}>
            <div className={css.row}>
              <Button
                type="text"
                className="plain"
                aria-expanded={opened === version.id}
                aria-label={w.look(momentWords(version.savedAt))}
                onClick={() => open((was) => (was === version.id ? null : version.id))}
              >
                <b>{momentWords(version.savedAt)}</b> {version.name && <span>“{version.name}”</span>}
              </Button>
              <span className="quiet small">
                {[version.isPresent ? w.present : '', w.kinds[version.kind], isAlone ? '' : w.by(version.author)]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </div>
            {opened === version.id && <One version={version} onBack={onClose} />}
          </li>
        ))}
      </ul>
    </Drawer>
  );
}

function One({ version, onBack }: { version: RevisionAnswer; onBack: () => void }) {
  const session = useSession();
  const lesson = useLesson();
  const client = useQueryClient();
  const { message } = App.useApp();
  const at = `/api/lessons/${session.id}/revisions/${version.id}`;
  const { data, error } = useQuery({
    queryKey: ['version', session.id, version.id, version.number],
    queryFn: () => call<LessonAnswer>('GET', at),
  });
  const since = useMemo(() => data && differences(data.document, lesson), [data, lesson]);
  const [name, setName] = useState(version.name ?? '');
  const rename = useMutation({
    mutationFn: () => call('PUT', at, { name: name.trim() || null }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['versions', session.id] }),
    onError: (fault: Error) => void message.error(fault.message),
  });
  const goBack = () => {
    if (!data || !session.do('takeVersion', { version: data.document })) return;
    void message.success(w.wentBack(momentWords(version.savedAt)));
    onBack();
  };
  if (error) return <p role="alert">{error.message}</p>;
  if (!since) return null;
  return (
    <div className={css.opened}>
      {since.length === 0 ? <p>{w.same}</p> : <p className="quiet small">{w.since}</p>}
      <Said said={since.map((one) => one.said)} />
      <div className={css.keys}>
        {since.length > 0 && (
          <Button type="primary" onClick={goBack}>
            {w.back}
          </Button>
        )}
        <Input
          aria-label={w.name}
          placeholder={w.name}
          value={name}
          maxLength={120}
          style={{ width: 180 }}
          onChange={(event) => setName(event.target.value)}
          onPressEnter={() => rename.mutate()}
        />
        <Button loading={rename.isPending} disabled={name.trim() === (version.name ?? '')} onClick={() => rename.mutate()}>
          {w.nameIt}
        </Button>
      </div>
    </div>
  );
}
