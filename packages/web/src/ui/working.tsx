import { Button, Progress } from 'antd';
import { jobWords as w } from '../words/jobs.js';
import type { Job, JobKeys } from '../workers/use-job.js';
import css from './working.module.css';

type Given = { said: string; job: Pick<Job<unknown>, 'progress'> & Pick<JobKeys, 'cancel' | 'again' | 'isCancelled'> };

/** What is being done and how far it has come, with the way to leave it, once there is one. Shown only if it takes a while. */
export function Doing({ said, share, onCancel }: { said: string; share: number; onCancel: (() => void) | undefined }) {
  return (
    <div className={css.working}>
      <span role="status">{said}</span>
      <Progress size="small" percent={Math.round(share * 100)} aria-label={said} />
      <Button size="small" disabled={!onCancel} onClick={onCancel}>
        {w.cancel}
      </Button>
    </div>
  );
}

/** A job as it is being worked out; left, with the way to go on after all. */
export function Working({ said, job }: Given) {
  if (job.isCancelled)
    return (
      <p className={css.left}>
        <span className="quiet">{w.left}</span>
        <Button size="small" onClick={job.again}>
          {w.again}
        </Button>
      </p>
    );
  return <Doing said={said} share={job.progress ?? 0} onCancel={job.cancel} />;
}
