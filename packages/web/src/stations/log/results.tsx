import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import type { LoggedClass, LoggedResult } from '@viaticum/contract';
import { offInWords, resultOf, showsPicture } from '@viaticum/core/log';
import { Button, Input, Popconfirm, Popover } from 'antd';
import { useState } from 'react';
import {
  calibrationsQuery,
  loggedQuery,
  logQuery,
  useAddResult,
  useDropResult,
  useShareResult,
  useUnshareResult,
} from '../../api/log-queries.js';
import { pictureUrl } from '../../api/queries.js';
import { useLesson, useSession } from '../../lesson/context.js';
import { LayingProvider, useBlobUrl } from '../../lesson/laid.js';
import { Choice } from '../../ui/choice.js';
import { dayOf } from '../../ui/clock.js';
import { CornerPicker } from '../../ui/corner-picker.js';
import { FileKey, PICTURES } from '../../ui/file-key.js';
import { logWords } from '../../words/log.js';
import { DrawingProvider, useDrawing } from '../transfers/drawing-context.js';
import { useComparison } from '../transfers/use-comparison.js';
import css from './log.module.css';
import { dropPhoto, keepPhoto, keptPhoto } from './photos.js';

const w = logWords.results;

/** Photographs of finished canvases: each straightened and laid beside the picture, and what the group as a whole has otherwise. */
export function Results() {
  const { id } = useSession();
  const { data } = useInfiniteQuery({ ...logQuery(id, ''), staleTime: 0 });
  const classes = (data?.pages.flat() ?? []).filter(({ log }) => log.kind !== 'takes');
  const [chosen, setChosen] = useState<string | null>(null);
  const of = classes.find((one) => one.id === chosen) ?? classes[0];
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p className="quiet">{w.about}</p>
      {data && !of && <p>{w.none}</p>}
      {of && (
        <>
          <Choice
            label={w.ofClass}
            value={of.id}
            options={classes.map((one) => [one.id, `${dayOf(one.log.at)}, ${one.log.title}`] as const)}
            onChange={setChosen}
          />
          <LayingProvider>
            <DrawingProvider>
              <OneCanvas key={of.id} of={of} />
            </DrawingProvider>
          </LayingProvider>
          <Kept id={of.id} />
        </>
      )}
      <Group />
    </section>
  );
}

/** One photograph: its corners, and beside the picture once it is compared. */
function OneCanvas({ of }: { of: LoggedClass }) {
  const lesson = useLesson();
  const { shown } = useDrawing();
  const { photo, setPhoto, result, setResult, fault, isBusy, choose, compare } = useComparison(shown);
  const add = useAddResult();
  const [isStrange, setStrange] = useState(false);
  const last = lesson.steps.filter((step) => step.kind === 'paint').at(-1);
  const measured = async () => {
    const found = await compare(last?.id ?? null);
    if (!found) return;
    if (!showsPicture(found)) return setStrange(true);
    setStrange(false);
    const { log } = await add.mutateAsync({ id: of.id, result: resultOf(found, lesson.support.widthMm) });
    const kept = log.results?.at(-1);
    if (kept) await keepPhoto(kept.id, found.image);
    setPhoto(null);
  };
  const expected = useBlobUrl(result?.expected ?? null);
  const straight = useBlobUrl(result?.image ?? null);
  if (!last) return <p>{w.noSteps}</p>;
  return (
    <>
      <p className={css.keys}>
        <FileKey
          label={result ? w.another : w.choose}
          accept={PICTURES}
          size="middle"
          type="primary"
          disabled={isBusy}
          onFile={(file) => {
            setStrange(false);
            void choose(file);
          }}
        />
        <span className="small quiet">{w.kept}</span>
      </p>
      {photo && (
        <>
          <p className="small">{photo.wasFound ? w.found : w.pickThem}</p>
          <div className={css.cornered} style={{ aspectRatio: `${photo.widthPx} / ${photo.heightPx}` }}>
            <CornerPicker photo={photo} onCorners={(corners) => setPhoto({ ...photo, corners })} />
          </div>
          <p className={css.keys}>
            <Button type="primary" loading={isBusy || add.isPending} onClick={() => void measured()}>
              {w.compare}
            </Button>
            <Button onClick={() => setPhoto(null)}>{w.leave}</Button>
          </p>
        </>
      )}
      {isStrange && photo && (
        <p className="signal" role="alert">
          {w.strange}
        </p>
      )}
      {(fault || add.error) && (
        <p className="signal" role="alert">
          {fault ?? add.error?.message}
        </p>
      )}
      {result && !isStrange && (
        <div data-testid="canvas-compared">
          <div className={css.beside}>
            {straight && (
              <figure>
                <img src={straight} alt={w.theirs} />
                <figcaption className="small quiet">{w.theirs}</figcaption>
              </figure>
            )}
            {expected && (
              <figure>
                <img src={expected} alt={w.picture} />
                <figcaption className="small quiet">{w.picture}</figcaption>
              </figure>
            )}
          </div>
          <p className={css.keys}>
            <span>{w.measured(result.areas.length, result.things.length)}</span>
            <Button size="small" onClick={() => setResult(null)}>
              {w.close}
            </Button>
          </p>
        </div>
      )}
    </>
  );
}

/** Canvases of a class that were measured; nobody is named, and no canvas is judged alone. */
function Kept({ id }: { id: string }) {
  const { data } = useQuery({ ...loggedQuery(id), staleTime: 0 });
  const results = data?.log.results ?? [];
  if (results.length === 0) return null;
  return (
    <>
      <h3>{w.measuredOf(results.length)}</h3>
      <ul className={css.canvases} data-testid="canvases">
        {results.map((one, k) => (
          <Canvas key={one.id} of={id} one={one} number={k + 1} />
        ))}
      </ul>
    </>
  );
}

function Canvas({ of, one, number }: { of: string; one: LoggedResult; number: number }) {
  const { data: photo } = useQuery({
    queryKey: ['kept photo', one.id],
    queryFn: () => keptPhoto(one.id),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [consent, setConsent] = useState('');
  const drop = useDropResult();
  const share = useShareResult();
  const unshare = useUnshareResult();
  const own = useBlobUrl(photo ?? null);
  const url = own ?? (one.shared ? pictureUrl(one.shared.sha256, 'thumb') : null);
  const fault = share.error ?? unshare.error ?? drop.error;
  return (
    <li>
      {url ? <img src={url} alt={w.canvas(number)} /> : <span className={css.noPhoto}>{w.elsewhere}</span>}
      <span className="small">
        {w.canvas(number)}
        {one.shared && <span className="quiet"> {w.shared(one.shared.consent)}</span>}
      </span>
      <span className={css.keys}>
        {one.shared ? (
          <Button size="small" loading={unshare.isPending} onClick={() => unshare.mutate({ id: of, resultId: one.id })}>
            {w.unshare}
          </Button>
        ) : (
          photo && (
            <Popover
              trigger="click"
              title={w.share}
              content={
                <div className={css.consent}>
                  <p>{w.consentAbout}</p>
                  <Input
                    aria-label={w.consent}
                    placeholder={w.consentLong}
                    maxLength={200}
                    value={consent}
                    onChange={(event) => setConsent(event.target.value)}
                  />
                  <Button
                    type="primary"
                    disabled={consent.trim().length < 3}
                    loading={share.isPending}
                    onClick={() => share.mutate({ id: of, resultId: one.id, photo, consent: consent.trim() })}
                  >
                    {w.shareIt}
                  </Button>
                </div>
              }
            >
              <Button size="small">{w.share}</Button>
            </Popover>
          )
        )}
        <Popconfirm
          title={w.removeAsk}
          okText={w.remove}
          onConfirm={() => {
            drop.mutate({ id: of, resultId: one.id });
            void dropPhoto(one.id);
          }}
        >
          <Button size="small" type="text" aria-label={w.removeOf(number)}>
            {w.remove}
          </Button>
        </Popconfirm>
      </span>
      {fault && (
        <span className="signal small" role="alert">
          {fault.message}
        </span>
      )}
    </li>
  );
}

const SHOWN = 8;

/** What the group as a whole painted otherwise: medians from five photographs on. */
function Group() {
  const { id } = useSession();
  const { data } = useQuery({ ...calibrationsQuery(id), staleTime: 0 });
  const results = data?.results ?? [];
  if (!data) return null;
  const clear = results.filter(({ isClear }) => isClear);
  return (
    <>
      <h3>{w.group}</h3>
      {results.length === 0 && <p>{w.tooFew}</p>}
      {results.length > 0 && clear.length === 0 && <p>{w.alike(results[0]?.photos ?? 0)}</p>}
      <ul className={css.learnt} data-testid="group-results">
        {clear.slice(0, SHOWN).map((off) => (
          <li key={`${off.of} ${off.id}`}>
            <p className={css.said}>{offInWords(off)}</p>
          </li>
        ))}
      </ul>
      {clear.length > 0 && <p className="quiet">{w.becomes}</p>}
    </>
  );
}
