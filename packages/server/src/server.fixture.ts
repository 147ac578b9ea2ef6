import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ClassAnswer, Command, FollowSheet, LessonAnswer, LessonCard, ServerFrame } from '@viaticum/contract';
import { type ClassState, foldStretch, newClass } from '@viaticum/core/class';
import type { InjectOptions } from 'fastify';
import { nanoid } from 'nanoid';
import WebSocket from 'ws';
import { buildApp } from './app.js';
import type { Config } from './config.js';
import { InstructorEntity } from './db/entities.js';
import { demoSignIn } from './demo/seed.js';
import { BODY_MS } from './guard/access.js';

const ORIGIN = 'http://viaticum.test';

/** A server on a database of its own, listening on a free port, with the demo data. */
export async function testServer(adjust: Partial<Config> = {}) {
  const address = process.env.VIATICUM_TEST_DATABASE;
  if (!address) throw new Error('The tests of the server need a database. Run npm test, which starts one.');
  const name = `t${randomBytes(6).toString('hex')}`;
  const dataFolder = await mkdtemp(join(tmpdir(), 'viaticum-test-'));
  const config: Config = {
    host: '127.0.0.1',
    port: 0,
    publicUrl: ORIGIN,
    dataFolder,
    databaseUrl: address.replace('NAME', name),
    webFolder: join(dataFolder, 'none'),
    origins: new Set([ORIGIN]),
    addresses: [],
    tls: null,
    redisUrl: null,
    trustProxy: false,
    demoPassword: null,
    owner: null,
    bodyMs: BODY_MS,
    quiet: true,
    ...adjust,
  };
  const running = await buildApp(config);
  await running.app.listen({ host: '127.0.0.1', port: 0 });
  const { port } = running.app.server.address() as AddressInfo;

  const request = async (method: string, url: string, payload?: unknown, cookie = '', headers: Record<string, string> = {}) => {
    const response = await running.app.inject({
      method: method as InjectOptions['method'],
      url,
      headers: { origin: ORIGIN, ...(cookie ? { cookie } : {}), ...headers },
      ...(payload === undefined ? {} : { payload: payload as InjectOptions['payload'] }),
    } as InjectOptions);
    const isJson = String(response.headers['content-type']).includes('json') && response.body !== '';
    return {
      status: response.statusCode,
      body: (isJson ? response.json() : response.body) as Record<string, unknown>,
      headers: response.headers,
      raw: response.rawPayload,
    };
  };
  const signIn = async (given: { name: string; password: string } = demoSignIn): Promise<string> => {
    const { headers } = await request('POST', '/api/session', given);
    return String(headers['set-cookie']).split(';')[0] as string;
  };
  return {
    ...running,
    config,
    port,
    request,
    signIn,
    async demoLesson(cookie: string): Promise<LessonAnswer> {
      const cards = (await request('GET', '/api/lessons', undefined, cookie)).body as unknown as LessonCard[];
      return (await request('GET', `/api/lessons/${cards[0]?.id}`, undefined, cookie)).body as unknown as LessonAnswer;
    },
    /** A class that is open; `seats`: planned for so many, else for as many as sit in a room. */
    async openClass(cookie: string, seats?: number): Promise<ClassAnswer> {
      const { id } = await this.demoLesson(cookie);
      const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'Europe/Vienna', place: '', seats, roster: [] };
      const { body } = seats
        ? await request('POST', '/api/classes/planned', { lessonId: id, invite }, cookie)
        : await request('POST', '/api/classes', { lessonId: id }, cookie);
      const made = body as unknown as ClassAnswer;
      return seats
        ? ((await request('POST', `/api/classes/${made.code}/open`, {}, cookie)).body as unknown as ClassAnswer)
        : made;
    },
    async sheet(code: string): Promise<FollowSheet> {
      return (await request('GET', `/api/join/${code}/sheet`)).body as unknown as FollowSheet;
    },
    async anotherInstructor(): Promise<string> {
      const given = { name: `other-${nanoid(5)}`, password: demoSignIn.password };
      const { manager } = running.database.source;
      const demo = await manager.findOneByOrFail(InstructorEntity, { name: demoSignIn.name });
      await manager.insert(InstructorEntity, { id: nanoid(12), name: given.name, passwordHash: demo.passwordHash });
      return signIn(given);
    },
    /** A client of the class connection that folds what it hears. */
    connect: (code: string, as: 'desk' | 'phone' | 'wall', cookie = '', token?: string, origin = ORIGIN, state?: ClassState) =>
      client(`ws://127.0.0.1:${port}/api/live/${code}?as=${as}`, cookie, token, origin, state),
    async stop() {
      await running.app.close();
      await rm(dataFolder, { recursive: true, force: true });
    },
  };
}
export type TestServer = Awaited<ReturnType<typeof testServer>>;

export async function client(
  url: string,
  cookie: string,
  token: string | undefined,
  origin: string,
  state: ClassState = newClass(),
  key?: string,
) {
  const socket = new WebSocket(url, { headers: { origin, ...(cookie ? { cookie } : {}) } });
  const frames: ServerFrame[] = [];
  const listeners = new Set<() => void>();
  let closed: { code: number; reason: string } | null = null;
  socket.on('message', (data) => {
    const frame = JSON.parse(String(data)) as ServerFrame;
    frames.push(frame);
    // A stretch from the beginning is the whole of it.
    if (frame.type === 'hello' && frame.from === 1) {
      for (const key of Object.keys(state)) delete state[key as keyof ClassState];
      Object.assign(state, newClass());
    }
    if (frame.type === 'hello' || frame.type === 'events') foldStretch(state, frame.events, frame.to);
    for (const listener of listeners) listener();
  });
  socket.on('close', (code, reason) => {
    closed = { code, reason: String(reason) };
    for (const listener of listeners) listener();
  });
  await new Promise<void>((resolve, reject) => {
    socket.once('open', resolve);
    socket.once('error', reject);
  });
  socket.on('error', () => undefined);

  const until = <T>(look: () => T | null | undefined | false, ms = 5000): Promise<T> =>
    new Promise((resolve, reject) => {
      const timer = setTimeout(
        () => reject(new Error(`waited ${ms} ms in vain; last frames: ${JSON.stringify(frames.slice(-3)).slice(0, 500)}`)),
        ms,
      );
      const check = () => {
        const found = look();
        if (!found) return;
        clearTimeout(timer);
        listeners.delete(check);
        resolve(found);
      };
      listeners.add(check);
      check();
    });
  const self = {
    socket,
    state,
    frames,
    until,
    closed: () => until(() => closed),
    sendRaw: (text: string | Buffer) => socket.send(text),
    async hello(after = state.seq) {
      socket.send(JSON.stringify({ type: 'hello', after, ...(token ? { token } : {}), ...(key ? { key } : {}) }));
      const hello = await until(() => frames.find((frame) => frame.type === 'hello'));
      // A long log comes in pieces.
      await until(() => hello.type === 'hello' && state.seq >= hello.head);
      return hello;
    },
    async say(command: Command, id = nanoid(10)) {
      socket.send(JSON.stringify({ type: 'command', id, command }));
      return until(() =>
        frames.findLast((frame) => (frame.type === 'ack' || frame.type === 'refused') && frame.id === id),
      ) as Promise<Extract<ServerFrame, { type: 'ack' | 'refused' }>>;
    },
    close: () => socket.terminate(),
  };
  return self;
}
