import { keepPreviousData, type UseQueryResult, useQuery } from '@tanstack/react-query';
import type { FollowSheet } from '@viaticum/contract';
import { useCallback, useSyncExternalStore } from 'react';
import { call } from '../api/http.js';
import { useHeld } from '../ui/use-held.js';
import { closeConnection, type LiveConnection, liveConnection, type Role } from './connection.js';

/** The sheet of a class and a connection to it, for a screen that keeps no place of its own in it; closed with the screen. */
export function useOpenClass(
  code: string,
  role: Role,
  key?: string,
): { sheet: UseQueryResult<FollowSheet>; connection: LiveConnection | null } {
  const connect = useCallback(
    () => liveConnection(code, role, { token: null, keepToken: () => undefined, ...(key && { key }) }),
    [code, role, key],
  );
  const connection = useHeld(connect, closeConnection);
  const revision = useRevision(connection);
  const sheet = useQuery({
    // A class that was planned opens with the lesson as it is then.
    queryKey: ['sheet', code, revision],
    queryFn: () => call<FollowSheet>('GET', `/api/join/${code}/sheet`),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
  return { sheet, connection };
}

const none = () => () => undefined;
/** The revision of the lesson that is taught, as far as it is known. */
const useRevision = (connection: LiveConnection | null): number =>
  useSyncExternalStore(connection?.subscribe ?? none, () => connection?.get().state.revision ?? 0);
