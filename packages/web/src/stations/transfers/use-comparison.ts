import { cornersFault, type Line } from '@viaticum/core/transfer';
import { useState } from 'react';
import { useWorkedOut } from '../../lesson/context.js';
import { useLaying } from '../../lesson/laid.js';
import { type CorneredPhoto, cornered } from '../../ui/corner-picker.js';
import type { PictureJobs } from '../../workers/picture-jobs.js';

export type Compared = PictureJobs['compare']['answer'];

/** A photograph of a drawing or canvas: its corners are found, moved by hand, and what it shows compared with the template or a stage. */
export function useComparison(lines: readonly Line[]) {
  const lesson = useWorkedOut();
  const { worker } = useLaying();
  const [photo, setPhoto] = useState<CorneredPhoto | null>(null);
  const [result, setResult] = useState<Compared | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const run = async <T>(work: () => Promise<T>): Promise<T | null> => {
    setBusy(true);
    setFault(null);
    try {
      return await work();
    } catch (error) {
      setFault((error as Error).message);
      return null;
    } finally {
      setBusy(false);
    }
  };
  return {
    ...{ photo, setPhoto, result, setResult, fault, isBusy },
    async choose(blob: File): Promise<void> {
      setResult(null);
      setPhoto(null);
      const found = await run(
        () => worker.ask('corners', { photo: blob, proportion: lesson.support.widthMm / lesson.support.heightMm }).answer,
      );
      if (found) setPhoto(cornered(blob, found));
    },
    /** Compares with the canvas after a step, or with the drawing (null). */
    async compare(afterStepId: string | null): Promise<Compared | null> {
      if (!photo) return null;
      const bad = cornersFault(photo.corners);
      if (bad) {
        setFault(bad);
        return null;
      }
      const args = { lesson, lines: [...lines], photo: photo.blob, corners: photo.corners, afterStepId };
      const found = await run(() => worker.ask('compare', args).answer);
      setResult(found);
      return found;
    },
  };
}
