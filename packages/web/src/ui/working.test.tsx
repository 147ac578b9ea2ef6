/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act, screen, waitFor } from '@testing-library/react';
import { Button } from 'antd';
import { useState } from 'react';
import { asInBrowser, cleanup, onPage, server } from '../fixtures/page.fixture.js';
import { CancelledJob, type JobWorker } from '../workers/job-worker.js';
import { useJobOf } from '../workers/use-job.js';
import { CommitInput } from './commit-input.js';
import { Working } from './working.js';

type Jobs = { measure: { args: { of: string }; answer: string } };
type Asked = { of: string; tell: (share: number) => void; finish: (answer: string) => void; cancelled: boolean };

/** A worker whose questions are answered by hand. */
function byHand() {
  const asked: Asked[] = [];
  const worker = {
    ask(_: string, { of }: { of: string }, tell: (share: number) => void) {
      let end: { finish: (answer: string) => void; fail: (error: Error) => void } | null = null;
      const answer = new Promise<string>((finish, fail) => {
        end = { finish, fail };
      });
      answer.catch(() => undefined);
      const one: Asked = { of, tell, finish: (said) => end?.finish(said), cancelled: false };
      asked.push(one);
      return {
        answer,
        stop: () => undefined,
        cancel() {
          one.cancelled = true;
          end?.fail(new CancelledJob());
        },
      };
    },
  } as unknown as JobWorker<Jobs>;
  return { asked, worker };
}
function Measured({ worker }: { worker: JobWorker<Jobs> }) {
  const [of, setOf] = useState('sky');
  const job = useJobOf<Jobs, 'measure'>(worker, 'measure', { of }, { afterMs: 0 });
  return (
    <>
      {job.answer === null ? <Working said="Measuring" job={job} /> : <p>found {job.answer}</p>}
      <Button onClick={() => setOf('sea')}>the sea</Button>
    </>
  );
}

beforeEach(() => {
  asInBrowser();
  server({});
});
afterEach(cleanup);

describe('what takes a while', () => {
  it('says how far it is; left, it is worked out when it is wanted after all', async () => {
    const { asked, worker } = byHand();
    const { user } = onPage(<Measured worker={worker} />);
    await waitFor(() => expect(asked).toHaveLength(1));
    act(() => asked[0]?.tell(0.4));
    expect(screen.getByRole('status').textContent).toBe('Measuring');
    expect(screen.getByRole('progressbar').getAttribute('aria-valuenow')).toBe('40');
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(asked[0]?.cancelled).toBe(true);
    expect(screen.queryByRole('progressbar')).toBeNull();
    expect(screen.getByText('Not worked out.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Work it out' }));
    await waitFor(() => expect(asked).toHaveLength(2));
    await act(async () => asked[1]?.finish('blue'));
    expect(screen.getByText('found blue')).toBeTruthy();
  });
  it('another question is asked by itself, though the last one was left; a late answer to that one is nothing', async () => {
    const { asked, worker } = byHand();
    const { user } = onPage(<Measured worker={worker} />);
    await waitFor(() => expect(asked).toHaveLength(1));
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    await user.click(screen.getByRole('button', { name: 'the sea' }));
    await waitFor(() => expect(asked.map((one) => one.of)).toEqual(['sky', 'sea']));
    await act(async () => asked[0]?.finish('late'));
    expect(screen.queryByText('found late')).toBeNull();
    await act(async () => asked[1]?.finish('green'));
    expect(screen.getByText('found green')).toBeTruthy();
  });
});

describe('a name that goes on in the next line', () => {
  it('is one text without breaks: Enter takes it, a pasted break is a blank', async () => {
    const said: string[] = [];
    const { user } = onPage(<CommitInput wraps label="name" value="sky" onCommit={(text) => said.push(text) > 0} />);
    const field = screen.getByLabelText('name');
    expect(field.tagName).toBe('TEXTAREA');
    await user.clear(field);
    await user.click(field);
    await user.paste('the tall\nlilac');
    await user.keyboard('{Enter}');
    expect(said.at(-1)).toBe('the tall lilac');
  });
});
