import { say } from '@viaticum/contract';
import { boxFacts } from '@viaticum/core/film';

/** What is known of a film before it is sent, read in this browser; nothing is changed or sent. */
export type FilmFacts = {
  type: 'video/mp4' | 'video/webm';
  durationMs: number;
  widthPx: number;
  heightPx: number;
  isIndexLast: boolean;
  /** Where it says in the file where it was filmed. */
  places: readonly number[];
};
/** A film that cannot be used, in a sentence. */
class UnusableFilm extends Error {}

const READ_MS = 20_000;
const LONGEST_S = 12 * 3600;
const gb = (bytes: number): string => say`${(bytes / 1e9).toFixed(1)} GB`;
const likes: readonly [RegExp, string][] = [
  [/^%PDF/, 'a PDF'],
  [/^\u00ff\u00d8/, 'a photograph'],
  [/^\u0089PNG/, 'a picture'],
  [/^PK/, 'a ZIP'],
];

/**
 * Looks at a film: what it is by its first bytes, its boxes, and what this browser makes of its picture. Throws an {@link UnusableFilm} with
 * what is wrong and what to do.
 */
export async function filmFacts(file: File): Promise<FilmFacts> {
  const read = async (from: number, length: number) => new Uint8Array(await file.slice(from, from + length).arrayBuffer());
  const head = await read(0, 16);
  const text = String.fromCharCode(...head);
  const isMp4 = text.slice(4, 8) === 'ftyp';
  const isWebm = head[0] === 0x1a && head[1] === 0x45 && head[2] === 0xdf && head[3] === 0xa3;
  if (!isMp4 && !isWebm) {
    const like = likes.find(([begins]) => begins.test(text))?.[1] ?? say('something else');
    throw new UnusableFilm(say`This is not a film (it begins like ${like}). MP4 or WebM can be used.`);
  }
  const boxes = isMp4 ? await boxFacts(read, file.size) : null;
  if (boxes && boxes.missing > 0)
    throw new UnusableFilm(
      say`The film ends in the middle (${gb(file.size)} of ${gb(file.size + boxes.missing)}). Copy it from the camera again.`,
    );
  const picture = await pictureOf(file);
  return {
    type: isMp4 ? 'video/mp4' : 'video/webm',
    ...picture,
    isIndexLast: boxes?.isIndexLast ?? false,
    places: boxes?.places ?? [],
  };
}

/** Length and size, as this browser plays it. A recorder's film does not know its length until its end was looked for. */
async function pictureOf(file: File): Promise<Pick<FilmFacts, 'durationMs' | 'widthPx' | 'heightPx'>> {
  const url = URL.createObjectURL(file);
  const video = document.createElement('video');
  video.preload = 'metadata';
  video.muted = true;
  try {
    await heard(video, 'loadedmetadata', () => {
      video.src = url;
    });
    if (video.videoWidth === 0) throw new UnusableFilm(say('There is no picture in it. Choose another film.'));
    if (!Number.isFinite(video.duration)) {
      await heard(video, 'durationchange', () => {
        video.currentTime = 1e7;
      });
    }
    const seconds = Number.isFinite(video.duration) ? video.duration : video.currentTime;
    if (!(seconds > 0) || seconds > LONGEST_S)
      throw new UnusableFilm(say('This film has no length that can be read. Export it again as MP4.'));
    return { durationMs: Math.round(seconds * 1000), widthPx: video.videoWidth, heightPx: video.videoHeight };
  } finally {
    video.removeAttribute('src');
    video.load();
    URL.revokeObjectURL(url);
  }
}

function heard(video: HTMLVideoElement, event: 'loadedmetadata' | 'durationchange', act: () => void): Promise<void> {
  const cannot = () =>
    new UnusableFilm(
      say('This browser cannot play the film’s picture (H.265, perhaps). Set the camera to H.264, or export it as MP4.'),
    );
  return new Promise((done, failed) => {
    const timer = setTimeout(() => failed(cannot()), READ_MS);
    const end = (then: () => void) => () => {
      clearTimeout(timer);
      then();
    };
    video.addEventListener(event, end(done), { once: true });
    video.addEventListener(
      'error',
      end(() => failed(cannot())),
      { once: true },
    );
    act();
  });
}

const NOTHING = new TextEncoder().encode('free');
/** The film with what tells its place blanked: boxes are renamed to ones that nobody reads, and keep their length. */
export function withoutPlaces(file: File, places: readonly number[]): Blob {
  const parts: BlobPart[] = [];
  let at = 0;
  for (const place of [...places].sort((a, b) => a - b)) {
    parts.push(file.slice(at, place), NOTHING);
    at = place + NOTHING.length;
  }
  parts.push(file.slice(at));
  return new Blob(parts, { type: file.type });
}
