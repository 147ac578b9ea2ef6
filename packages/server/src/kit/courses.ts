import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { type Course, type CourseKit, IdParam, languageNow, SaveCourse, serverErrors, shelfLimits } from '@viaticum/contract';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { In, IsNull } from 'typeorm';
import { measuresOf } from '../auth/measures.js';
import { CourseEntity, LessonEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { signedIn } from '../guard/access.js';
import { roleOf } from '../lessons/reach.js';
import { present } from '../lessons/revisions.js';
import { pool } from '../work/pool.js';
import type { CourseJob } from './course-worker.js';
import { studioOf } from './studio.js';

/** Courses: lessons in the order in which they are taught, and what all of them need together. */
export async function courses(app: FastifyInstance, { database }: { database: Database }): Promise<void> {
  const routes = app.withTypeProvider<TypeBoxTypeProvider>();
  const { manager } = database.source;
  const kits = pool<CourseJob, CourseKit>('kit/course-worker.js', { queue: 20, perCaller: 4 });
  app.addHook('onClose', kits.close);
  const who = { config: { who: 'instructor' } } as const;

  /** Lessons of a course that its instructor may read, in its order; what is in the bin or shared no more is left out. */
  const lessonsOf = async (instructorId: string, ids: readonly string[]): Promise<LessonEntity[]> => {
    const found = await manager.findBy(LessonEntity, { id: In([...ids]), removedAt: IsNull() });
    const readable = await Promise.all(found.map(async (one) => ((await roleOf(manager, instructorId, one)) ? [one] : [])));
    const byId = new Map(readable.flat().map((one) => [one.id, one]));
    return ids.flatMap((id) => byId.get(id) ?? []);
  };
  const answer = async ({ id, ownerId, title, lessonIds, updatedAt }: CourseEntity): Promise<Course> => ({
    id,
    title,
    lessonIds: (await lessonsOf(ownerId, JSON.parse(lessonIds) as string[])).map((lesson) => lesson.id),
    updatedAt: new Date(updatedAt).toISOString(),
  });
  const own = async (ownerId: string, id: string): Promise<CourseEntity> => {
    const course = await manager.findOneBy(CourseEntity, { id, ownerId });
    if (!course) throw notFound('course of yours');
    return course;
  };
  const stored = ({ title, lessonIds }: SaveCourse) => ({
    title: title.trim(),
    lessonIds: JSON.stringify(lessonIds),
    updatedAt: Date.now(),
  });

  routes.get('/api/courses', who, async (request) => {
    const rows = await manager.find(CourseEntity, { where: { ownerId: signedIn(request).id }, order: { title: 'ASC' } });
    return Promise.all(rows.map(answer));
  });
  routes.post('/api/courses', { schema: { body: SaveCourse }, ...who }, async (request, reply) => {
    const { id: ownerId } = signedIn(request);
    if ((await manager.countBy(CourseEntity, { ownerId })) >= shelfLimits.courses) throw new ApiFault(serverErrors.coursesFull);
    const course = manager.create(CourseEntity, { id: nanoid(12), ownerId, ...stored(request.body) });
    await manager.insert(CourseEntity, course);
    reply.status(201);
    return answer(course);
  });
  routes.put('/api/courses/:id', { schema: { params: IdParam, body: SaveCourse }, ...who }, async (request) => {
    const course = await own(signedIn(request).id, request.params.id);
    const change = stored(request.body);
    await manager.update(CourseEntity, { id: course.id }, change);
    return answer({ ...course, ...change });
  });
  routes.delete('/api/courses/:id', { schema: { params: IdParam }, ...who }, async (request, reply) => {
    await manager.remove(await own(signedIn(request).id, request.params.id));
    return reply.status(204).send();
  });
  routes.get('/api/courses/:id/kit', { schema: { params: IdParam }, ...who }, async (request) => {
    const { id: ownerId } = signedIn(request);
    const course = await own(ownerId, request.params.id);
    const lessons = await lessonsOf(ownerId, JSON.parse(course.lessonIds) as string[]);
    const texts = await Promise.all(lessons.map(async (lesson) => (await present(manager, lesson)).document));
    const [studio, measures] = await Promise.all([studioOf(manager, ownerId), measuresOf(manager, ownerId)]);
    // Who never chose a language reads that of their browser.
    return kits.ask({ texts, studio, measures: { ...measures, language: measures.language ?? languageNow() } }, ownerId);
  });
}
