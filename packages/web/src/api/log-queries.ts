import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type { ByHand, LoggedClass, LoggedHeap, NewReminders, NewResult, PictureAnswer } from '@viaticum/contract';
import type { Calibration, GroupOff, Suggestion } from '@viaticum/core/log';
import { call } from './http.js';

/** What the classes of a lesson suggest to change in it. */
export const suggestionsQuery = (lessonId: string) =>
  queryOptions({
    queryKey: ['suggestions', lessonId],
    queryFn: () => call<Suggestion[]>('GET', `/api/lessons/${lessonId}/suggestions`),
  });
/** Factors that classes teach of a lesson, and how canvases of its groups came out. */
export const calibrationsQuery = (lessonId: string) =>
  queryOptions({
    queryKey: ['calibrations', lessonId],
    queryFn: () => call<{ calibrations: Calibration[]; results: GroupOff[] }>('GET', `/api/lessons/${lessonId}/calibrations`),
  });
/** A class of the log with all that is known of it. */
export const loggedQuery = (id: string) =>
  queryOptions({ queryKey: ['log', 'one', id], queryFn: () => call<LoggedClass>('GET', `/api/log/${id}`) });
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
      for (const key of ['log', 'suggestions', 'calibrations']) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}
export const useNoteByHand = () =>
  useLogChange((given: { lessonId: string; byHand: ByHand }) => call<LoggedClass>('POST', '/api/log/by-hand', given));
export const useLogNote = () =>
  useLogChange(({ id, note }: { id: string; note: string }) => call<LoggedClass>('PUT', `/api/log/${id}/note`, { note }));
export const useDropLogged = () => useLogChange((id: string) => call('DELETE', `/api/log/${id}`));
export const useHeaps = () =>
  useLogChange(({ id, heaps }: { id: string; heaps: LoggedHeap[] }) =>
    call<LoggedClass>('PUT', `/api/log/${id}/heaps`, { heaps }),
  );
export const useAddResult = () =>
  useLogChange(({ id, result }: { id: string; result: NewResult }) =>
    call<LoggedClass>('POST', `/api/log/${id}/results`, result),
  );
type OfResult = { id: string; resultId: string };
export const useDropResult = () =>
  useLogChange(({ id, resultId }: OfResult) => call<LoggedClass>('DELETE', `/api/log/${id}/results/${resultId}`));
/** Shares a photograph, with what was said to that; until then it is on this machine alone. */
export const useShareResult = () =>
  useLogChange(async ({ id, resultId, photo, consent }: OfResult & { photo: Blob; consent: string }) => {
    const form = new FormData();
    form.append('file', photo, 'canvas.png');
    const { sha256 } = await call<PictureAnswer>('POST', '/api/pictures', form);
    return call<LoggedClass>('PUT', `/api/log/${id}/results/${resultId}/shared`, { sha256, consent });
  });
export const useUnshareResult = () =>
  useLogChange(({ id, resultId }: OfResult) => call<LoggedClass>('DELETE', `/api/log/${id}/results/${resultId}/shared`));
export const useRemind = () => useLogChange((given: NewReminders) => call<{ written: number }>('POST', '/api/reminders', given));
