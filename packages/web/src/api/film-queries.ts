import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { FILMS_PATH, type FilmsAnswer, type ShootLink, type ShootNote } from '@viaticum/contract';
import { call } from './http.js';

/** What was noted while a lesson was filmed; looked for again while the station is open. */
export const shootQuery = (id: string) =>
  queryOptions({
    queryKey: ['shoot', id],
    queryFn: () => call<ShootNote[]>('GET', `/api/lessons/${id}/shoot`),
    refetchInterval: 5000,
  });
export const shootLinkQuery = (id: string) =>
  queryOptions({ queryKey: ['shoot-link', id], queryFn: () => call<ShootLink>('GET', `/api/lessons/${id}/shoot-link`) });
export function useMakeShootLink(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call<ShootLink>('POST', `/api/lessons/${id}/shoot-link`, {}),
    onSuccess: (link) => client.setQueryData(shootLinkQuery(id).queryKey, link),
  });
}
export const filmsQuery = queryOptions({ queryKey: ['films'], queryFn: () => call<FilmsAnswer>('GET', FILMS_PATH) });
export const filmUrl = (sha256: string): string => `${FILMS_PATH}/${sha256}`;
export function useRemoveFilm() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (sha256: string) => call('DELETE', filmUrl(sha256)),
    onSuccess: () => client.invalidateQueries({ queryKey: filmsQuery.queryKey }),
  });
}
