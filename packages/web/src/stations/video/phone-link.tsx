import { useQuery } from '@tanstack/react-query';
import { Button, QRCode } from 'antd';
import { shootLinkQuery, useMakeShootLink } from '../../api/film-queries.js';
import { CopyKey } from '../../ui/copy-key.js';
import { filmWords } from '../../words/film.js';
import css from './video.module.css';

const p = filmWords.phone;

/** The address at which the list is ticked beside the easel. */
export function PhoneLink({ id }: { id: string }) {
  const { data: link } = useQuery(shootLinkQuery(id));
  const { mutate, isPending } = useMakeShootLink(id);
  return (
    <section aria-label={p.title}>
      <h2>{p.title}</h2>
      <p>{p.about}</p>
      {link?.address ? (
        <div className={css.link}>
          <QRCode value={link.address} size={132} bordered={false} />
          <div>
            <p className={css.address}>{link.address}</p>
            <CopyKey text={link.address} label={p.copy} done={p.copied} />{' '}
            <Button size="small" loading={isPending} onClick={() => mutate()}>
              {p.anew}
            </Button>
          </div>
        </div>
      ) : (
        <Button loading={isPending} onClick={() => mutate()}>
          {p.make}
        </Button>
      )}
    </section>
  );
}
