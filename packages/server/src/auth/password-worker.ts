import { randomBytes, type ScryptOptions, scryptSync, timingSafeEqual } from 'node:crypto';

export type PasswordJob = { kind: 'hash'; password: string } | { kind: 'fits'; password: string; stored: string | null };

const options: ScryptOptions = { N: 32768, r: 8, p: 3, maxmem: 64 * 1024 * 1024 };
const scrypt = (password: string, salt: Buffer) => scryptSync(password.normalize('NFKC'), salt, 32, options);

/** `scrypt$salt$key`, base64url. */
function hash(password: string): string {
  const salt = randomBytes(16);
  return `scrypt$${salt.toString('base64url')}$${scrypt(password, salt).toString('base64url')}`;
}
/** Fits no password; takes as long as any. */
const decoy = `scrypt$${randomBytes(16).toString('base64url')}$${randomBytes(32).toString('base64url')}`;

export default function work(job: PasswordJob): string | boolean {
  if (job.kind === 'hash') return hash(job.password);
  const [, salt, key] = (job.stored ?? decoy).split('$') as [string, string, string];
  const found = scrypt(job.password, Buffer.from(salt, 'base64url'));
  return timingSafeEqual(found, Buffer.from(key, 'base64url')) && job.stored !== null;
}
