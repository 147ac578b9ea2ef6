import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { FilmFile, JoinedFilm } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { readCaptions, toVtt } from '@viaticum/core/captions';
import { placesIn, type Timeline, timelineOf } from '@viaticum/core/film';
import { Button, Checkbox, Popconfirm, Progress, Upload } from 'antd';
import { nanoid } from 'nanoid';
import { useEffect, useRef, useState } from 'react';
import { filmsQuery, filmUrl, useRemoveFilm } from '../../api/film-queries.js';
import { useSession } from '../../lesson/context.js';
import { FileKey } from '../../ui/file-key.js';
import { clockOf, filmWords } from '../../words/film.js';
import { type FilmFacts, filmFacts, withoutPlaces } from './film-facts.js';
import { FilmPlayer } from './film-player.js';
import { type Sending, sendFilm, type Told } from './send-film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.films;
const size = (bytes: number): string =>
  bytes >= 1e9 ? say`${(bytes / 1e9).toFixed(1)} GB` : say`${Math.max(0.1, bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** Films beside the steps: sent, with their chapters, strokes and captions. */
export function Films({ film }: { film: Filmed }) {
  const { lesson } = film;
  const { data } = useQuery(filmsQuery);
  const joined = lesson.film?.films ?? [];
  const loose = (data?.films ?? []).filter(({ sha256 }) => !joined.some(({ fileSha256 }) => fileSha256 === sha256));
  return (
    <>
      <section aria-label={w.title}>
        <h2>{w.title}</h2>
        <p>{w.about}</p>
        <NewFilm film={film} />
        {joined.length > 0 && <p className="small quiet">{w.alone}</p>}
      </section>
      {joined.map((one) => (
        <Joined key={one.id} film={film} joined={one} />
      ))}
      {data && (loose.length > 0 || data.usedBytes > 0) && (
        <Stored loose={loose} used={data.usedBytes} quota={data.quotaBytes} film={film} />
      )}
    </>
  );
}

type Facts = Pick<FilmFacts, 'type' | 'durationMs' | 'widthPx' | 'heightPx'>;

/** A film as it stands beside the steps, with the chapters of the cut that is most nearly as long. */
function joinedFilm(film: Filmed, file: Pick<FilmFile, 'sha256' | 'bytes' | 'name'>, facts: Facts): JoinedFilm {
  const timeline = nearestCut(film, facts.durationMs);
  return {
    id: nanoid(8),
    name: file.name.replace(/\.[a-z0-9]{2,4}$/i, '') || film.lesson.title,
    fileSha256: file.sha256,
    bytes: file.bytes,
    ...facts,
    ...placesIn(film.lesson, timeline, facts.durationMs),
  };
}
/** Of all cuts the one that is most nearly as long as a film. */
function nearestCut({ lesson, cuts, noted }: Filmed, durationMs: number): Timeline {
  const off = ({ frames, fps }: Timeline) => Math.abs(Math.log(((frames / fps) * 1000) / durationMs));
  const [nearest] = cuts.map(({ id }) => timelineOf(lesson, id, noted)).sort((a, b) => off(a) - off(b));
  return nearest as Timeline;
}
function NewFilm({ film }: { film: Filmed }) {
  const session = useSession();
  const client = useQueryClient();
  const [file, setFile] = useState<File | null>(null);
  const [facts, setFacts] = useState<FilmFacts | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [hasAgreed, setAgreed] = useState(false);
  const [keepPlace, setKeepPlace] = useState(false);
  const [told, setTold] = useState<Told | null>(null);
  const sending = useRef<Sending | null>(null);
  const clear = () => {
    setFile(null);
    setFacts(null);
    setTold(null);
    setAgreed(false);
  };
  const choose = async (next: File) => {
    clear();
    setFault(null);
    setFile(next);
    try {
      setFacts(await filmFacts(next));
    } catch (error) {
      setFault((error as Error).message);
      setFile(null);
    }
  };
  const send = async () => {
    if (!file || !facts) return;
    setFault(null);
    const { places, isIndexLast: _, ...rest } = facts;
    const blob = keepPlace || places.length === 0 ? file : withoutPlaces(file, places);
    const own = sendFilm(blob, file.name, setTold);
    sending.current = own;
    setTold({ sentBytes: 0, bytes: blob.size, perSecond: 0, isWaiting: false });
    try {
      const sent = await own.film;
      if (sent) session.do('joinFilm', { film: joinedFilm(film, sent, rest) });
      await client.invalidateQueries({ queryKey: filmsQuery.queryKey });
      clear();
    } catch (error) {
      setFault((error as Error).message);
      setTold(null);
    }
  };
  return (
    <>
      {!file && (
        <Upload.Dragger
          accept="video/mp4,video/webm,.mp4,.webm"
          showUploadList={false}
          beforeUpload={(next) => {
            void choose(next);
            return false;
          }}
        >
          <p>
            <b>{w.drop}</b>
          </p>
          <p className="small quiet">{w.kinds}</p>
        </Upload.Dragger>
      )}
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {file && !facts && <p role="status">{w.reading}</p>}
      {file && facts && !told && (
        <div className={css.chosen}>
          <b>{file.name}</b>
          <span className="numbers">
            {w.facts(`${facts.widthPx} × ${facts.heightPx}`, clockOf(facts.durationMs / 1000), size(file.size))}
          </span>
          {facts.isIndexLast && <span className="small">{w.slow}</span>}
          {facts.places.length > 0 && (
            <>
              {!keepPlace && <span className="small">{w.blanked(facts.places.length)}</span>}
              <Checkbox checked={keepPlace} onChange={({ target }) => setKeepPlace(target.checked)}>
                {w.keepPlace}
              </Checkbox>
            </>
          )}
          <Checkbox checked={hasAgreed} onChange={({ target }) => setAgreed(target.checked)}>
            {w.agreed}
          </Checkbox>
          <span className={css.keys}>
            <Button type="primary" disabled={!hasAgreed} onClick={() => void send()}>
              {w.send}
            </Button>
            <Button onClick={clear}>{w.away}</Button>
          </span>
        </div>
      )}
      {file && told && (
        <div className={css.chosen} role="status">
          <b>{w.sending(file.name)}</b>
          <Progress percent={Math.floor((100 * told.sentBytes) / Math.max(1, told.bytes))} />
          <span className="numbers small">
            {told.isWaiting
              ? w.waiting
              : told.perSecond > 0
                ? w.left(say`${size(told.perSecond)} a second`, clockOf((told.bytes - told.sentBytes) / told.perSecond))
                : ''}
          </span>
          <Button
            onClick={() => {
              sending.current?.stop();
              clear();
            }}
          >
            {w.cancel}
          </Button>
        </div>
      )}
    </>
  );
}

/** A film that stands beside the steps: played, with where each step begins. */
function Joined({ film, joined }: { film: Filmed; joined: JoinedFilm }) {
  const { lesson } = film;
  const session = useSession();
  const video = useRef<HTMLVideoElement>(null);
  const [lateWords, setLate] = useState<string | null>(null);
  const nowMs = () => Math.round((video.current?.currentTime ?? 0) * 1000);
  const edit = (more: Parameters<typeof session.do<'editFilmFile'>>[1]['film']) =>
    session.do('editFilmFile', { id: joined.id, film: more });
  /** A step that begins here; the one before ends there. */
  const begin = (stepId: string) => {
    const begins = new Map(joined.chapters.map((one) => [one.stepId, one.fromMs]));
    begins.set(stepId, Math.min(nowMs(), joined.durationMs - 100));
    const sorted = [...begins].sort((a, b) => a[1] - b[1]);
    edit({
      chapters: sorted
        .map(([id, fromMs], i) => ({ stepId: id, fromMs, toMs: sorted[i + 1]?.[1] ?? joined.durationMs }))
        .filter(({ fromMs, toMs }) => toMs > fromMs),
    });
  };
  const stroke = () => {
    const at = nowMs();
    const chapter = joined.chapters.find(({ fromMs, toMs }) => at >= fromMs && at < toMs);
    if (chapter) edit({ strokes: [...joined.strokes, { stepId: chapter.stepId, atMs: at }].sort((a, b) => a.atMs - b.atMs) });
  };
  const strokeNow = useRef(stroke);
  useEffect(() => {
    strokeNow.current = stroke;
  });
  const addCaptions = async (file: File) => {
    const { cues } = readCaptions(await file.text());
    if (cues.length === 0) return;
    const late = cues.filter(({ from }) => from * 1000 > joined.durationMs);
    setLate(late.length > 0 ? w.captionsLate(late.length, late[0]?.line ?? 1) : null);
    edit({ captions: toVtt(cues) });
  };
  const count = joined.captions ? readCaptions(joined.captions).cues.length : 0;
  return (
    <section aria-label={joined.name} data-testid="joined-film">
      <h2>{joined.name}</h2>
      <FilmPlayer
        ref={video}
        src={filmUrl(joined.fileSha256)}
        label={w.player(joined.name)}
        onStroke={() => strokeNow.current()}
      />
      <span className="numbers small quiet">
        {w.facts(`${joined.widthPx} × ${joined.heightPx}`, clockOf(joined.durationMs / 1000), size(joined.bytes))}
      </span>
      <div className={css.keys}>
        <Button onClick={stroke} aria-keyshortcuts="S">
          {w.stroke} <kbd>S</kbd>
        </Button>
        <Button onClick={() => edit(placesIn(lesson, film.timeline, joined.durationMs))}>{w.chaptersFrom}</Button>
        {joined.strokes.length > 0 && <Button onClick={() => edit({ strokes: [] })}>{w.strokesAway}</Button>}
        <FileKey size="middle" label={w.captions} accept=".vtt,.srt,text/vtt" onFile={(file) => void addCaptions(file)} />
        {count > 0 && (
          <>
            <span className="small numbers">{w.captionsThere(count)}</span>
            <Button onClick={() => session.do('editFilmFile', { id: joined.id, film: {}, clear: ['captions'] })}>
              {w.captionsAway}
            </Button>
          </>
        )}
        <Popconfirm title={w.removeAsk} okText={w.remove} onConfirm={() => session.do('removeFilm', { id: joined.id })}>
          <Button>{w.remove}</Button>
        </Popconfirm>
      </div>
      {lateWords && <p className="signal">{lateWords}</p>}
      <h3>{w.chapters}</h3>
      <ol className={css.speech}>
        {lesson.steps
          .filter(({ kind }) => kind !== 'break' && kind !== 'dry')
          .map((step) => {
            const chapter = joined.chapters.find(({ stepId }) => stepId === step.id);
            const strokes = joined.strokes.filter(({ stepId }) => stepId === step.id).length;
            return (
              <li key={step.id} className="numbers">
                <Button
                  size="small"
                  type="text"
                  disabled={!chapter}
                  onClick={() => {
                    if (video.current && chapter) video.current.currentTime = chapter.fromMs / 1000;
                  }}
                >
                  {chapter ? clockOf(chapter.fromMs / 1000) : '–:––'}
                </Button>{' '}
                {step.title} <span className="small quiet">{chapter ? (strokes > 0 ? w.strokes(strokes) : '') : w.none}</span>{' '}
                <Button size="small" aria-label={w.beginOf(step.title)} onClick={() => begin(step.id)}>
                  {w.begins}
                </Button>
              </li>
            );
          })}
      </ol>
    </section>
  );
}

function Stored({ loose, used, quota, film }: { loose: FilmFile[]; used: number; quota: number; film: Filmed }) {
  const session = useSession();
  const removing = useRemoveFilm();
  const join = async (file: FilmFile) => {
    const video = document.createElement('video');
    video.src = filmUrl(file.sha256);
    await new Promise((done) => video.addEventListener('loadedmetadata', done, { once: true }));
    const durationMs = Math.round((Number.isFinite(video.duration) ? video.duration : 1) * 1000);
    const facts = { type: file.type, durationMs, widthPx: video.videoWidth, heightPx: video.videoHeight };
    session.do('joinFilm', { film: joinedFilm(film, file, facts) });
  };
  return (
    <section aria-label={w.stored}>
      <h3>{w.stored}</h3>
      <p className="small">{w.used(size(used), size(quota))}</p>
      {loose.length > 0 && (
        <ul>
          {loose.map((file) => (
            <li key={file.sha256}>
              {file.name}, {size(file.bytes)}{' '}
              <Button size="small" onClick={() => void join(file)}>
                {w.join}
              </Button>{' '}
              <Button size="small" onClick={() => removing.mutate(file.sha256)}>
                {w.forget}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
