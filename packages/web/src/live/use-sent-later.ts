import { useCallback, useEffect, useRef, useState } from 'react';
import { type ApiFailure, call } from '../api/http.js';
import { useLatest } from '../ui/use-latest.js';
import { remember, remembered } from './follow/remembered.js';

type Options<A, M> = {
  /** Where the answer is read. */
  path: string;
  /** Under which names the browser keeps the last answer, and what waits. */
  names: { answer: string; waiting: string };
  /** Sends what waits; gives what the answer has become by it. */
  send: (mine: M[]) => Promise<Partial<A>>;
  /** So many go at once. */
  most?: number;
  everyMs: number;
};

/** An answer that is read again and again, and as it was last where there is no network; what is added then waits and is sent later. */
export function useSentLater<A extends object, M>({
  path,
  names,
  send,
  most = Number.POSITIVE_INFINITY,
  everyMs,
}: Options<A, M>) {
  const [answer, setAnswer] = useState<A | null>(() => remembered(names.answer));
  const [waiting, setWaiting] = useState<M[]>(() => remembered(names.waiting) ?? []);
  const [fault, setFault] = useState<string | null>(null);
  const [isOffline, setOffline] = useState(false);
  // What waits, as it is now: read when an answer comes.
  const sent = useRef(waiting);
  const latest = useLatest({ names, send, most });
  const keep = useCallback(
    (next: M[]) => {
      sent.current = next;
      setWaiting(next);
      remember(latest.current.names.waiting, next);
    },
    [latest],
  );
  const look = useCallback(async () => {
    try {
      const mine = sent.current.slice(0, latest.current.most);
      if (mine.length > 0) {
        const changed = await latest.current.send(mine);
        setAnswer((before) => before && { ...before, ...changed });
        keep(sent.current.filter((one) => !mine.includes(one)));
      }
      const fresh = await call<A>('GET', path);
      remember(latest.current.names.answer, fresh);
      setAnswer(fresh);
      setFault(null);
      setOffline(false);
    } catch (error) {
      const { status, message } = error as ApiFailure;
      if (status === 0) setOffline(true);
      else setFault(message);
    }
  }, [path, keep, latest]);
  useEffect(() => {
    void look();
    const timer = setInterval(() => void look(), everyMs);
    return () => clearInterval(timer);
  }, [look, everyMs]);
  const add = (change: (before: M[]) => M[]): void => {
    keep(change(sent.current));
    void look();
  };
  return { answer, waiting, fault, isOffline, add };
}
