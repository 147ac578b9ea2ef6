import { FILMS_PATH, type FilmFile, filmLimits, say } from '@viaticum/contract';
import { wrap } from 'comlink';
import { createSHA256 } from 'hash-wasm';
import { DefaultHttpStack, type DetailedError, type HttpRequest, Upload } from 'tus-js-client';
import { call } from '../../api/http.js';
import type { Hasher } from './hash.worker.js';

export type Sending = { stop: () => void; film: Promise<FilmFile | null> };
export type Told = { sentBytes: number; bytes: number; perSecond: number; isWaiting: boolean };

/** Waits between tries of a piece; after the last the upload waits for the network. */
const RETRY_MS = [1000, 3000, 9000];
const LOOK_AGAIN_MS = 10_000;
const CHANGED_ON_THE_WAY = 460;

/** A piece says what it is by its hash, so that one that changed on the way is sent again (tus, checksum). */
class CheckedStack extends DefaultHttpStack {
  override createRequest(method: string, url: string): HttpRequest {
    const request = super.createRequest(method, url);
    if (method !== 'PATCH') return request;
    const send = request.send.bind(request);
    request.send = async (body: Blob) => {
      const hash = await createSHA256();
      hash.update(new Uint8Array(await body.arrayBuffer()));
      const bytes = hash.digest('binary');
      request.setHeader('Upload-Checksum', `sha256 ${btoa(String.fromCharCode(...bytes))}`);
      return send(body);
    };
    return request;
  }
}

/**
 * Sends a film in pieces (the tus protocol), goes on after a cut line and after a reload, and checks at the end that what arrived is what
 * was sent. `tell` hears how far it is. Null where it was stopped.
 */
export function sendFilm(file: Blob, name: string, tell: (told: Told) => void): Sending {
  const worker = new Worker(new URL('./hash.worker.js', import.meta.url), { type: 'module' });
  const hash = wrap<Hasher>(worker).hashOf(file as never);
  let isStopped = false;
  let resolveStopped = () => {};
  const stopped = new Promise<null>((done) => {
    resolveStopped = () => done(null);
  });
  const begun = performance.now();
  let first: number | null = null;
  const told = (sentBytes: number, isWaiting = false) => {
    first ??= sentBytes;
    const seconds = Math.max(0.5, (performance.now() - begun) / 1000);
    tell({ sentBytes, bytes: file.size, perSecond: (sentBytes - first) / seconds, isWaiting });
  };
  let upload: Upload | null = null;
  const goesOn = () => {
    if (!isStopped) upload?.start();
  };
  const sent = new Promise<string>((done, failed) => {
    const own = new Upload(file, {
      endpoint: FILMS_PATH,
      chunkSize: filmLimits.pieceBytes,
      retryDelays: RETRY_MS,
      metadata: { name, type: file.type },
      removeFingerprintOnSuccess: true,
      httpStack: new CheckedStack({}),
      onProgress: (bytes) => told(bytes),
      onShouldRetry: (error) => {
        const status = (error as DetailedError).originalResponse?.getStatus() ?? 0;
        return status === 0 || status === 409 || status === 423 || status === CHANGED_ON_THE_WAY || status >= 500;
      },
      onError: (error) => {
        const response = (error as DetailedError).originalResponse;
        if (!response) {
          // Nobody answers: it waits for the network, and then goes on.
          told(0, true);
          window.addEventListener('online', goesOn, { once: true });
          setTimeout(goesOn, LOOK_AGAIN_MS);
          return;
        }
        failed(new Error(sentenceOf(response.getBody())));
      },
      onSuccess: () => done(new URL(own.url as string, location.href).pathname),
    });
    upload = own;
    void own.findPreviousUploads().then(([before]) => {
      if (before) own.resumeFromPreviousUpload(before);
      goesOn();
    });
  });
  const film = sent.then(async (path) => call<FilmFile>('POST', `${path}/finish`, { sha256: await hash }));
  return {
    film: Promise.race([film, stopped]).finally(() => worker.terminate()),
    stop() {
      isStopped = true;
      window.removeEventListener('online', goesOn);
      void upload?.abort(true).catch(() => undefined);
      resolveStopped();
    },
  };
}

function sentenceOf(body: string): string {
  try {
    return (JSON.parse(body) as { message: string }).message;
  } catch {
    return say('The film could not be sent. Try again in a moment; what has arrived is kept.');
  }
}
