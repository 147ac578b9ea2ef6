import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type { ByHand, LoggedClass } from '@viaticum/contract';
import type { Suggestion } from '@viaticum/core/log';
import { call } from './http.js';

/** What the classes of a lesson suggest to change in it. */
export const suggestionsQuery = (lessonId: string) =>
  queryOptions({
    queryKey: ['suggestions', lessonId],
    queryFn: () => call<Suggestion[]>('GET', `/api/lessons/${lessonId}/suggestions`),
  });
/** Classes of the log, the newest first: of one lesson or of all, with words in them. */
export const logQuery = (lesson: string | null, words: string) =>
  infiniteQueryOptions({
    queryKey: ['log', lesson, words],
    queryFn: ({ pageParam }) => {
      const asked = new URLSearchParams({
        ...(lesson && { lesson }),
        ...(words && { words }),
        ...(pageParam && { before: pageParam }),
      });
      return call<LoggedClass[]>('GET', `/api/log?${asked}`);
    },
    initialPageParam: '',
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last.at(-1)?.id),
  });
const PAGE = 40;
/** All of the log as tables. */
export const LOG_URL = '/api/log/package';

function useLogChange<T, R>(act: (given: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => {
      for (const key of ['log', 'suggestions']) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}
export const useNoteByHand = () =>
  useLogChange((given: { lessonId: string; byHand: ByHand }) => call<LoggedClass>('POST', '/api/log/by-hand', given));
export const useLogNote = () =>
  useLogChange(({ id, note }: { id: string; note: string }) => call<LoggedClass>('PUT', `/api/log/${id}/note`, { note }));
export const useDropLogged = () => useLogChange((id: string) => call('DELETE', `/api/log/${id}`));
