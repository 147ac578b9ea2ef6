import { Button, Progress } from 'antd';
import { jobWords as w } from '../words/jobs.js';
import type { Job, JobKeys } from '../workers/use-job.js';
import css from './working.module.css';

type Given = { said: string; job: Pick<Job<unknown>, 'progress'> & Pick<JobKeys, 'cancel' | 'again' | 'isCancelled'> };

/** What is being worked out and how far it has come, with the way to leave it; left, the way to go on. Shown only if it takes a while. */
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
  return (
    <div className={css.working}>
      <span role="status">{said}</span>
      <Progress size="small" percent={Math.round((job.progress ?? 0) * 100)} aria-label={said} />
      <Button size="small" onClick={job.cancel}>
        {w.cancel}
      </Button>
    </div>
  );
}
