import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BroughtIn } from '@viaticum/contract';
import { App } from 'antd';
import { call } from '../api/http.js';
import { FileKey } from '../ui/file-key.js';
import { shelfWords as w } from '../words/shelf.js';

/** Lessons from a file that was saved here or elsewhere, put onto the shelf. */
export function BringIn() {
  const { message } = App.useApp();
  const client = useQueryClient();
  const bring = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('package', file);
      return call<BroughtIn>('POST', '/api/package', form);
    },
    onSuccess: ({ added, there }) => {
      void message.success(w.broughtIn(added.length, there.length), 6);
      for (const key of ['lessons', 'courses', 'kept', 'rooms']) void client.invalidateQueries({ queryKey: [key] });
    },
    onError: (fault: Error) => void message.error(fault.message, 8),
  });
  return (
    <FileKey
      type="text"
      size="middle"
      accept=".zip,application/zip"
      label={bring.isPending ? w.bringing : w.bringIn}
      disabled={bring.isPending}
      onFile={(file) => bring.mutate(file)}
    />
  );
}
