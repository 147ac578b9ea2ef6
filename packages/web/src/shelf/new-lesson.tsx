import { commonSizes, emptyLesson } from '@viaticum/core/lesson';
import { MM_PER_INCH } from '@viaticum/core/units';
import { nanoid } from 'nanoid';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { useCreateLesson } from '../api/queries.js';
import { Dialog } from '../ui/dialog.js';
import { words } from '../words.js';

const OWN = 'own';

export function NewLesson({ onClose }: { onClose: () => void }) {
  const [title, setTitle] = useState('');
  const [size, setSize] = useState('16 × 20 in');
  const [own, setOwn] = useState({ width: 40, height: 50, unit: 'cm' as 'in' | 'cm' });
  const [landscape, setLandscape] = useState(false);
  const create = useCreateLesson();
  const navigate = useNavigate();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const mm = own.unit === 'in' ? MM_PER_INCH : 10;
    const chosen = commonSizes.find((one) => one.name === size) ?? {
      widthMm: own.width * mm,
      heightMm: own.height * mm,
      unit: own.unit,
    };
    const turned =
      landscape && size !== OWN
        ? { widthMm: chosen.heightMm, heightMm: chosen.widthMm }
        : { widthMm: chosen.widthMm, heightMm: chosen.heightMm };
    create.mutate(
      emptyLesson(title.trim(), { ...turned, unit: chosen.unit }, () => nanoid(8)),
      { onSuccess: ({ id }) => navigate(`/lesson/${id}/picture`) },
    );
  };
  const length = (key: 'width' | 'height', label: string) => (
    <label className="field">
      <span>{label}</span>
      <input
        type="number"
        min={0.1}
        step="any"
        required
        value={own[key]}
        onChange={(event) => setOwn({ ...own, [key]: Number(event.target.value) })}
      />
    </label>
  );
  return (
    <Dialog title={words.shelf.newTitle} onClose={onClose}>
      <form onSubmit={submit}>
        <label className="field">
          <span>{words.shelf.name}</span>
          <input value={title} onChange={(event) => setTitle(event.target.value)} maxLength={120} required />
        </label>
        <div className="row">
          <label className="field">
            <span>{words.shelf.size}</span>
            <select value={size} onChange={(event) => setSize(event.target.value)}>
              {commonSizes.map((one) => (
                <option key={one.name}>{one.name}</option>
              ))}
              <option value={OWN}>{words.shelf.own}</option>
            </select>
          </label>
          {size === OWN ? (
            <>
              {length('width', words.shelf.width)}
              {length('height', words.shelf.height)}
              <label className="field">
                <span>{words.shelf.unit}</span>
                <select value={own.unit} onChange={(event) => setOwn({ ...own, unit: event.target.value as 'in' | 'cm' })}>
                  <option>cm</option>
                  <option>in</option>
                </select>
              </label>
            </>
          ) : (
            <label>
              <input type="checkbox" checked={landscape} onChange={(event) => setLandscape(event.target.checked)} />{' '}
              {words.shelf.turn}
            </label>
          )}
        </div>
        {create.error && (
          <p className="signal" role="alert">
            {create.error.message}
          </p>
        )}
        <div className="row">
          <button type="submit" className="key main" disabled={create.isPending}>
            {words.shelf.make}
          </button>
          <button type="button" className="key" onClick={onClose}>
            {words.shelf.cancel}
          </button>
        </div>
      </form>
    </Dialog>
  );
}
