import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type {
  AccountAnswer,
  AccountLinkAnswer,
  AccountsAnswer,
  ChangePassword,
  FollowAccountLink,
  Instructor,
  NewAccount,
  SecondFactorAnswer,
  SignIn,
} from '@viaticum/contract';
import { call } from '../api/http.js';
import { sessionQuery } from '../api/queries.js';

export const accountQuery = queryOptions({
  queryKey: ['account'],
  queryFn: () => call<AccountAnswer>('GET', '/api/account'),
});
export const accountsQuery = queryOptions({
  queryKey: ['accounts'],
  queryFn: () => call<AccountsAnswer>('GET', '/api/accounts'),
});
export const accountLinkQuery = (token: string) =>
  queryOptions({
    queryKey: ['account-link', token],
    queryFn: () => call<AccountLinkAnswer>('GET', `/api/account-links/${token}`),
  });

/** Whoever has come in is known from here on, and nothing is kept of who was in before. */
function useComeIn() {
  const client = useQueryClient();
  return ({ name, role }: Instructor) => {
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
    client.setQueryData(sessionQuery.queryKey, { instructor: { name, role }, needsOwner: false });
  };
}
export function useSignIn() {
  const onSuccess = useComeIn();
  return useMutation({ mutationFn: (given: SignIn) => call<Instructor>('POST', '/api/session', given), onSuccess });
}
export function useMakeOwner() {
  const onSuccess = useComeIn();
  return useMutation({ mutationFn: (given: NewAccount) => call<Instructor>('POST', '/api/owner', given), onSuccess });
}
export function useFollowLink(token: string) {
  const comeIn = useComeIn();
  return useMutation({
    mutationFn: (given: FollowAccountLink) => call<Instructor & { isIn: boolean }>('POST', `/api/account-links/${token}`, given),
    onSuccess: (made) => {
      if (made.isIn) comeIn(made);
    },
  });
}
export const useForgotten = () => useMutation({ mutationFn: (name: string) => call('POST', '/api/forgotten', { name }) });

/** Deletes one's own account; nothing of it is kept in this browser. */
export function useLeave() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (password: string) => call('POST', '/api/account/leave', { password }),
    onSuccess: () => client.clear(),
  });
}

/** What is done to one's own account, or to those of an installation. */
export function useAccountActs() {
  const client = useQueryClient();
  const onSuccess = () => {
    void client.invalidateQueries({ queryKey: accountQuery.queryKey });
    void client.invalidateQueries({ queryKey: accountsQuery.queryKey });
  };
  return {
    password: useMutation({ mutationFn: (given: ChangePassword) => call('PUT', '/api/account/password', given), onSuccess }),
    endSession: useMutation({ mutationFn: (id: string) => call('DELETE', `/api/account/sessions/${id}`), onSuccess }),
    endOthers: useMutation({
      mutationFn: () => call<{ ended: number }>('DELETE', '/api/account/sessions'),
      onSuccess,
    }),
    beginFactor: useMutation({
      mutationFn: (password: string) => call<SecondFactorAnswer>('POST', '/api/account/second-factor', { password }),
    }),
    confirmFactor: useMutation({
      mutationFn: (code: string) => call<{ codes: string[] }>('PUT', '/api/account/second-factor', { code }),
      onSuccess,
    }),
    dropFactor: useMutation({
      mutationFn: (password: string) => call('POST', '/api/account/second-factor/off', { password }),
      onSuccess,
    }),
    invite: useMutation({ mutationFn: () => call<{ address: string }>('POST', '/api/accounts/invitations', {}), onSuccess }),
    takeBack: useMutation({ mutationFn: (id: string) => call('DELETE', `/api/accounts/invitations/${id}`), onSuccess }),
    switchOff: useMutation({
      mutationFn: ({ id, isOff }: { id: string; isOff: boolean }) => call('PUT', `/api/accounts/${id}`, { isOff }),
      onSuccess,
    }),
  };
}
