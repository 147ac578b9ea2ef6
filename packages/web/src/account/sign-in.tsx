import { useQuery } from '@tanstack/react-query';
import { PASSWORD_LETTERS } from '@viaticum/contract';
import { Button } from 'antd';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ApiFailure } from '../api/http.js';
import { sessionQuery } from '../api/queries.js';
import { accountWords } from '../words/account.js';
import { useForgotten, useMakeOwner, useSignIn } from './account-queries.js';
import { Door, Others, ShortForm } from './door.js';

type Way = 'in' | 'owner' | 'forgotten';

/** The door: sign in, ask for a new password, or, where nobody owns this installation yet, make it one's own. */
export default function SignInView() {
  const { data, isPending } = useQuery(sessionQuery);
  const [chosen, choose] = useState<Way | null>(null);
  const isFree = data?.needsOwner ?? false;
  const way = chosen ?? (isFree ? 'owner' : 'in');
  if (isPending) return <Door title={accountWords.signIn.title} />;
  if (way === 'owner') return <OwnerForm onDemo={() => choose('in')} />;
  if (way === 'forgotten') return <ForgottenForm onBack={() => choose('in')} />;
  return <SignInForm isFree={isFree} onOther={choose} />;
}

/** Where to go once one is in: what was asked for, if it lies here. */
function useGoIn() {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const to = search.get('to') ?? '/';
  return () => navigate(to.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true });
}

function SignInForm({ isFree, onOther }: { isFree: boolean; onOther: (way: Way) => void }) {
  const words = accountWords.signIn;
  const signIn = useSignIn();
  const goIn = useGoIn();
  const [known, setKnown] = useState<{ name: string; password: string } | null>(null);
  const attempt = (name: string, password: string, code?: string) =>
    signIn.mutate(
      { name, password, ...(code === undefined ? {} : { code }) },
      {
        onSuccess: goIn,
        onError: (error) => {
          if (error instanceof ApiFailure && error.code === 'second-factor') setKnown({ name, password });
        },
      },
    );
  const isAsked = signIn.error instanceof ApiFailure && signIn.error.code === 'second-factor';
  if (known)
    return (
      <Door title={words.secondTitle} about={words.secondAbout}>
        <ShortForm
          key="second"
          fields={[{ key: 'code', label: words.code, kind: 'digits', complete: 'one-time-code' }]}
          go={words.go}
          onGo={({ code = '' }) => attempt(known.name, known.password, code)}
          error={isAsked ? null : signIn.error}
          isBusy={signIn.isPending}
        />
        <Others>
          <Button type="text" onClick={() => setKnown(null)}>
            {words.back}
          </Button>
        </Others>
      </Door>
    );
  return (
    <Door title={words.title} about={isFree ? accountWords.owner.demoAbout : words.about}>
      <ShortForm
        key="first"
        fields={[
          { key: 'name', label: words.name, complete: 'username' },
          { key: 'password', label: words.password, kind: 'password', complete: 'current-password' },
        ]}
        go={words.go}
        onGo={({ name = '', password = '' }) => attempt(name, password)}
        error={isAsked ? null : signIn.error}
        isBusy={signIn.isPending}
      />
      <Others>
        <Button type="text" onClick={() => onOther(isFree ? 'owner' : 'forgotten')}>
          {isFree ? accountWords.owner.instead : words.forgotten}
        </Button>
      </Others>
    </Door>
  );
}

function OwnerForm({ onDemo }: { onDemo: () => void }) {
  const words = accountWords.owner;
  const make = useMakeOwner();
  const goIn = useGoIn();
  return (
    <Door title={words.title} about={words.about}>
      <ShortForm
        fields={[
          { key: 'name', label: accountWords.signIn.name, complete: 'username' },
          {
            ...{ key: 'password', label: accountWords.signIn.password, kind: 'password', complete: 'new-password' },
            note: accountWords.fields.nextNote(PASSWORD_LETTERS),
          },
        ]}
        go={words.go}
        onGo={({ name = '', password = '' }) => make.mutate({ name: name.trim(), password }, { onSuccess: goIn })}
        error={make.error}
        isBusy={make.isPending}
      />
      <Others>
        <Button type="text" onClick={onDemo}>
          {words.demo}
        </Button>
      </Others>
    </Door>
  );
}

function ForgottenForm({ onBack }: { onBack: () => void }) {
  const words = accountWords.forgotten;
  const ask = useForgotten();
  return (
    <Door title={words.title} about={ask.isSuccess ? words.done : words.about}>
      {!ask.isSuccess && (
        <ShortForm
          fields={[{ key: 'name', label: accountWords.signIn.name, complete: 'username' }]}
          go={words.go}
          onGo={({ name = '' }) => ask.mutate(name.trim())}
          error={ask.error}
          isBusy={ask.isPending}
        />
      )}
      <Others>
        <Button type="text" onClick={onBack}>
          {words.back}
        </Button>
      </Others>
    </Door>
  );
}
