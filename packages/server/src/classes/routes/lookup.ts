import { CODE_PATTERN, serverErrors } from '@viaticum/contract';
import type { FastifyRequest } from 'fastify';
import type { Config } from '../../config.js';
import type { ClassEntity } from '../../db/entities.js';
import { ApiFault } from '../../errors.js';
import { signedIn } from '../../guard/access.js';
import { codeGuard } from '../../guard/codes.js';
import type { ClassStore } from '../store.js';

const codePattern = new RegExp(CODE_PATTERN);

/** Codes are read off a board: case and spaces do not matter. Throws 400 for what can be none. */
export function codeOf(given: string): string {
  const code = given.toUpperCase().replace(/\s+/g, '');
  if (!codePattern.test(code)) throw new ApiFault(serverErrors.codeMalformed);
  return code;
}

type Addresses = Pick<Config, 'publicUrl' | 'addresses' | 'port' | 'tls'>;
/** Where this machine is reached, the usual address first. */
export function addressesOf({ publicUrl, addresses, port, tls }: Addresses): string[] {
  const scheme = publicUrl.startsWith('https:') && tls ? 'https' : publicUrl.split(':')[0];
  return [...new Set([publicUrl, ...addresses.map((address) => `${scheme}://${address}:${port}`)])];
}
/** Where a class is joined: at the address that was chosen for it, as long as the machine has that. */
export function joinAddress(config: Addresses, { code, address }: Pick<ClassEntity, 'code' | 'address'>): string {
  const known = addressesOf(config);
  return `${address && known.includes(address) ? address : config.publicUrl}/join/${code}`;
}

/** How routes come to the class that they name. */
export function classLookup(store: ClassStore) {
  const guard = codeGuard();
  return {
    /** By its code, which may be guessed only so often from one address. */
    find: (code: string, address: string): Promise<ClassEntity> => guard.checked(address, async () => store.byCode(codeOf(code))),
    /** The class of the instructor who is signed in. */
    owned: (request: FastifyRequest): Promise<ClassEntity> =>
      store.owned(signedIn(request).id, codeOf((request.params as { code: string }).code)),
  };
}
export type ClassLookup = ReturnType<typeof classLookup>;
