import { type LessonCard, type ShelfPlace, shelfLimits } from '@viaticum/contract';
import { App, Button, Select } from 'antd';
import { useState } from 'react';
import { Dialog } from '../ui/dialog.js';
import { shelfWords as w } from '../words/shelf.js';
import css from './shelf.module.css';

const MOST_LETTERS = 40;

/** Labels of a lesson: new ones are written, known ones chosen. */
export function Labels({
  lesson,
  known,
  place,
  onClose,
}: {
  lesson: LessonCard;
  known: readonly string[];
  place: (at: { id: string } & ShelfPlace) => Promise<unknown>;
  onClose: () => void;
}) {
  const { message } = App.useApp();
  const [labels, setLabels] = useState<string[]>(lesson.labels);
  const [isOpen, setOpen] = useState(false);
  const keep = () =>
    place({ id: lesson.id, isArchived: lesson.isArchived, labels }).then(
      onClose,
      (fault: Error) => void message.error(fault.message),
    );
  const tidy = (list: string[]) =>
    [...new Set(list.map((label) => label.trim().slice(0, MOST_LETTERS).trim()).filter(Boolean))].slice(0, shelfLimits.labels);
  return (
    <Dialog title={w.labelsOf(lesson.title)} width={480} onClose={onClose}>
      <div className={css.shelfRename}>
        <p className="quiet">{w.labelsAbout}</p>
        <Select
          autoFocus
          mode="tags"
          // Chosen or written, the list gives the key under it free.
          open={isOpen}
          onOpenChange={setOpen}
          aria-label={w.labels}
          style={{ width: '100%' }}
          value={labels}
          options={known.map((label) => ({ value: label, label }))}
          onChange={(list: string[]) => {
            setLabels(tidy(list));
            setOpen(false);
          }}
        />
        <Button type="primary" onClick={() => void keep()}>
          {w.labelsKeep}
        </Button>
      </div>
    </Dialog>
  );
}
