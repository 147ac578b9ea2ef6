import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type {
  ClassAnswer,
  ClassLinks,
  ClassRecord,
  DeviceRole,
  Invite,
  Language,
  Letter,
  OfStudent,
  Person,
  Rehearsal,
  SaveOfStudent,
} from '@viaticum/contract';
import { call } from './http.js';
import { paged } from './queries.js';

export const classesQuery = paged<ClassAnswer>('classes', 50);
export const classQuery = (code: string) =>
  queryOptions({ queryKey: ['class', code], queryFn: () => call<ClassAnswer>('GET', `/api/classes/${code}`) });
export const classLinksQuery = (code: string) =>
  queryOptions({ queryKey: ['class-links', code], queryFn: () => call<ClassLinks>('GET', `/api/classes/${code}/links`) });
export const classStudentsQuery = (code: string) =>
  queryOptions({
    queryKey: ['class-students', code],
    queryFn: () => call<Record<string, OfStudent>>('GET', `/api/classes/${code}/students`),
  });
export const classRecordQuery = (code: string) =>
  queryOptions({ queryKey: ['class-record', code], queryFn: () => call<ClassRecord>('GET', `/api/classes/${code}/record`) });
export const peopleQuery = queryOptions({ queryKey: ['people'], queryFn: () => call<Person[]>('GET', '/api/people') });
export const lettersQuery = queryOptions({ queryKey: ['letters'], queryFn: () => call<Letter[]>('GET', '/api/letters') });

/** A change after which some lists are read again. */
function useChange<A, T>(mutationFn: (args: A) => Promise<T>, ...keys: readonly unknown[][]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () => Promise.all(keys.map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}

export const useBeginClass = () =>
  useChange(
    ({ lessonId, rehearsal }: { lessonId: string; rehearsal?: Rehearsal }) =>
      call<ClassAnswer>('POST', '/api/classes', { lessonId, ...(rehearsal && { rehearsal }) }),
    ['classes'],
  );
export const usePlanClass = () =>
  useChange(
    (given: { lessonId: string; invite: Invite }) => call<ClassAnswer>('POST', '/api/classes/planned', given),
    ['classes'],
  );
export const useSaveInvite = () =>
  useChange(
    ({ code, invite }: { code: string; invite: Invite }) => call<ClassAnswer>('PUT', `/api/classes/${code}/invite`, { invite }),
    ['classes'],
  );
export const useOpenPlanned = () =>
  useChange((code: string) => call<ClassAnswer>('POST', `/api/classes/${code}/open`, {}), ['classes'], ['class']);
export const useWriteLetters = () =>
  useChange((code: string) => call<{ written: number }>('POST', `/api/classes/${code}/letters`, {}), ['letters']);
export const useSaveStudent = (code: string) =>
  useChange(
    ({ studentId, change }: { studentId: string; change: SaveOfStudent }) =>
      call('PUT', `/api/classes/${code}/students/${encodeURIComponent(studentId)}`, change),
    ['class-students', code],
    ['people'],
  );
/** In which language the phones, the wall and the letters of a class are. */
export const useChooseLanguage = (code: string) =>
  useChange(
    (language: Language) => call<ClassAnswer>('PUT', `/api/classes/${code}/language`, { language }),
    ['classes'],
    ['class'],
    ['sheet'],
  );
export const useChooseAddress = (code: string) =>
  useChange((address: string) => call<ClassAnswer>('PUT', `/api/classes/${code}/address`, { address }), ['classes'], ['class']);
export const useRenewKey = (code: string) =>
  useChange(
    (role: DeviceRole) => call<ClassLinks>('POST', `/api/classes/${code}/links/${role}/renew`, {}),
    ['class-links', code],
  );
export const useAddPerson = () =>
  useChange((firstName: string) => call<Person>('POST', '/api/people', { firstName }), ['people']);
export const useAloneLink = () =>
  useMutation({ mutationFn: (lessonId: string) => call<{ address: string }>('POST', `/api/lessons/${lessonId}/alone`, {}) });
