import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type ClassAnswer,
  type ClassLinks,
  type ClassRecord,
  CodeParam,
  DeviceParam,
  type Invite,
  languageOf,
  NewClass,
  NewInvite,
  PageQuery,
  SaveAddress,
  SaveInvite,
  SaveLanguage,
  serverErrors,
} from '@viaticum/contract';
import { isTimeZone } from '@viaticum/core/format';
import type { FastifyInstance } from 'fastify';
import QRCode from 'qrcode';
import type { Config } from '../../config.js';
import type { ClassEntity } from '../../db/entities.js';
import { ApiFault } from '../../errors.js';
import type { FilmStore } from '../../films/store.js';
import { signedIn } from '../../guard/access.js';
import type { LetterStore } from '../people/letters.js';
import type { PeopleStore } from '../people/people.js';
import type { PrivacyStore } from '../people/privacy.js';
import type { Rehearsals } from '../rehearsals.js';
import type { ClassStore } from '../store.js';
import { addressesOf, type ClassLookup, codeOf, joinAddress } from './lookup.js';

/** An invitation whose day and time zone there are; throws 422 where not. */
function possible(invite: Invite): Invite {
  if (Number.isNaN(new Date(invite.startsAt).getTime())) throw new ApiFault(serverErrors.noSuchDay);
  if (!isTimeZone(invite.timeZone)) throw new ApiFault(serverErrors.noSuchTimeZone);
  return invite;
}

/** How a class is told to its instructor, and by which links its helpers come in. */
function answers(config: Config, store: ClassStore) {
  const links = (one: ClassEntity): ClassLinks => ({
    co: `${config.publicUrl}/co/${one.code}#${store.deviceKey(one, 'co')}`,
    assistant: `${config.publicUrl}/assist/${one.code}#${store.deviceKey(one, 'assistant')}`,
    sensor: store.deviceKey(one, 'sensor'),
    camera: store.deviceKey(one, 'camera'),
  });
  const answer = (one: ClassEntity): ClassAnswer => ({
    id: one.id,
    code: one.code,
    lessonId: one.lessonId,
    title: one.title,
    state: one.phase,
    openedAt: new Date(one.openedAt).toISOString(),
    // The chosen one first.
    addresses: [
      joinAddress(config, one),
      ...addressesOf(config)
        .map((address) => `${address}/join/${one.code}`)
        .filter((url) => url !== joinAddress(config, one)),
    ],
    reachable: config.addresses.length > 0 || !/\/\/(127\.|localhost|\[::1)/.test(config.publicUrl),
    language: languageOf(one.language),
    rehearsal: one.rehearsal === 1,
    invite: one.invite ? (JSON.parse(one.invite) as Invite) : null,
  });
  return { links, answer };
}

export type ClassParts = {
  store: ClassStore;
  people: PeopleStore;
  letters: LetterStore;
  privacy: PrivacyStore;
  rehearsals: Rehearsals;
  films: FilmStore;
  config: Config;
};

/** What the instructor does with their classes: begin, plan, invite, look back. */
export function instructorRoutes(
  app: FastifyInstance,
  { store, people: peopleOf, rehearsals, config, owned }: ClassParts & Pick<ClassLookup, 'owned'>,
): void {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { links, answer } = answers(config, store);
  const own = { config: { who: 'instructor' } } as const;

  routes.post('/api/classes', { schema: { body: NewClass }, ...own }, async (request, reply) => {
    const { lessonId, rehearsal } = request.body;
    const one = await store.open(signedIn(request).id, lessonId, rehearsal !== undefined);
    if (rehearsal) rehearsals.begin(one, rehearsal, (role) => store.deviceKey(one, role));
    reply.status(201);
    return answer(one);
  });
  routes.post('/api/classes/planned', { schema: { body: NewInvite }, ...own }, async (request, reply) => {
    reply.status(201);
    return answer(await store.plan(signedIn(request).id, request.body.lessonId, possible(request.body.invite)));
  });
  routes.put('/api/classes/:code/invite', { schema: { params: CodeParam, body: SaveInvite }, ...own }, async (request) =>
    answer(await store.invite(signedIn(request).id, codeOf(request.params.code), possible(request.body.invite))),
  );
  routes.post('/api/classes/:code/open', { schema: { params: CodeParam }, ...own }, async (request) =>
    answer(await store.openPlanned(signedIn(request).id, codeOf(request.params.code))),
  );
  routes.get('/api/classes', { schema: { querystring: PageQuery }, ...own }, async (request) =>
    (await store.list(signedIn(request).id, request.query.before)).map(answer),
  );
  routes.get('/api/classes/:code', { schema: { params: CodeParam }, ...own }, async (request) => answer(await owned(request)));
  routes.put('/api/classes/:code/address', { schema: { params: CodeParam, body: SaveAddress }, ...own }, async (request) => {
    const one = await owned(request);
    const address = new URL(request.body.address).origin;
    if (!addressesOf(config).includes(address)) throw new ApiFault(serverErrors.noSuchAddress);
    return answer(await store.setAddress(one, address));
  });
  routes.put('/api/classes/:code/language', { schema: { params: CodeParam, body: SaveLanguage }, ...own }, async (request) =>
    answer(await store.setLanguage(await owned(request), request.body.language)),
  );
  routes.get('/api/classes/:code/links', { schema: { params: CodeParam }, ...own }, async (request): Promise<ClassLinks> => {
    return links(await owned(request));
  });
  routes.post('/api/classes/:code/links/:role/renew', { schema: { params: DeviceParam }, ...own }, async (request) => {
    const one = await store.renewKey(await owned(request), request.params.role);
    request.log.info({ class: one.id, role: request.params.role }, 'a key was made anew');
    return links(one);
  });
  routes.get('/api/classes/:code/record', { schema: { params: CodeParam }, ...own }, async (request, reply) => {
    const one = await owned(request);
    const [events, sheet, lesson, students] = await Promise.all([
      store.eventsText(one.id),
      store.sheet(one.code),
      store.lessonText(one),
      peopleOf.ofClass(one.id),
    ]);
    // What is stored as JSON goes out as it is: a {@link ClassRecord}.
    const rest = JSON.stringify({ title: one.title, sheet, students } satisfies Omit<ClassRecord, 'events' | 'lesson'>);
    return reply.type('application/json').send(`{"events":${events},"lesson":${lesson},${rest.slice(1)}`);
  });
  routes.get('/api/classes/:code/qr.svg', { schema: { params: CodeParam }, ...own }, async (request, reply) => {
    const one = await owned(request);
    const svg = await QRCode.toString(joinAddress(config, one), { type: 'svg', margin: 2, errorCorrectionLevel: 'M' });
    return reply.type('image/svg+xml').send(svg);
  });
}
