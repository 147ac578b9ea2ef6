import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { Command } from '@viaticum/contract';
import { classTime, fold, newClass, stateHash } from '@viaticum/core/class';
import { uniform } from '@viaticum/core/pace';
import { classSocket } from '@viaticum/standins';
import { type TestServer, testServer } from '../server.fixture.js';
import { classOf, phoneHash, sliceOf } from './class.fixture.js';

// npm run soak has two hundred phones and ten times as many rounds.
const LARGE = Number(process.env.VIATICUM_SOAK ?? 1) > 1;
const PHONES = LARGE ? 200 : 40;
const ROUNDS = LARGE ? 300 : 60;
/** No phone says more than a person might: the server would take it for a machine. */
const ROUND_MS = LARGE ? 60 : 8;

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
const phones: ReturnType<typeof classSocket>[] = [];
afterAll(() => {
  for (const phone of phones) phone.leave();
  return server.stop();
});

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

it(`${PHONES} phones that come and go, repeat themselves and have wrong clocks end in one state with desk, server and database`, async () => {
  const cookie = await server.signIn();
  const { code, id } = await server.openClass(cookie, 600);
  const place = { url: `ws://127.0.0.1:${server.port}`, origin: 'http://viaticum.test', code };
  const draw = uniform(7);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw() * list.length)] as T;
  for (let k = 0; k < PHONES; k++) phones.push(classSocket(place, 'phone', '', Math.round((draw() - 0.5) * 600_000)));
  const desk = await server.connect(code, 'desk', cookie);
  await desk.hello();
  const said: Promise<unknown>[] = phones.map((phone, k) => phone.say({ type: 'join', firstName: `P${k}`, kit: [] }));
  await Promise.all(said);
  await desk.say({ type: 'goOn', from: -1 });
  for (let round = 0; round < ROUNDS; round++) {
    for (const phone of phones) {
      const { state, you } = phone;
      const stepId = state.plan?.items[state.current?.index ?? 0]?.stepId;
      const chance = draw();
      const studentId = you ?? 'x';
      const command: Command | null =
        chance < 0.06 && stepId
          ? { type: 'done', studentId, stepId }
          : chance < 0.08 && stepId
            ? { type: 'notYet', studentId, stepId }
            : chance < 0.1
              ? { type: 'hand', studentId, reason: 'colour' }
              : chance < 0.12
                ? { type: 'handDown', studentId }
                : chance < 0.13
                  ? { type: 'rename', studentId, firstName: `N${round}` }
                  : null;
      if (command) said.push(phone.say(command));
      if (draw() < 0.01) phone.goAway(20 + draw() * 300);
      else if (draw() < 0.004) phone.forget();
      else if (draw() < 0.05) phone.repeat();
    }
    const at = desk.state.current?.index ?? 0;
    if (round % 12 === 5) await desk.say({ type: 'goOn', from: at });
    else if (round % 12 === 9)
      await desk.say(
        pick<Command>([
          { type: 'hold' },
          { type: 'resume' },
          { type: 'extend', minutes: 1 },
          { type: 'say', text: 'Watch your water' },
        ]),
      );
    await wait(ROUND_MS);
  }
  await Promise.all(said);
  const events = await classOf(server, id);
  const head = events.at(-1)?.seq ?? 0;
  const isWhole = (phone: (typeof phones)[number]): boolean =>
    phoneHash(phone.state) === phoneHash(sliceOf(events, phone.you as string));
  for (const end = Date.now() + 60_000; Date.now() < end && !phones.every(isWhole); ) await wait(200);
  await desk.until(() => desk.state.seq === head);
  const fresh = newClass();
  for (const event of events) fold(fresh, event);
  expect(events.map((event) => event.seq)).toEqual(events.map((_, i) => i + 1));
  expect(stateHash(desk.state)).toBe(stateHash(fresh));
  expect(phones.filter((phone) => !isWhole(phone))).toEqual([]);
  expect(Object.keys(fresh.students)).toHaveLength(PHONES);
  // Clocks that are five minutes wrong are set right by the server's; how exactly, the browser tests look at.
  for (const phone of phones) expect(Math.abs(phone.now() - classTime(fresh, Date.now()))).toBeLessThan(5000);
  expect(events.length).toBeGreaterThan(PHONES * 3);
}, 300_000);
