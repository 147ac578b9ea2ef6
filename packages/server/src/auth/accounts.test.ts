import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { AccountAnswer, AccountsAnswer } from '@viaticum/contract';
import { Secret, TOTP } from 'otpauth';
import { InstructorEntity, SessionEntity } from '../db/entities.js';
import { demoSignIn } from '../demo/seed.js';
import { type TestServer, testServer } from '../server.fixture.js';
import { deviceOf, IDLE_MS } from './sessions.js';

const owner = { name: 'Ada Ames', password: 'three wet brushes' };
const cookieOf = (answer: { headers: Record<string, unknown> }) => String(answer.headers['set-cookie']).split(';')[0] as string;

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.stop());
afterEach(() => setNow(null));

/** Digits of now, or of so many half minutes later. */
const digits = (secret: string, later = 0) =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + later * 30_000 });
const realNow = Date.now;
function setNow(at: number | null): void {
  Date.now = at === null ? realNow : () => at;
}
const account = async (cookie: string) =>
  (await server.request('GET', '/api/account', undefined, cookie)).body as unknown as AccountAnswer;
const accounts = async (cookie: string) =>
  (await server.request('GET', '/api/accounts', undefined, cookie)).body as unknown as AccountsAnswer;
/** Follows an invitation of the owner’s. */
async function invited(cookie: string, name: string): Promise<string> {
  const { body } = await server.request('POST', '/api/accounts/invitations', {}, cookie);
  const token = String(body.address).split('/').at(-1) as string;
  const made = await server.request('POST', `/api/account-links/${token}`, { name, password: owner.password });
  expect(made.status).toBe(200);
  return cookieOf(made);
}

let ownerCookie: string;

describe('the owner', () => {
  it('is asked for where there is none, of a browser on this machine and of no other', async () => {
    const session = (remoteAddress: string, headers: Record<string, string> = {}) =>
      server.app.inject({ method: 'GET', url: '/api/session', remoteAddress, headers }).then((answer) => answer.json());
    expect(await session('127.0.0.1')).toEqual({ instructor: null, needsOwner: true });
    expect(await session('::ffff:127.0.0.1')).toMatchObject({ needsOwner: true });
    expect(await session('192.168.1.7')).toMatchObject({ needsOwner: false });
    // What comes through a proxy on this machine comes from elsewhere.
    expect(await session('127.0.0.1', { 'x-forwarded-for': '192.168.1.7' })).toMatchObject({ needsOwner: false });
    const afar = await server.app.inject({
      ...{ method: 'POST', url: '/api/owner', remoteAddress: '192.168.1.7', payload: owner },
      headers: { origin: 'http://viaticum.test' },
    });
    expect([afar.statusCode, afar.json().code]).toEqual([403, 'not-from-here']);
  });
  it('is one: of five who set it up at once, one is', async () => {
    const short = await server.request('POST', '/api/owner', { ...owner, password: 'short' });
    expect(short.status).toBe(400);
    const tries = await Promise.all(
      [1, 2, 3, 4, 5].map((n) =>
        server.request('POST', '/api/owner', { ...owner, name: n === 1 ? owner.name : `${owner.name} ${n}` }),
      ),
    );
    const made = tries.filter(({ status }) => status === 200);
    expect(made).toHaveLength(1);
    for (const { body } of tries.filter(({ status }) => status !== 200)) expect(body.code).toBe('owner-there');
    expect((await server.request('GET', '/api/session')).body.needsOwner).toBe(false);
    ownerCookie = cookieOf(made[0] as (typeof tries)[0]);
    const { name } = await account(ownerCookie);
    await server.database.source.manager.update(InstructorEntity, { name }, { name: owner.name });
    expect((await server.request('GET', '/api/lessons', undefined, ownerCookie)).body).toEqual([]);
  });
  it('may be named by the settings', async () => {
    const other = await testServer({ owner });
    const { headers } = await other.request('POST', '/api/session', owner);
    expect((await other.request('GET', '/api/accounts', undefined, cookieOf({ headers }))).status).toBe(200);
    await other.stop();
  });
  it('alone sees who works here, and switches the demo off and on; it is signed out at once', async () => {
    const demo = await server.signIn();
    expect((await server.request('GET', '/api/accounts', undefined, demo)).body.code).toBe('owner-only');
    const { accounts: all } = await accounts(ownerCookie);
    expect(all.map(({ name, role, lessons }) => [name, role, lessons])).toEqual(
      expect.arrayContaining([
        ['demo', 'demo', 4],
        [owner.name, 'owner', 0],
      ]),
    );
    const id = all.find(({ role }) => role === 'demo')?.id;
    const set = (isOff: boolean) => server.request('PUT', `/api/accounts/${id}`, { isOff }, ownerCookie);
    expect((await set(true)).status).toBe(204);
    expect((await server.request('GET', '/api/lessons', undefined, demo)).status).toBe(401);
    expect((await server.request('POST', '/api/session', demoSignIn)).body.code).toBe('account-off');
    expect(await server.hasKnownPassword()).toBe(false);
    await set(false);
    expect((await server.request('POST', '/api/session', demoSignIn)).status).toBe(200);
    const own = all.find(({ role }) => role === 'owner')?.id;
    expect((await server.request('PUT', `/api/accounts/${own}`, { isOff: true }, ownerCookie)).body.code).toBe('owner-stays');
  });
});

describe('an invitation', () => {
  it('makes one account, once; a name that is taken does not use it up', async () => {
    const { body } = await server.request('POST', '/api/accounts/invitations', {}, ownerCookie);
    const token = String(body.address).split('/').at(-1) as string;
    expect((await server.request('GET', `/api/account-links/${token}`)).body).toMatchObject({ kind: 'invite', name: null });
    const follow = (name: string) => server.request('POST', `/api/account-links/${token}`, { name, password: owner.password });
    expect((await follow('ada ames')).body.code).toBe('name-taken');
    const both = await Promise.all([follow('Bo'), follow('Cy')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 404]);
    expect((await follow('Di')).body.code).toBe('link-over');
    const made = both.find(({ status }) => status === 200) as (typeof both)[0];
    expect(await account(cookieOf(made))).toMatchObject({ role: 'instructor', hasSecondFactor: false });
    expect((await server.request('GET', '/api/lessons', undefined, cookieOf(made))).body).toEqual([]);
  });
  it('is over after a week, and can be taken back', async () => {
    const token = async () =>
      String((await server.request('POST', '/api/accounts/invitations', {}, ownerCookie)).body.address)
        .split('/')
        .at(-1);
    const [late, back] = [await token(), await token()];
    const { invitations } = await accounts(ownerCookie);
    expect(invitations).toHaveLength(2);
    await server.request('DELETE', `/api/accounts/invitations/${invitations[0]?.id}`, undefined, ownerCookie);
    const states = await Promise.all([late, back].map((one) => server.request('GET', `/api/account-links/${one}`)));
    expect(states.map(({ status }) => status).sort()).toEqual([200, 404]);
    setNow(realNow() + 7 * 86_400_000 + 1000);
    for (const one of [late, back]) expect((await server.request('GET', `/api/account-links/${one}`)).status).toBe(404);
  });
});

describe('a password', () => {
  it('is changed by who knows the present one, and ends all other sessions', async () => {
    const here = await invited(ownerCookie, 'Eve');
    const there = await server.signIn({ name: 'Eve', password: owner.password });
    const change = (password: string, next: string) => server.request('PUT', '/api/account/password', { password, next }, here);
    expect((await change('not it at all', 'a new one of mine')).body.code).toBe('wrong');
    expect((await change(owner.password, 'tiny')).status).toBe(400);
    expect((await server.request('GET', '/api/lessons', undefined, there)).status).toBe(200);
    expect((await change(owner.password, 'a new one of mine')).status).toBe(204);
    expect((await server.request('GET', '/api/lessons', undefined, there)).status).toBe(401);
    expect((await server.request('GET', '/api/lessons', undefined, here)).status).toBe(200);
    expect((await server.request('POST', '/api/session', { name: 'Eve', password: owner.password })).status).toBe(401);
  });
  it('that is forgotten is set anew by a link in the outbox, once, within an hour; nobody learns who has an account', async () => {
    const before = await invited(ownerCookie, 'Flo');
    const asked = await Promise.all(['Flo', 'Nobody at all'].map((name) => server.request('POST', '/api/forgotten', { name })));
    expect(asked.map(({ status, body }) => [status, body])).toEqual([
      [200, {}],
      [200, {}],
    ]);
    const { letters } = await accounts(ownerCookie);
    expect(letters.map(({ toName }) => toName)).toEqual(['Flo']);
    const token = /welcome\/([\w-]+)/.exec(String(letters[0]?.text))?.[1];
    expect((await server.request('GET', `/api/account-links/${token}`)).body).toMatchObject({ kind: 'reset', name: 'Flo' });
    const set = () => server.request('POST', `/api/account-links/${token}`, { password: 'pale violet haze' });
    expect((await set()).body).toMatchObject({ name: 'Flo', isIn: true });
    expect((await set()).body.code).toBe('link-over');
    expect((await server.request('GET', '/api/lessons', undefined, before)).status).toBe(401);
    expect((await server.request('POST', '/api/session', { name: 'Flo', password: 'pale violet haze' })).status).toBe(200);
    expect((await accounts(ownerCookie)).letters).toEqual([]);
    await server.request('POST', '/api/forgotten', { name: 'Flo' });
    setNow(realNow() + 3_600_001);
    const { letters: late } = await accounts(ownerCookie);
    expect(late).toEqual([]);
  });
});

describe('sessions', () => {
  it('are listed by device and ended one by one; no id of them lets anybody in', async () => {
    const here = await invited(ownerCookie, 'Gus');
    const there = await server.signIn({ name: 'Gus', password: owner.password });
    const { sessions } = await account(here);
    expect(sessions.map(({ isThis }) => isThis).sort()).toEqual([false, true]);
    const other = sessions.find(({ isThis }) => !isThis)?.id;
    expect((await server.request('GET', '/api/lessons', undefined, `viaticum_session=${other}`)).status).toBe(401);
    // Nobody ends another's.
    expect((await server.request('DELETE', `/api/account/sessions/${other}`, undefined, ownerCookie)).status).toBe(404);
    expect((await server.request('DELETE', `/api/account/sessions/${other}`, undefined, here)).status).toBe(204);
    expect((await server.request('GET', '/api/lessons', undefined, there)).status).toBe(401);
    await server.signIn({ name: 'Gus', password: owner.password });
    await server.signIn({ name: 'Gus', password: owner.password });
    expect((await server.request('DELETE', '/api/account/sessions', undefined, here)).body).toEqual({ ended: 2 });
  });
  it('end unused after a week, and after a month in any case', async () => {
    const cookie = await invited(ownerCookie, 'Hal');
    const isIn = async () => (await server.request('GET', '/api/lessons', undefined, cookie)).status === 200;
    setNow(realNow() + IDLE_MS - 60_000);
    expect(await isIn()).toBe(true);
    setNow(realNow() + IDLE_MS * 2 - 120_000);
    expect(await isIn()).toBe(true);
    setNow(realNow() + IDLE_MS * 3);
    expect(await isIn()).toBe(false);
    // Used day by day it is over on the thirty-first.
    const other = await server.signIn({ name: 'Hal', password: owner.password });
    const begun = Date.now();
    const days: number[] = [];
    for (let day = 1; day <= 33; day += 3) {
      setNow(begun + day * 86_400_000);
      if ((await server.request('GET', '/api/lessons', undefined, other)).status === 200) days.push(day);
    }
    expect(days.at(-1)).toBe(28);
  });
  it('are kept by a hash; the device is what the browser says of itself', async () => {
    const token = ownerCookie.split('=')[1] as string;
    expect(await server.database.source.manager.existsBy(SessionEntity, { tokenHash: token })).toBe(false);
    const agent = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
    expect(deviceOf(agent)).toBe('Firefox on Linux');
    expect(deviceOf('Mozilla/5.0 (iPad; CPU OS 18_0) AppleWebKit/605 Version/18.0 Safari/604.1')).toBe('Safari on iPad');
    expect(deviceOf('')).toBe('A program');
  });
});

describe('a second factor', () => {
  it('is asked for after the password, takes digits once and codes once, and is turned off by the password', async () => {
    const cookie = await invited(ownerCookie, 'Ida');
    const begun = await server.request('POST', '/api/account/second-factor', { password: owner.password }, cookie);
    const secret = String(begun.body.secret);
    // Not on before its first digits have been entered.
    expect((await server.request('POST', '/api/session', { name: 'Ida', password: owner.password })).status).toBe(200);
    const wrong = await server.request('PUT', '/api/account/second-factor', { code: '000000' }, cookie);
    expect(wrong.body.code).toBe('second-factor-wrong');
    const on = await server.request('PUT', '/api/account/second-factor', { code: digits(secret) }, cookie);
    const codes = on.body.codes as string[];
    expect(await account(cookie)).toMatchObject({ hasSecondFactor: true, codesLeft: 8 });

    const enter = (code?: string, password = owner.password) =>
      server.request('POST', '/api/session', { name: 'Ida', password, ...(code ? { code } : {}) });
    expect((await enter()).body.code).toBe('second-factor');
    // Who does not know the password does not learn that there is one.
    expect((await enter(undefined, 'something else')).body.code).toBe('wrong');
    // The digits that turned it on are used up.
    expect((await enter(digits(secret))).body.code).toBe('second-factor-wrong');
    const next = digits(secret, 1);
    expect((await Promise.all([enter(next), enter(next)])).map(({ status }) => status).sort()).toEqual([200, 401]);
    expect((await enter(codes[3])).status).toBe(200);
    expect((await enter(codes[3])).body.code).toBe('second-factor-wrong');
    expect(await account(cookie)).toMatchObject({ codesLeft: 7 });

    // A link for a new password does not go past it.
    await server.request('POST', '/api/forgotten', { name: 'Ida' });
    const letter = (await accounts(ownerCookie)).letters.find(({ toName }) => toName === 'Ida');
    const token = /welcome\/([\w-]+)/.exec(String(letter?.text))?.[1];
    const reset = await server.request('POST', `/api/account-links/${token}`, { password: 'pale violet haze' });
    expect([reset.body.isIn, reset.headers['set-cookie']]).toEqual([false, undefined]);

    const again = cookieOf(await enter(codes[5], 'pale violet haze'));
    const off = (password: string) => server.request('POST', '/api/account/second-factor/off', { password }, again);
    expect((await off('guess')).status).toBe(403);
    expect((await off('pale violet haze')).status).toBe(204);
    expect((await enter(undefined, 'pale violet haze')).status).toBe(200);
  });
  it('guessed at is closed for an hour, as a password is', async () => {
    const cookie = await invited(ownerCookie, 'Jo');
    const begin = () => server.request('POST', '/api/account/second-factor', { password: 'guess' }, cookie);
    let last = await begin();
    for (let n = 0; n < 21; n++) last = await begin();
    expect([last.status, last.body.code]).toEqual([429, 'too-many']);
  });
});

describe('an account that is deleted', () => {
  const leave = (cookie: string, password = owner.password) => server.request('POST', '/api/account/leave', { password }, cookie);
  it('wants its password; not the owner’s while others are here, and not the demo’s', async () => {
    const bo = await invited(ownerCookie, 'Bo the second');
    expect((await leave(bo, 'another password')).status).toBe(403);
    const refused = await leave(ownerCookie);
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringMatching(/goes last/)]);
  });
  it('takes all that is its own with it; what others taught from its lessons stays with them, in their bin', async () => {
    const gone = await invited(ownerCookie, 'Cleo');
    const { document } = await server.demoLesson(await server.signIn());
    const made = async (title: string) =>
      String((await server.request('POST', '/api/lessons', { document: { ...document, references: [], title } }, gone)).body.id);
    const [taught, alone] = [await made('Taught by another'), await made('Alone')];
    await server.request('PUT', '/api/rooms', { room: { name: 'attic', airC: 17, humidity: 0.6, airSpeed: 0.1 } }, gone);
    const share = await server.request('POST', `/api/lessons/${taught}/sharing/links`, { role: 'reader' }, gone);
    const token = String(share.body.address).split('/').at(-1);
    await server.request('POST', `/api/shared/${token}`, undefined, ownerCookie);
    const { code } = (await server.request('POST', '/api/classes', { lessonId: taught }, ownerCookie)).body;
    const own = (await server.request('POST', '/api/classes', { lessonId: alone }, gone)).body;
    expect((await leave(gone)).body.message).toMatch(/End it first/);
    const desk = await server.connect(String(own.code), 'desk', gone);
    await desk.hello();
    await desk.say({ type: 'end' } as never);
    desk.close();

    const left = await leave(gone);
    expect([left.status, String(left.headers['set-cookie'])]).toEqual([204, expect.stringMatching(/=;/)]);
    expect((await server.request('GET', '/api/lessons', undefined, gone)).status).toBe(401);
    expect((await server.request('POST', '/api/session', { name: 'Cleo', password: owner.password })).status).toBe(401);
    expect((await accounts(ownerCookie)).accounts.map(({ name }) => name)).not.toContain('Cleo');
    const bin = (await server.request('GET', '/api/bin', undefined, ownerCookie)).body as unknown as { title: string }[];
    expect(bin.map(({ title }) => title)).toContain('Taught by another');
    expect((await server.request('GET', `/api/classes/${code}/record`, undefined, ownerCookie)).status).toBe(200);
    for (const [table, column] of [
      ['lesson', 'owner_id'],
      ['kept', 'owner_id'],
      ['class', 'owner_id'],
      ['session', 'instructor_id'],
    ]) {
      const [rows] = await server.database.pool.query(
        `SELECT COUNT(*) AS n FROM ${table} t WHERE NOT EXISTS (SELECT 1 FROM instructor i WHERE i.id = t.${column})`,
      );
      expect([table, (rows as { n: number }[])[0]?.n]).toEqual([table, 0]);
    }
  });
});
