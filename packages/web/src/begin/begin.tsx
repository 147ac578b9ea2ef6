import { useQuery } from '@tanstack/react-query';
import type { Lesson, PictureAnswer, Reference } from '@viaticum/contract';
import { commonSizes, emptyLesson } from '@viaticum/core/document';
import { usualMin } from '@viaticum/core/draft';
import { fittingSizes } from '@viaticum/core/picture';
import { capital } from '@viaticum/core/units';
import type { ProposedThing } from '@viaticum/kernels/things';
import { Button, Input, Steps } from 'antd';
import { nanoid } from 'nanoid';
import { type FormEvent, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { keptQuery, useCreateLesson, useUploadPicture } from '../api/queries.js';
import { useBlobUrl } from '../lesson/laid.js';
import { layArgs } from '../lesson/lay-args.js';
import { tellingsOf, useThings } from '../things/use-things.js';
import { Dialog } from '../ui/dialog.js';
import { FileKey, PICTURES } from '../ui/file-key.js';
import { Doing } from '../ui/working.js';
import { beginWords as w } from '../words/begin.js';
import { words } from '../words/words.js';
import { CancelledJob } from '../workers/job-worker.js';
import type { PictureJobs } from '../workers/picture-jobs.js';
import { pictureWorker } from '../workers/picture-worker.js';
import { useWorker } from '../workers/use-job.js';
import css from './begin.module.css';
import { CanvasSize } from './canvas-size.js';
import { chosenSchool, type Decided, Decisions, usual } from './decisions.js';
import { type Fit, minutesOf } from './fits.js';
import { FitsPage } from './fits-page.js';
import { PicturePage } from './picture-page.js';
import type { PlacedPicture } from './placed.js';
import { type Moved, type Pixels, placementOf, type Size, turnedSize, unmoved } from './placement.js';
import { ThingsPage } from './things-page.js';

const PAGES = ['picture', 'things', 'fits'] as const;
type Page = (typeof PAGES)[number];
type Drafted = PictureJobs['fit']['answer'];
/** What is asked for is drafted first, so that nobody waits for the others. */
const IN_TURN: readonly Fit[] = ['fitting', 'less', 'more'];
const NARROW_PX = 560;
const WIDE_PX = 1210;

/** A lesson begun: with a picture it is drafted from a short conversation, without one it is a bare canvas. */
export function NewLesson({ onClose }: { onClose: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [pixels, setPixels] = useState<Pixels | null>(null);
  const [title, setTitle] = useState('');
  const [canvas, setCanvas] = useState<{ size: Size; isOwn: boolean }>({ size: commonSizes[4] as Size, isOwn: false });
  const [moved, setMoved] = useState<Moved>(unmoved);
  const [decided, setDecided] = useState<Decided>(usual);
  const [page, setPage] = useState<Page>('picture');
  const [uploaded, setUploaded] = useState<{ file: File; answer: PictureAnswer } | null>(null);
  const [proposed, setProposed] = useState<{ of: string; things: readonly ProposedThing[] } | null>(null);
  const [drafted, setDrafted] = useState<{ of: string; by: Partial<Record<Fit, Drafted>> }>({ of: '', by: {} });
  const [fit, setFit] = useState<Fit>('fitting');
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
  const { size } = canvas;
  const picture = useMemo(
    (): PlacedPicture | null => (url && pixels ? { url, ...pixels, placement: placementOf(pixels, size, moved) } : null),
    [url, pixels, size, moved],
  );
  // Another crop is another picture: what was proposed and marked on the old one goes.
  const crop = JSON.stringify(picture);
  const isLooked = proposed?.of === crop;
  const first = useMemo(() => tellingsOf(isLooked ? proposed.things : []), [isLooked, proposed]);
  const things = useThings(first);

  const start = (): Lesson => ({
    ...emptyLesson(title.trim(), size, () => nanoid(8)),
    level: decided.level,
    ...(decided.wantedMin ? { wantedMin: decided.wantedMin } : {}),
    ...chosenSchool(decided.school, methods),
  });
  /** The lesson with its picture, laid by the worker. */
  const lay = async (lesson: Lesson): Promise<Lesson> => {
    if (!file || !worker) return lesson;
    const known = uploaded?.file === file ? uploaded.answer : await upload.mutateAsync(file);
    setUploaded({ file, answer: known });
    const laid = { ...lesson, references: [referenceTo(known, size, moved)] };
    await worker.ask('lay', layArgs(laid)).answer;
    return laid;
  };
  /** Does something of which the dialog tells; what fails is said in it, and nothing is lost. */
  const doing = async (work: () => Promise<unknown>) => {
    setFault(null);
    try {
      await work();
    } catch (error) {
      if (!(error instanceof CancelledJob)) setFault((error as Error).message);
    }
    setWorking(null);
    setAsked(null);
  };
  const lookAtThings = () =>
    doing(async () => {
      setPage('things');
      if (isLooked || !worker) return;
      await lay(start());
      setProposed({ of: crop, things: await worker.ask('things', {}).answer });
    });
  // Where nothing stands out and nothing was marked, areas are found by colour alone.
  const isTold = isLooked && (things.isTouched || things.things.some(({ role }) => role === 'subject'));
  const told = {
    ...(isTold && things.marked ? { told: { ...things.marked, named: things.told } } : {}),
    lines: isLooked ? things.toldLines : [],
  };
  const draft = async (): Promise<Lesson> => {
    if (!worker) return start();
    setWorking({ said: w.uploading, share: 0 });
    const lesson = await lay(start());
    const one = worker.ask('begin', { lesson, ...told }, (share) => setWorking({ said: w.working(share), share }));
    setAsked(one);
    return one.answer;
  };
  // What was drafted of other things or for another class is forgotten.
  const asking = JSON.stringify([crop, told, decided]);
  const by = drafted.of === asking ? drafted.by : {};
  const minutes = minutesOf(decided.wantedMin ?? usualMin[decided.level]);
  const lookAtFits = () =>
    doing(async () => {
      setPage('fits');
      if (!worker) return;
      let known = by;
      if (Object.keys(known).length === 0) setFit('fitting');
      const lesson = await lay(start());
      for (const one of IN_TURN) {
        if (known[one]) continue;
        const said = w.fits.drafting(w.fits.names[one]);
        setWorking({ said, share: 0 });
        const job = worker.ask('fit', { lesson: { ...lesson, wantedMin: minutes[one] }, ...told }, (share) =>
          setWorking({ said, share }),
        );
        setAsked(job);
        known = { ...known, [one]: await job.answer };
        setDrafted({ of: asking, by: known });
      }
    });
  const make = () =>
    doing(async () => {
      const ready = page === 'fits' ? by[fit]?.lesson : undefined;
      if (ready) asked?.cancel();
      const lesson = ready ? { ...ready, title: title.trim() } : file ? await draft() : start();
      const { id } = await create.mutateAsync(lesson);
      await navigate(`/lesson/${id}/${file ? 'steps' : 'picture'}`);
    });
  const goTo = (to: Page) => {
    if (to !== 'fits') asked?.cancel();
    if (to === 'picture') setPage('picture');
    else if (to === 'things') void lookAtThings();
    else if (isLooked) void lookAtFits();
    else void lookAtThings();
  };
  const takeFile = (chosen: File) => {
    setFile(chosen);
    setPixels(null);
    setMoved(unmoved);
    setPage('picture');
    if (title === '') setTitle(nameOf(chosen));
  };
  const takeSize = ({ naturalWidth, naturalHeight }: HTMLImageElement) => {
    const found = { widthPx: naturalWidth, heightPx: naturalHeight };
    const [best] = fittingSizes(
      found,
      commonSizes.filter(({ unit }) => unit === 'in'),
    );
    setPixels(found);
    if (best && !canvas.isOwn) setCanvas({ size: turnedSize(best.size, best.isLying), isOwn: false });
  };

  const isBusy = working !== null || create.isPending;
  const said = (
    <>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {working && (
        <div className={css.working}>
          <Doing {...working} onCancel={asked ? () => void asked.cancel() : undefined} />
        </div>
      )}
    </>
  );
  const close = <Button onClick={onClose}>{words.shelf.cancel}</Button>;
  const fields = (
    <>
      <label className="field">
        <span>{words.shelf.name}</span>
        <Input value={title} onChange={(event) => setTitle(event.target.value)} maxLength={120} required />
      </label>
      <CanvasSize {...canvas} onSize={(next, isOwn) => setCanvas({ size: next, isOwn })} />
    </>
  );
  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    void make();
  };
  return (
    <Dialog title={words.shelf.newTitle} onClose={onClose} width={picture ? WIDE_PX : NARROW_PX}>
      {picture && (
        <Steps
          size="small"
          className={css.pages}
          current={PAGES.indexOf(page)}
          items={PAGES.map((one) => ({ title: w.pages[one] }))}
          onChange={(at) => goTo(PAGES[at] as Page)}
        />
      )}
      <form onSubmit={onSubmit}>
        {picture && page === 'fits' ? (
          <FitsPage drafted={by} wanted={minutes} chosen={fit} support={size} onChoose={setFit}>
            {said}
            <div className={css.keys}>
              <Button type="primary" htmlType="submit" disabled={!by[fit] || create.isPending}>
                {w.take}
              </Button>
              <Button onClick={() => goTo('things')}>{w.back}</Button>
              {close}
            </div>
          </FitsPage>
        ) : picture && page === 'things' ? (
          <ThingsPage
            worker={worker}
            things={things}
            proposed={isLooked ? proposed.things : null}
            picture={picture}
            support={size}
          >
            {said}
            <div className={css.keys}>
              <Button type="primary" disabled={isBusy || !isLooked} onClick={() => goTo('fits')}>
                {w.toFits}
              </Button>
              <Button htmlType="submit" disabled={isBusy || !isLooked}>
                {w.make}
              </Button>
              <Button onClick={() => goTo('picture')}>{w.back}</Button>
              {close}
            </div>
          </ThingsPage>
        ) : picture ? (
          <PicturePage picture={picture} size={size} moved={moved} onMove={setMoved} above={fields}>
            <Decisions decided={decided} methods={methods} onDecide={(next) => setDecided({ ...decided, ...next })} />
            <FileKey label={w.other} accept={PICTURES} onFile={takeFile} />
            {said}
            <div className={css.keys}>
              <Button type="primary" disabled={isBusy} onClick={() => void lookAtThings()}>
                {w.toThings}
              </Button>
              <Button htmlType="submit" disabled={isBusy}>
                {w.make}
              </Button>
              {close}
            </div>
          </PicturePage>
        ) : (
          <>
            <div className={css.first}>
              {/* What the browser cannot show is still sent, and refused with a sentence. */}
              {url && <img src={url} alt="" onLoad={({ currentTarget }) => takeSize(currentTarget)} />}
              <p className="quiet small">{file ? file.name : w.about}</p>
              <FileKey size="middle" label={file ? w.other : w.choose} accept={PICTURES} onFile={takeFile} />
            </div>
            {fields}
            {said}
            <div className="row">
              <Button type="primary" htmlType="submit" disabled={isBusy}>
                {file ? w.make : words.shelf.make}
              </Button>
              {close}
            </div>
          </>
        )}
      </form>
    </Dialog>
  );
}

const nameOf = (file: File): string => {
  const plain = file.name
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return plain ? capital(plain).slice(0, 120) : '';
};

const referenceTo = ({ sha256, widthPx, heightPx }: PictureAnswer, size: Size, moved: Moved): Reference => ({
  id: nanoid(8),
  pictureSha256: sha256,
  widthPx,
  heightPx,
  role: 'whole',
  permission: { kind: 'unset' },
  placement: placementOf({ widthPx, heightPx }, size, moved),
});
