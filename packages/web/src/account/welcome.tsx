import { useQuery } from '@tanstack/react-query';
import { PASSWORD_LETTERS } from '@viaticum/contract';
import { useNavigate, useParams } from 'react-router';
import { LinkKey } from '../ui/link-key.js';
import { accountWords } from '../words/account.js';
import { accountLinkQuery, useFollowLink } from './account-queries.js';
import { Door, Others, ShortForm } from './door.js';

/** What a link leads to that was handed out: an account of one's own, or a new password. */
export default function Welcome() {
  const { token = '' } = useParams();
  const { data: link, error } = useQuery(accountLinkQuery(token));
  const follow = useFollowLink(token);
  const navigate = useNavigate();
  const { welcome: words, signIn, fields, forgotten } = accountWords;
  const toSignIn = (
    <Others>
      <LinkKey type="text" to="/sign-in">
        {forgotten.back}
      </LinkKey>
    </Others>
  );
  if (error)
    return (
      <Door title={words.over} about={error.message}>
        {toSignIn}
      </Door>
    );
  if (!link) return <Door title="" />;
  const isInvite = link.kind === 'invite';
  const title = isInvite ? words.invite : words.reset(link.name ?? '');
  if (follow.data?.isIn === false)
    return (
      <Door title={title} about={words.done}>
        {toSignIn}
      </Door>
    );
  const password = {
    ...{ key: 'password', label: isInvite ? signIn.password : fields.next, kind: 'password' as const },
    ...{ complete: 'new-password', note: fields.nextNote(PASSWORD_LETTERS) },
  };
  return (
    <Door title={title} about={isInvite ? words.inviteAbout : words.resetAbout}>
      <ShortForm
        fields={isInvite ? [{ key: 'name', label: signIn.name, complete: 'username' }, password] : [password]}
        go={isInvite ? words.go : words.set}
        onGo={({ name, password: next = '' }) =>
          follow.mutate(
            { ...(name === undefined ? {} : { name: name.trim() }), password: next },
            { onSuccess: ({ isIn }) => isIn && navigate('/', { replace: true }) },
          )
        }
        error={follow.error}
        isBusy={follow.isPending}
      />
    </Door>
  );
}
