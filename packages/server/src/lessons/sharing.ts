import { createHash, randomBytes } from 'node:crypto';
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import {
  type Around,
  type AroundAnswer,
  type GivenRole,
  IdParam,
  type LessonRole,
  NewShareLink,
  SaveHere,
  SaveSharer,
  SHARE_DAYS,
  type SharedAnswer,
  type ShareLink,
  type ShareLinkMade,
  ShareLinkParam,
  SharerParam,
  type SharingAnswer,
  serverErrors,
  TokenParam,
} from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { type EntityManager, LessThan, MoreThan, Not } from 'typeorm';
import type { Config } from '../config.js';
import {
  InstructorEntity,
  LessonEntity,
  LessonHereEntity,
  LessonRevisionEntity,
  LessonShareEntity,
  LessonShareLinkEntity,
} from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { as, signedIn } from '../guard/access.js';
import { noteFiles, reach, roleOf } from './reach.js';
import { present } from './revisions.js';

const DAY_MS = 86_400_000;
const MOST_SHARERS = 30;
const MOST_LINKS = 10;
/** Who has told nothing for so long has left. */
const HERE_MS = 5000;

const hashed = (token: string): string => createHash('sha256').update(token).digest('hex');
const linkAnswer = ({ id, role, madeAt, expiresAt }: LessonShareLinkEntity): ShareLink => ({
  id,
  role,
  madeAt: new Date(madeAt).toISOString(),
  expiresAt: new Date(expiresAt).toISOString(),
});

/** With whom lessons are shared, by which links, and who has one open now. */
export function sharingStore({ source }: Database, now: () => number = () => Date.now()) {
  const { manager } = source;
  const nameOf = async (id: string): Promise<string> =>
    (await manager.findOne(InstructorEntity, { select: { id: true, name: true }, where: { id } }))?.name ?? '';
  const linkOf = async (within: EntityManager, token: string) => {
    const link = await within.findOneBy(LessonShareLinkEntity, { tokenHash: hashed(token), expiresAt: MoreThan(now()) });
    const lesson = link && (await within.findOneBy(LessonEntity, { id: link.lessonId }));
    if (!link || !lesson || lesson.removedAt !== null) throw new ApiFault(serverErrors.linkOver);
    return { link, lesson };
  };
  return {
    async of(who: string, id: string): Promise<SharingAnswer> {
      const lesson = await reach(manager, who, id, 'reader');
      const people = await manager
        .createQueryBuilder(LessonShareEntity, 'share')
        .innerJoin(InstructorEntity, 'one', 'one.id = share.instructor_id')
        .select(['one.id AS id', 'one.name AS name', 'share.role AS role'])
        .where('share.lesson_id = :id', { id })
        .orderBy('one.name')
        .getRawMany<{ id: string; name: string; role: GivenRole }>();
      const links =
        lesson.role === 'owner'
          ? await manager.find(LessonShareLinkEntity, {
              where: { lessonId: id, expiresAt: MoreThan(now()) },
              order: { madeAt: 'ASC' },
            })
          : [];
      return {
        role: lesson.role,
        owner: await nameOf(lesson.ownerId),
        people: people.map((one) => ({ ...one })),
        links: links.map(linkAnswer),
      };
    },
    async makeLink(who: string, id: string, role: GivenRole): Promise<ShareLink & { token: string }> {
      await reach(manager, who, id, 'owner');
      await manager.delete(LessonShareLinkEntity, { lessonId: id, expiresAt: LessThan(now()) });
      if ((await manager.countBy(LessonShareLinkEntity, { lessonId: id })) >= MOST_LINKS)
        throw new ApiFault(serverErrors.shareLinksFull);
      const token = randomBytes(18).toString('base64url');
      const madeAt = now();
      const link = manager.create(LessonShareLinkEntity, {
        ...{ tokenHash: hashed(token), id: nanoid(12), lessonId: id, role },
        ...{ madeAt, expiresAt: madeAt + SHARE_DAYS * DAY_MS },
      });
      await manager.insert(LessonShareLinkEntity, link);
      return { ...linkAnswer(link), token };
    },
    async dropLink(who: string, id: string, linkId: string): Promise<void> {
      await reach(manager, who, id, 'owner');
      const { affected } = await manager.delete(LessonShareLinkEntity, { lessonId: id, id: linkId });
      if (!affected) throw notFound('link to this lesson');
    },
    async look(who: string, token: string): Promise<SharedAnswer> {
      const { link, lesson } = await linkOf(manager, token);
      const [owner, has] = await Promise.all([nameOf(lesson.ownerId), roleOf(manager, who, lesson)]);
      return { lessonId: lesson.id, title: lesson.title, owner, role: link.role, has };
    },
    /** Puts the lesson on the shelf of who has the link. A link takes nothing away: who may do more already keeps that. */
    async follow(who: string, token: string): Promise<string> {
      return source.transaction(async (within) => {
        const { link, lesson } = await linkOf(within, token);
        const has = await roleOf(within, who, lesson);
        if (has === 'owner' || has === 'editor' || has === link.role) return lesson.id;
        if (!has && (await within.countBy(LessonShareEntity, { lessonId: lesson.id })) >= MOST_SHARERS)
          throw new ApiFault(serverErrors.shareFull);
        await within.upsert(LessonShareEntity, { lessonId: lesson.id, instructorId: who, role: link.role }, [
          'lessonId',
          'instructorId',
        ]);
        await noteFiles(within, lesson.id, lesson.ownerId, (await present(within, lesson)).document);
        return lesson.id;
      });
    },
    async change(who: string, id: string, personId: string, role: GivenRole): Promise<void> {
      await reach(manager, who, id, 'owner');
      if (!(await manager.existsBy(LessonShareEntity, { lessonId: id, instructorId: personId })))
        throw notFound('instructor with whom this lesson is shared');
      await manager.update(LessonShareEntity, { lessonId: id, instructorId: personId }, { role });
    },
    /** Shares it with somebody no more. Who it is shared with may leave. */
    async part(who: string, id: string, personId: string): Promise<void> {
      await reach(manager, who, id, personId === who ? 'reader' : 'owner');
      const { affected } = await manager.delete(LessonShareEntity, { lessonId: id, instructorId: personId });
      if (!affected) throw notFound('instructor with whom this lesson is shared');
      await manager.delete(LessonHereEntity, { lessonId: id, instructorId: personId });
    },

    /** Says that a browser has the lesson open, and who else has; which revision there is now. */
    async around(who: string, id: string, { seat, place }: SaveHere): Promise<AroundAnswer> {
      const lesson = await reach(manager, who, id, 'reader');
      await manager.upsert(LessonHereEntity, { lessonId: id, seat, instructorId: who, place, seenAt: now() }, [
        'lessonId',
        'seat',
      ]);
      // Asked every second: its document stays where it is.
      const last = await manager.findOne(LessonRevisionEntity, {
        select: { id: true, authorId: true },
        where: { lessonId: id, number: lesson.revision, kind: Not('kept') },
      });
      const authorId = last?.authorId ?? lesson.ownerId;
      const people = await manager
        .createQueryBuilder(LessonHereEntity, 'here')
        .innerJoin(InstructorEntity, 'one', 'one.id = here.instructor_id')
        .leftJoin(LessonShareEntity, 'share', 'share.lesson_id = here.lesson_id AND share.instructor_id = here.instructor_id')
        .select(['here.seat AS seat', 'one.id AS id', 'one.name AS name', 'here.place AS place', 'share.role AS role'])
        .where('here.lesson_id = :id AND here.seat <> :seat AND here.seen_at > :since', { id, seat, since: now() - HERE_MS })
        .orderBy('one.name')
        .addOrderBy('here.seat')
        .getRawMany<{ seat: string; id: string; name: string; place: string; role: GivenRole | null }>();
      return {
        people: people.map(
          (one): Around => ({
            ...{ seat: one.seat, name: one.name, place: one.place, isYou: one.id === who },
            role: (one.role ?? 'owner') as LessonRole,
          }),
        ),
        revision: lesson.revision,
        savedBy: authorId === who ? null : await nameOf(authorId),
      };
    },
    /** Forgets who has left long ago, and links whose time is over. */
    async tidy(): Promise<void> {
      await manager.delete(LessonHereEntity, { seenAt: LessThan(now() - 60_000) });
      await manager.delete(LessonShareLinkEntity, { expiresAt: LessThan(now()) });
    },
  };
}
export type SharingStore = ReturnType<typeof sharingStore>;

/** Sharing a lesson, and who works on it now. */
export async function sharing(app: FastifyInstance, { store, config }: { store: SharingStore; config: Config }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();

  routes.get('/api/lessons/:id/sharing', { schema: { params: IdParam }, ...as('reader') }, async (request) =>
    store.of(signedIn(request).id, request.params.id),
  );
  routes.post(
    '/api/lessons/:id/sharing/links',
    { schema: { params: IdParam, body: NewShareLink }, ...as('owner') },
    async (request, reply) => {
      const { token, ...link } = await store.makeLink(signedIn(request).id, request.params.id, request.body.role);
      reply.status(201);
      return { ...link, address: `${config.publicUrl}/shared/${token}` } satisfies ShareLinkMade;
    },
  );
  routes.delete(
    '/api/lessons/:id/sharing/links/:linkId',
    { schema: { params: ShareLinkParam }, ...as('owner') },
    async (request, reply) => {
      await store.dropLink(signedIn(request).id, request.params.id, request.params.linkId);
      return reply.status(204).send();
    },
  );
  routes.put(
    '/api/lessons/:id/sharing/people/:personId',
    { schema: { params: SharerParam, body: SaveSharer }, ...as('owner') },
    async (request, reply) => {
      await store.change(signedIn(request).id, request.params.id, request.params.personId, request.body.role);
      return reply.status(204).send();
    },
  );
  routes.delete(
    '/api/lessons/:id/sharing/people/:personId',
    { schema: { params: SharerParam }, ...as('owner') },
    async (request, reply) => {
      await store.part(signedIn(request).id, request.params.id, request.params.personId);
      return reply.status(204).send();
    },
  );
  routes.delete('/api/lessons/:id/sharing/me', { schema: { params: IdParam }, ...as('reader') }, async (request, reply) => {
    const { id } = signedIn(request);
    await store.part(id, request.params.id, id);
    return reply.status(204).send();
  });

  const signed = { config: { who: 'instructor' } } as const;
  routes.get('/api/shared/:token', { schema: { params: TokenParam }, ...signed }, async (request) =>
    store.look(signedIn(request).id, request.params.token),
  );
  routes.post('/api/shared/:token', { schema: { params: TokenParam }, ...signed }, async (request) => ({
    lessonId: await store.follow(signedIn(request).id, request.params.token),
  }));

  // Asked every second while a lesson is open.
  routes.post('/api/lessons/:id/here', { schema: { params: IdParam, body: SaveHere }, ...as('reader') }, async (request) =>
    store.around(signedIn(request).id, request.params.id, request.body),
  );
}
