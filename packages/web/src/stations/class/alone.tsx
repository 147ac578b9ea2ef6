import { Button } from 'antd';
import { useAloneLink } from '../../api/class-queries.js';
import { useLesson, useSession, useSnapshot } from '../../lesson/context.js';
import { CopyKey } from '../../ui/copy-key.js';
import { aloneWords as w } from '../../words/class.js';
import { words } from '../../words/words.js';

/** The link by which the lesson is painted alone. */
export function Alone() {
  const lesson = useLesson();
  const { id } = useSession();
  const { save } = useSnapshot();
  const link = useAloneLink();
  const isReady = save.kind === 'saved' && lesson.steps.length > 0;
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about}</p>
      <Button type="primary" disabled={!isReady || link.isPending} onClick={() => link.mutate(id)}>
        {link.data ? w.renew : w.make}
      </Button>
      {!isReady && <p className="small quiet">{lesson.steps.length === 0 ? words.class.noSteps : words.class.unsaved}</p>}
      {link.data && (
        <p>
          <a href={link.data.address} target="_blank" rel="noreferrer">
            {link.data.address.replace(/^https?:\/\//, '')}
          </a>{' '}
          <CopyKey text={link.data.address} label={w.copy} done={w.copied} />
        </p>
      )}
      {link.error && (
        <p className="signal" role="alert">
          {link.error.message}
        </p>
      )}
    </section>
  );
}
