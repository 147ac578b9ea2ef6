import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type { KitLink, Studio } from '@viaticum/contract';
import { call } from './http.js';

export const studioQuery = queryOptions({
  queryKey: ['studio'],
  queryFn: () => call<Studio>('GET', '/api/studio'),
  staleTime: 60_000,
});
/** What the studio has and pays, said anew: shown at once, taken back where it cannot be kept. */
export function useSaveStudio() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (studio: Studio) => call('PUT', '/api/studio', studio),
    onMutate: (studio) => {
      const before = client.getQueryData(studioQuery.queryKey);
      client.setQueryData(studioQuery.queryKey, studio);
      return before;
    },
    onError: (_, __, before) => client.setQueryData(studioQuery.queryKey, before),
  });
}
export const kitLinkQuery = (id: string) =>
  queryOptions({ queryKey: ['kit-link', id], queryFn: () => call<KitLink>('GET', `/api/lessons/${id}/kit-link`) });
export function useMakeKitLink(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call<KitLink>('POST', `/api/lessons/${id}/kit-link`, {}),
    onSuccess: (link) => client.setQueryData(kitLinkQuery(id).queryKey, link),
  });
}
