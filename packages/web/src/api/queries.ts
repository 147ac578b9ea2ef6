import { infiniteQueryOptions, type QueryClient, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type {
  Course,
  Kept,
  KeptAnswer,
  Lesson,
  LessonAnswer,
  LessonCard,
  PictureAnswer,
  Room,
  SavedRoom,
  SessionAnswer,
  SharingAnswer,
  ShelfPlace,
} from '@viaticum/contract';
import { call } from './http.js';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: () => call<SessionAnswer>('GET', '/api/session'),
  staleTime: 60_000,
});
/** A list that comes in pages of a known length, each after the last of the former. */
export const paged = <T extends { id: string }>(name: string, page: number) =>
  infiniteQueryOptions({
    queryKey: [name],
    queryFn: ({ pageParam }) => call<T[]>('GET', `/api/${name}${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (last) => (last.length === page ? last.at(-1)?.id : undefined),
    select: ({ pages }) => pages.flat(),
  });
export const lessonsQuery = queryOptions({ queryKey: ['lessons'], queryFn: () => call<LessonCard[]>('GET', '/api/lessons') });
export const lessonQuery = (id: string) => queryOptions({ queryKey: ['lesson', id], queryFn: () => readLesson(id) });
export const finishedUrl = (id: string, revision: number) => `/api/lessons/${id}/finished?of=${revision}`;
export const roomsQuery = queryOptions({ queryKey: ['rooms'], queryFn: () => call<SavedRoom[]>('GET', '/api/rooms') });
export const keptQuery = queryOptions({ queryKey: ['kept'], queryFn: () => call<KeptAnswer[]>('GET', '/api/kept') });
export const readLesson = (id: string) => call<LessonAnswer>('GET', `/api/lessons/${id}`);
export const pictureUrl = (sha256: string, rendition: 'full' | 'work' | 'thumb') => `/api/pictures/${sha256}/${rendition}`;

export const coursesQuery = queryOptions({ queryKey: ['courses'], queryFn: () => call<Course[]>('GET', '/api/courses') });
/** With whom a lesson is shared. */
export const sharingQuery = (id: string) =>
  queryOptions({
    queryKey: ['sharing', id],
    queryFn: () => call<SharingAnswer>('GET', `/api/lessons/${id}/sharing`),
    staleTime: 0,
  });

const refresh = (client: QueryClient, key: string) => () => client.invalidateQueries({ queryKey: [key] });

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call('DELETE', '/api/session'),
    onSuccess: () => {
      client.clear();
      return client.invalidateQueries();
    },
  });
}
/** What is done with a lesson as it stands on the shelf. */
export function useShelf() {
  const client = useQueryClient();
  const anew = refresh(client, 'lessons');
  const rename = useMutation({
    mutationFn: async ({ id, title }: { id: string; title: string }) => {
      const { revision, document } = await readLesson(id);
      return call('PUT', `/api/lessons/${id}`, { baseRevision: revision, document: { ...document, title } });
    },
    onSuccess: anew,
  });
  const duplicate = useMutation({
    mutationFn: async ({ id, title }: { id: string; title: string }) => {
      const { document } = await readLesson(id);
      return call<LessonAnswer>('POST', '/api/lessons', { document: { ...document, title } });
    },
    onSuccess: anew,
  });
  const remove = useMutation({ mutationFn: (id: string) => call('DELETE', `/api/lessons/${id}`), onSuccess: anew });
  const restore = useMutation({ mutationFn: (id: string) => call('POST', `/api/lessons/${id}/restore`, {}), onSuccess: anew });
  const leave = useMutation({ mutationFn: (id: string) => call('DELETE', `/api/lessons/${id}/sharing/me`), onSuccess: anew });
  const place = useMutation({
    mutationFn: ({ id, ...at }: { id: string } & ShelfPlace) => call('PUT', `/api/lessons/${id}/place`, at),
    onSuccess: anew,
  });
  return { rename, duplicate, remove, restore, leave, place };
}
export function useCreateLesson() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (document: Lesson) => call<LessonAnswer>('POST', '/api/lessons', { document }),
    onSuccess: refresh(client, 'lessons'),
  });
}
export function useUploadPicture() {
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('picture', file);
      return call<PictureAnswer>('POST', '/api/pictures', form);
    },
  });
}
export function useSaveRoom() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (room: Room) => call<SavedRoom>('PUT', '/api/rooms', { room }),
    onSuccess: refresh(client, 'rooms'),
  });
}
export function useRemoveRoom() {
  const client = useQueryClient();
  return useMutation({ mutationFn: (id: string) => call('DELETE', `/api/rooms/${id}`), onSuccess: refresh(client, 'rooms') });
}
export function useKeep() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (kept: Kept) => call<KeptAnswer>('PUT', '/api/kept', { kept }),
    onSuccess: refresh(client, 'kept'),
  });
}
export function useLetGo() {
  const client = useQueryClient();
  return useMutation({ mutationFn: (id: string) => call('DELETE', `/api/kept/${id}`), onSuccess: refresh(client, 'kept') });
}
