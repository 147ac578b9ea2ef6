import type { Lesson, Reference } from '@viaticum/contract';
import { fillPlacement } from '@viaticum/core/picture';
import { nanoid } from 'nanoid';
import { useUploadPicture } from '../../api/queries.js';
import { useLesson, useSession } from '../../lesson/context.js';

const roleFor = (lesson: Lesson, replaced: string | null): Reference['role'] =>
  lesson.references.some((one) => one.role === 'whole' && one.id !== replaced) ? 'detail' : 'whole';

/** Uploads a file and puts it into the lesson, filling the canvas, in the place of another reference where one is named. */
export function useTakePicture() {
  const lesson = useLesson();
  const session = useSession();
  const upload = useUploadPicture();
  const take = (file: File | undefined, replaced: string | null) => {
    if (!file) return;
    upload.mutate(file, {
      onSuccess: ({ sha256, widthPx, heightPx }) => {
        if (replaced) session.do('removeReference', { id: replaced });
        session.do('addReference', {
          reference: {
            id: nanoid(8),
            pictureSha256: sha256,
            widthPx,
            heightPx,
            role: roleFor(lesson, replaced),
            permission: { kind: 'unset' },
            placement: fillPlacement({ widthPx, heightPx }, lesson.support),
          },
        });
      },
    });
  };
  return { take, isBusy: upload.isPending, error: upload.error };
}
