import { useQuery } from '@tanstack/react-query';
import type { Kept, Lesson, PictureAnswer, Reference } from '@viaticum/contract';
import { commonSizes, emptyLesson } from '@viaticum/core/document';
import { type ReadySchool, readySchools, schoolOf, usualMin } from '@viaticum/core/draft';
import { fillPlacement } from '@viaticum/core/picture';
import { capital, MM_PER_INCH } from '@viaticum/core/units';
import { Button, Checkbox, Input, InputNumber, Select } from 'antd';
import { nanoid } from 'nanoid';
import { type FormEvent, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { keptQuery, useCreateLesson, useUploadPicture } from '../api/queries.js';
import { useBlobUrl } from '../lesson/laid.js';
import { layArgs } from '../lesson/lay-args.js';
import { Dialog } from '../ui/dialog.js';
import { FileKey, PICTURES } from '../ui/file-key.js';
import { Doing } from '../ui/working.js';
import { beginWords as w } from '../words/begin.js';
import { draftWords } from '../words/school.js';
import { words } from '../words/words.js';
import { CancelledJob } from '../workers/job-worker.js';
import { pictureWorker } from '../workers/picture-worker.js';
import { useWorker } from '../workers/use-job.js';
import css from './new-lesson.module.css';

const OWN = 'own';
const READY = Object.keys(readySchools) as ReadySchool[];
type Size = { widthMm: number; heightMm: number; unit: 'in' | 'cm' };

/** A lesson begun: with a picture it is drafted as a whole from four decisions, without one it is a bare canvas. */
export function NewLesson({ onClose }: { onClose: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [title, setTitle] = useState('');
  const [size, setSize] = useState<Size | null>({ ...(commonSizes[4] as (typeof commonSizes)[number]) });
  const [school, setSchool] = useState<string>('layers');
  const [level, setLevel] = useState<Lesson['level']>('beginner');
  const [wantedMin, setWanted] = useState<number | null>(null);
  const [isLying, setLying] = useState(false);
  const [working, setWorking] = useState<{ said: string; share: number } | null>(null);
  const [asked, setAsked] = useState<{ cancel: () => unknown } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const { data: kept } = useQuery(keptQuery);
  const methods = (kept ?? []).flatMap((one) => (one.kept.kind === 'method' ? [one.kept] : []));
  const worker = useWorker(pictureWorker);
  const upload = useUploadPicture();
  const create = useCreateLesson();
  const navigate = useNavigate();
  const url = useBlobUrl(file);
  const begin = async (start: Lesson) => {
    if (!file || !worker) return start;
    setWorking({ said: w.uploading, share: 0 });
    const picture = await upload.mutateAsync(file);
    const lesson = { ...start, references: [referenceTo(picture, start)] };
    await worker.ask('lay', layArgs(lesson)).answer;
    const one = worker.ask('begin', { lesson }, (share) => setWorking({ said: w.working(share), share }));
    setAsked(one);
    return one.answer;
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!size) return;
    setFault(null);
    try {
      const empty = emptyLesson(title.trim(), size, () => nanoid(8));
      const lesson = await begin({
        ...empty,
        level,
        ...(wantedMin ? { wantedMin } : {}),
        ...chosenSchool(school, methods),
      });
      const { id } = await create.mutateAsync(lesson);
      await navigate(`/lesson/${id}/${file ? 'steps' : 'picture'}`);
    } catch (error) {
      if (!(error instanceof CancelledJob)) setFault((error as Error).message);
      setWorking(null);
      setAsked(null);
    }
  };
  const takeFile = (chosen: File | undefined) => {
    if (!chosen) return;
    setFile(chosen);
    if (title === '') setTitle(nameOf(chosen));
  };
  const why = READY.includes(school as ReadySchool) ? w.schools[school as ReadySchool].why : null;
  return (
    <Dialog title={words.shelf.newTitle} onClose={onClose}>
      <form onSubmit={submit}>
        <div className={css.beginPicture}>
          {url ? (
            // The canvas lies or stands as the picture does.
            <img
              src={url}
              alt=""
              onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) => setLying(naturalWidth > naturalHeight)}
            />
          ) : (
            <p className="quiet small">{w.about}</p>
          )}
          <FileKey size="middle" label={file ? w.other : w.choose} accept={PICTURES} onFile={takeFile} />
        </div>
        <label className="field">
          <span>{words.shelf.name}</span>
          <Input value={title} onChange={(event) => setTitle(event.target.value)} maxLength={120} required />
        </label>
        <CanvasSize onSize={setSize} isLying={isLying} onLying={setLying} />
        {file && (
          <div className="row">
            <div className="field">
              <span>{w.school}</span>
              <Select
                aria-label={w.school}
                value={school}
                onChange={(given) => setSchool(given)}
                options={[
                  ...READY.map((one) => ({ value: one, label: w.schools[one].name })),
                  ...methods.map((one) => ({ value: `${OWN}:${one.name}`, label: w.ownMethod(one.name) })),
                ]}
              />
            </div>
            <div className="field">
              <span>{w.level}</span>
              <Select
                aria-label={w.level}
                value={level}
                onChange={(given) => setLevel(given as Lesson['level'])}
                options={Object.entries(draftWords.levels).map(([one, name]) => ({ value: one, label: name }))}
              />
            </div>
            <div className="field">
              <span>{w.wanted}</span>
              <InputNumber
                aria-label={w.wanted}
                min={10}
                max={10_000}
                controls={false}
                suffix={w.minutes}
                placeholder={String(usualMin[level])}
                value={wantedMin}
                onChange={setWanted}
              />
            </div>
          </div>
        )}
        {file && why && <p className="quiet small">{why}</p>}
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        {working && (
          <div className={css.beginWorking}>
            <Doing {...working} onCancel={asked ? () => void asked.cancel() : undefined} />
          </div>
        )}
        <div className="row">
          <Button type="primary" htmlType="submit" disabled={working !== null || create.isPending || !size}>
            {file ? w.make : words.shelf.make}
          </Button>
          <Button onClick={onClose}>{words.shelf.cancel}</Button>
        </div>
      </form>
    </Dialog>
  );
}

type OwnMethod = Extract<Kept, { kind: 'method' }>;
/** The choices of a ready school, or an own method with its rules. */
function chosenSchool(school: string, methods: readonly OwnMethod[]): Pick<Lesson, 'school' | 'method'> {
  const own = methods.find((one) => school === `${OWN}:${one.name}`);
  return own ? { school: own.school, method: own.method } : { school: schoolOf(school as ReadySchool) };
}

const nameOf = (file: File): string => {
  const plain = file.name
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return plain ? capital(plain).slice(0, 120) : '';
};

const referenceTo = ({ sha256, widthPx, heightPx }: PictureAnswer, { support }: Lesson): Reference => ({
  id: nanoid(8),
  pictureSha256: sha256,
  widthPx,
  heightPx,
  role: 'whole',
  permission: { kind: 'unset' },
  placement: fillPlacement({ widthPx, heightPx }, support),
});

/** A canvas as it is sold, lying or standing, or one's own size; null while that is none. */
function CanvasSize({
  onSize,
  isLying,
  onLying,
}: {
  onSize: (size: Size | null) => void;
  isLying: boolean;
  onLying: (isLying: boolean) => void;
}) {
  const [size, setName] = useState('16 × 20 in');
  const [own, setOwn] = useState({ width: 40, height: 50, unit: 'cm' as 'in' | 'cm' });
  useEffect(() => {
    const mm = own.unit === 'in' ? MM_PER_INCH : 10;
    const sold = commonSizes.find((one) => one.name === size);
    const chosen = sold ?? { widthMm: own.width * mm, heightMm: own.height * mm, unit: own.unit };
    const { widthMm, heightMm, unit } = chosen;
    const turned = isLying && sold ? { widthMm: heightMm, heightMm: widthMm, unit } : { widthMm, heightMm, unit };
    onSize(turned.widthMm > 0 && turned.heightMm > 0 ? turned : null);
  }, [size, own, isLying, onSize]);
  const length = (key: 'width' | 'height', label: string) => (
    <div className="field">
      <span>{label}</span>
      <InputNumber
        aria-label={label}
        min={0.1}
        controls={false}
        value={own[key]}
        onChange={(next) => setOwn({ ...own, [key]: next ?? 0 })}
      />
    </div>
  );
  return (
    <div className="row">
      <div className="field">
        <span>{words.shelf.size}</span>
        <Select
          aria-label={words.shelf.size}
          value={size}
          onChange={(given) => setName(given)}
          options={[...commonSizes.map((one) => ({ value: one.name, label: one.name })), { value: OWN, label: words.shelf.own }]}
        />
      </div>
      {size === OWN ? (
        <>
          {length('width', words.shelf.width)}
          {length('height', words.shelf.height)}
          <div className="field">
            <span>{words.shelf.unit}</span>
            <Select
              aria-label={words.shelf.unit}
              value={own.unit}
              onChange={(given) => setOwn({ ...own, unit: given as 'in' | 'cm' })}
              options={[
                { value: 'cm', label: 'cm' },
                { value: 'in', label: 'in' },
              ]}
            />
          </div>
        </>
      ) : (
        <Checkbox checked={isLying} onChange={(event) => onLying(event.target.checked)}>
          {words.shelf.turn}
        </Checkbox>
      )}
    </div>
  );
}
