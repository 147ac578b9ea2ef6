import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SharedAnswer } from '@viaticum/contract';
import { Alert, Button } from 'antd';
import { useNavigate, useParams } from 'react-router';
import { Door, Others } from '../account/door.js';
import { call } from '../api/http.js';
import { LinkKey } from '../ui/link-key.js';
import { sharingWords as w } from '../words/sharing.js';

/** What a link leads to by which somebody shares a lesson. */
export default function Shared() {
  const { token = '' } = useParams();
  const { data, error } = useQuery({
    queryKey: ['shared', token],
    queryFn: () => call<SharedAnswer>('GET', `/api/shared/${token}`),
    staleTime: 0,
  });
  const client = useQueryClient();
  const navigate = useNavigate();
  const put = useMutation({
    mutationFn: () => call<{ lessonId: string }>('POST', `/api/shared/${token}`),
    onSuccess: async ({ lessonId }) => {
      await client.invalidateQueries({ queryKey: ['lessons'] });
      navigate(`/lesson/${lessonId}`, { replace: true });
    },
  });
  const toShelf = (
    <Others>
      <LinkKey type="text" to="/">
        {w.shelf}
      </LinkKey>
    </Others>
  );
  if (error)
    return (
      <Door title={w.over} about={error.message}>
        {toShelf}
      </Door>
    );
  if (!data) return <Door title="" />;
  // Somebody who reads it may come to change it by another link.
  const isThere = data.has === 'owner' || data.has === 'editor' || data.has === data.role;
  return (
    <Door title={w.comes(data.owner, data.title)} about={isThere ? w.has : w.comesAbout[data.role]}>
      {put.error && <Alert type="error" showIcon={false} title={put.error.message} />}
      <Button type="primary" size="large" block loading={put.isPending} onClick={() => put.mutate()}>
        {isThere ? w.openIt : w.put}
      </Button>
      {toShelf}
    </Door>
  );
}
