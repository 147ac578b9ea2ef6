import { randomBytes, type ScryptOptions, scrypt as scryptCallback, timingSafeEqual } from 'node:crypto';

const options: ScryptOptions = { N: 32768, r: 8, p: 3, maxmem: 64 * 1024 * 1024 };
const scrypt = (password: string, salt: Buffer) =>
  new Promise<Buffer>((resolve, reject) => {
    scryptCallback(password.normalize('NFKC'), salt, 32, options, (error, key) => (error ? reject(error) : resolve(key)));
  });

/** `scrypt$salt$key`, base64url. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${salt.toString('base64url')}$${(await scrypt(password, salt)).toString('base64url')}`;
}

const decoy = hashPassword(randomBytes(12).toString('hex'));

/** Whether a password fits a stored hash. Takes as long for an unknown name (`null`) as for a known one. */
export async function passwordFits(password: string, stored: string | null): Promise<boolean> {
  const [, salt, key] = (stored ?? (await decoy)).split('$') as [string, string, string];
  const found = await scrypt(password, Buffer.from(salt, 'base64url'));
  return timingSafeEqual(found, Buffer.from(key, 'base64url')) && stored !== null;
}
