import { expose } from 'comlink';
import { createSHA256 } from 'hash-wasm';

const PIECE = 8 * 1024 * 1024;

/** SHA-256 of a file (hex), read piece by piece: browsers' own hashing takes only what is whole in memory. */
async function hashOf(file: Blob): Promise<string> {
  const hash = await createSHA256();
  hash.init();
  for (let at = 0; at < file.size; at += PIECE) hash.update(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  return hash.digest('hex');
}
export type Hasher = { hashOf: typeof hashOf };
expose({ hashOf });
