import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { GivenRole, ShareLinkMade, Sharer } from '@viaticum/contract';
import { localeNow } from '@viaticum/contract';
import { App, Button, Popconfirm, Select } from 'antd';
import { useState } from 'react';
import { call } from '../api/http.js';
import { sharingQuery } from '../api/queries.js';
import { CopyKey } from '../ui/copy-key.js';
import { Dialog } from '../ui/dialog.js';
import { sharingWords as w } from '../words/sharing.js';
import css from './share.module.css';

const roles = (['reader', 'editor'] as const).map((role) => ({ value: role, label: w.roles[role] }));
const dayOf = (at: string): string => new Date(at).toLocaleDateString(localeNow(), { dateStyle: 'long' });

/** With whom a lesson is shared, and the links by which others come to share it. */
export function Share({ id, title, onClose }: { id: string; title: string; onClose: () => void }) {
  const { data, error } = useQuery(sharingQuery(id));
  return (
    <Dialog title={w.title(title)} onClose={onClose}>
      <div className={css.share}>
        {error && <p role="alert">{error.message}</p>}
        {data && data.role !== 'owner' && <p>{w.ownedBy(data.owner)}</p>}
        {data?.people.length === 0 && <p className="quiet">{w.alone}</p>}
        {data && data.people.length > 0 && (
          <ul className={css.people}>
            {data.people.map((one) => (
              <One key={one.id} lessonId={id} one={one} mayChange={data.role === 'owner'} />
            ))}
          </ul>
        )}
        {data?.role === 'owner' && <Links id={id} links={data.links} />}
      </div>
    </Dialog>
  );
}

/** Something done to how a lesson is shared; the list is asked for again. */
function useSharingAct<T, A = unknown>(id: string, act: (what: T) => Promise<A>) {
  const client = useQueryClient();
  const { message } = App.useApp();
  return useMutation({
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: ['sharing', id] }),
    onError: (fault: Error) => void message.error(fault.message),
  });
}

function One({ lessonId, one, mayChange }: { lessonId: string; one: Sharer; mayChange: boolean }) {
  const at = `/api/lessons/${lessonId}/sharing/people/${one.id}`;
  const change = useSharingAct(lessonId, (role: GivenRole) => call('PUT', at, { role }));
  const part = useSharingAct(lessonId, () => call('DELETE', at));
  return (
    <li>
      <b>{one.name}</b>
      {mayChange ? (
        <>
          <Select
            aria-label={w.roleOf(one.name)}
            className={css.role}
            options={roles}
            value={one.role}
            onChange={(role) => change.mutate(role)}
          />
          <Popconfirm title={`${w.partLabel(one.name)}?`} okText={w.part} onConfirm={() => part.mutate(undefined)}>
            <Button type="text" aria-label={w.partLabel(one.name)}>
              {w.part}
            </Button>
          </Popconfirm>
        </>
      ) : (
        <span className="quiet">{w.roles[one.role]}</span>
      )}
    </li>
  );
}

function Links({ id, links }: { id: string; links: readonly { id: string; role: GivenRole; expiresAt: string }[] }) {
  const [role, setRole] = useState<GivenRole>('reader');
  const make = useSharingAct(id, () => call<ShareLinkMade>('POST', `/api/lessons/${id}/sharing/links`, { role }));
  const drop = useSharingAct(id, (link: string) => call('DELETE', `/api/lessons/${id}/sharing/links/${link}`));
  return (
    <>
      <p className="quiet">{w.about}</p>
      <div className={css.make}>
        <Select aria-label={w.linkRole} className={css.role} options={roles} value={role} onChange={setRole} />
        <Button type="primary" loading={make.isPending} onClick={() => make.mutate(undefined)}>
          {w.makeLink}
        </Button>
      </div>
      {make.data && (
        <div className={css.made}>
          <code>{make.data.address}</code>
          <CopyKey size="middle" key={make.data.id} text={make.data.address} label={w.copy} done={w.copied} />
        </div>
      )}
      {links.length > 0 && (
        <>
          <h3>{w.links}</h3>
          <ul className={css.people}>
            {links.map((link) => (
              <li key={link.id}>
                <span>{w.roles[link.role]}</span>
                <span className="quiet small">{w.until(dayOf(link.expiresAt))}</span>
                <Button type="text" onClick={() => drop.mutate(link.id)}>
                  {w.takeBack}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
