import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.stop());
const ask = (url: string, remoteAddress = '127.0.0.1', headers: Record<string, string> = {}) =>
  server.app.inject({ method: 'GET', url, remoteAddress, headers });

describe('whoever runs this', () => {
  it('is told whether it lives and can serve', async () => {
    expect((await ask('/health')).json()).toEqual({ ok: true });
    const ready = await ask('/ready', '192.168.1.7');
    expect([ready.statusCode, ready.json()]).toEqual([200, { database: true, disk: true, running: true }]);
  });
  it('reads figures in the text format of Prometheus, by the patterns of routes and never by addresses', async () => {
    const cookie = await server.signIn();
    const { id } = await server.demoLesson(cookie);
    const { code } = await server.openClass(cookie);
    (await server.connect(code, 'phone')).close();
    const { statusCode, headers, body } = await ask('/metrics');
    expect([statusCode, headers['content-type']]).toEqual([200, expect.stringContaining('text/plain')]);
    // Each line is a comment or a name, labels and a number (Prometheus, text-based format 0.0.4).
    for (const line of body.split('\n').filter(Boolean))
      expect(line).toMatch(/^(# (HELP|TYPE) .+|[a-z_:][\w:]*(\{[^}]*\})? (-?[\d.]+(e[+-]?\d+)?|NaN|\+Inf))$/i);
    expect(body).toMatch(/viaticum_request_seconds_count\{method="GET",route="\/api\/lessons\/:id",status="2xx"\} [1-9]/);
    expect(body).toMatch(/viaticum_classes_followed 1/);
    expect(body).toMatch(/process_resident_memory_bytes \d+/);
    for (const hidden of [id, code, 'demo']) expect(body).not.toContain(hidden);
  });
  it('tells them to nobody else, and to nothing that comes through a proxy', async () => {
    for (const [address, headers] of [
      ['192.168.1.7', {}],
      ['127.0.0.1', { 'x-forwarded-for': '192.168.1.7' }],
    ] as const) {
      const { statusCode, body } = await ask('/metrics', address, headers);
      expect([statusCode, body.includes('viaticum_')]).toEqual([404, false]);
    }
  });
  it('is told 503 when the database is away', async () => {
    const other = await testServer();
    await other.database.pool.end();
    const { statusCode, body } = await other.app.inject({ method: 'GET', url: '/ready' });
    expect([statusCode, JSON.parse(body).database]).toEqual([503, false]);
    await other.stop();
  });
});
