import { BufferTarget, CanvasSource, Output, WebMOutputFormat } from 'mediabunny';
import { drawFrame, type FilmParts } from './film-picture.js';

/** The animatic is drawn so large, with so many bits a second; small enough to be sent in a message. */
const sizes = {
  usual: { width: 1280, height: 720, bits: 1_500_000 },
  small: { width: 480, height: 270, bits: 150_000 },
} as const;
export type FilmSize = keyof typeof sizes;
/** It is drawn so often a second. */
const ANIMATIC_FPS = 12;
/** Every two seconds a whole picture, so that the film can be wound. */
const KEY_S = 2;

/** Whether this browser writes films picture by picture. */
export const canEncode = (): boolean => typeof VideoEncoder !== 'undefined' && typeof OffscreenCanvas !== 'undefined';

/**
 * The animatic as a WebM file with its length and index, drawn frame by frame faster than it plays (VideoEncoder, VP8; the muxer is
 * `mediabunny`). `tell` hears the share done; `signal` breaks it off, with null. Throws where the browser cannot.
 */
export async function animaticFile(
  parts: FilmParts,
  size: FilmSize,
  tell: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob | null> {
  const { width, height, bits } = sizes[size];
  const canvas = new OffscreenCanvas(width, height);
  const ctx = canvas.getContext('2d', { alpha: false });
  if (!ctx) throw new Error('no drawing');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp8', bitrate: bits, keyFrameInterval: KEY_S });
  output.addVideoTrack(source, { frameRate: ANIMATIC_FPS });
  await output.start();
  const seconds = parts.timeline.frames / parts.timeline.fps;
  const count = Math.max(1, Math.ceil(seconds * ANIMATIC_FPS));
  for (let i = 0; i < count; i++) {
    if (signal.aborted) {
      await output.cancel();
      return null;
    }
    const at = i / ANIMATIC_FPS;
    drawFrame(ctx, parts, Math.min(parts.timeline.frames - 1, Math.floor(at * parts.timeline.fps)));
    await source.add(at, Math.min(1 / ANIMATIC_FPS, Math.max(0.001, seconds - at)));
    if (i % ANIMATIC_FPS === 0) {
      tell(i / count);
      // The page answers in between.
      await new Promise((done) => setTimeout(done));
    }
  }
  await output.finalize();
  return new Blob([target.buffer as ArrayBuffer], { type: 'video/webm' });
}

/**
 * The same where there is no encoder: recorded by the browser while it plays, in real time; such a film has no index. `null` where it was
 * broken off.
 */
export async function recordedFile(
  parts: FilmParts,
  size: FilmSize,
  tell: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob | null> {
  const canvas = document.createElement('canvas');
  const { width, height, bits } = sizes[size];
  Object.assign(canvas, { width, height });
  const ctx = canvas.getContext('2d', { alpha: false });
  if (!ctx) throw new Error('no drawing');
  const recorder = new MediaRecorder(canvas.captureStream(ANIMATIC_FPS), { videoBitsPerSecond: bits });
  const chunks: Blob[] = [];
  recorder.ondataavailable = ({ data }) => chunks.push(data);
  const stopped = new Promise<void>((done) => {
    recorder.onstop = () => done();
  });
  const seconds = parts.timeline.frames / parts.timeline.fps;
  recorder.start();
  const begun = performance.now();
  for (;;) {
    const at = (performance.now() - begun) / 1000;
    if (at >= seconds || signal.aborted) break;
    drawFrame(ctx, parts, Math.floor(at * parts.timeline.fps));
    tell(at / seconds);
    await new Promise((done) => setTimeout(done, 1000 / ANIMATIC_FPS));
  }
  recorder.stop();
  await stopped;
  return signal.aborted ? null : new Blob(chunks, { type: 'video/webm' });
}
