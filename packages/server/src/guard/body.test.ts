import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { type TestServer, testServer } from '../server.fixture.js';
import { assertModest, MOST_DEPTH, MOST_MEMBERS } from './body.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const object = (count: number) => `{${Array.from({ length: count }, (_, k) => `"k${k}":0`).join()}}`;

describe('a body is looked over before it is parsed', () => {
  it.each([
    ['a usual one', JSON.stringify({ a: [1, { b: 'c' }], d: 'with "quotes", \\ and {[' })],
    ['as deep as may be', '['.repeat(MOST_DEPTH) + ']'.repeat(MOST_DEPTH)],
    ['as wide as may be', object(MOST_MEMBERS)],
    ['many small objects', `[${'{"a":1},'.repeat(5000)}0]`],
    ['brackets within a string', JSON.stringify('['.repeat(1000))],
    ['no JSON at all', '"unfinished \\'],
  ])('%s may be read', (_, text) => {
    expect(() => assertModest(bytes(text))).not.toThrow();
  });
  it.each([
    ['too deep', '['.repeat(MOST_DEPTH + 1), /too deeply/],
    ['too deep, of objects', '{"a":'.repeat(40), /too deeply/],
    ['too wide', object(MOST_MEMBERS + 1), /more fields/],
  ])('%s is refused', (_, text, words) => {
    expect(() => assertModest(bytes(text))).toThrow(words);
  });
});

describe('over the wire', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await testServer({ bodyMs: 400 });
  });
  afterAll(() => server.stop());

  /** Sends raw bytes; gives what came back until the connection ended. */
  const raw = (head: string, later?: string) =>
    new Promise<{ said: string; ms: number }>((done) => {
      const from = performance.now();
      let said = '';
      const socket = connect(server.port, '127.0.0.1', () => socket.write(head));
      if (later) setTimeout(() => socket.write(later), 50);
      socket.on('data', (data) => {
        said += data;
      });
      socket.on('error', () => undefined);
      socket.on('close', () => done({ said, ms: performance.now() - from }));
    });

  it('a body that does not come ends its connection', async () => {
    const head =
      'POST /api/session HTTP/1.1\r\nhost: x\r\norigin: http://viaticum.test\r\ncontent-type: application/json\r\ncontent-length: 5000\r\n\r\n';
    const { ms } = await raw(head, '{');
    expect(ms).toBeGreaterThan(300);
    expect(ms).toBeLessThan(5000);
  });
  it('one that is too large, too deep or no JSON gets a sentence', async () => {
    const post = (payload: string) => server.request('POST', '/api/session', payload, '', { 'content-type': 'application/json' });
    expect(await post(`{"name":"${'x'.repeat(70_000)}"}`)).toMatchObject({ status: 413, body: { code: 'too-large' } });
    expect(await post('['.repeat(2000))).toMatchObject({ status: 400, body: { message: expect.stringMatching(/too deeply/) } });
    expect(await post('{"__proto__":{"a":1}}')).toMatchObject({ status: 400 });
    expect(await post('')).toMatchObject({ status: 400 });
    const cookie = await server.signIn();
    const lesson = (payload: string) =>
      server.request('POST', '/api/lessons', payload, cookie, { 'content-type': 'application/json' });
    expect(await lesson(`{"document":"${'x'.repeat(2 * 1024 * 1024)}"}`)).toMatchObject({ status: 413 });
    expect(await lesson('['.repeat(100_000))).toMatchObject({
      status: 400,
      body: { message: expect.stringMatching(/too deeply/) },
    });
    expect(await lesson('')).toMatchObject({ status: 400 });
  });
  it('every answer says which request it was, may not be kept, and permits nothing that is not used', async () => {
    const { headers } = await server.request('GET', '/api/session');
    expect(headers).toMatchObject({
      'cache-control': 'no-store',
      'x-request-id': expect.stringMatching(/^[\w-]{10}$/),
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'permissions-policy': expect.stringContaining('camera=()'),
    });
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("connect-src 'self';");
    expect(policy).not.toMatch(/unsafe-inline|unsafe-eval'(?<!wasm-unsafe-eval')/);
    expect(headers['strict-transport-security']).toBeUndefined();
    const safe = await testServer({ publicUrl: 'https://viaticum.test', origins: new Set(['http://viaticum.test']) });
    expect((await safe.request('GET', '/api/session')).headers['strict-transport-security']).toMatch(/max-age=31536000/);
    await safe.stop();
  });
});
