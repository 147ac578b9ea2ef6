import { useParams } from 'react-router';
import { LinkKey } from '../../../ui/link-key.js';
import { transferWords } from '../../../words/transfers.js';

const w = transferWords.tablet;

/** What tracing on a tablet needs, and the way there. */
export function TabletTopic() {
  const { id } = useParams();
  return (
    <>
      <p className="quiet small">{w.about}</p>
      <p className="small">{w.card}</p>
      <p className="small">{w.bright}</p>
      <p>
        <LinkKey type="primary" to={`/lesson/${id}/trace`}>
          {w.open}
        </LinkKey>
      </p>
    </>
  );
}
