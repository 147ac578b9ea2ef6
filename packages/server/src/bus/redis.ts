import { randomUUID } from 'node:crypto';
import { createClient } from 'redis';
import type { Bus, BusMessage } from './bus.js';

const channelOf = (classId: string): string => `viaticum:class:${classId}`;

/**
 * A bus over Redis pub/sub. While Redis does not answer, messages are lost and nothing else: events are in the database, and rooms look
 * there now and then. Throws one sentence where it does not answer at the start.
 */
export async function redisBus(url: string, onFault: (fault: Error) => void): Promise<Bus> {
  const self = randomUUID();
  const publisher = createClient({ url, socket: { reconnectStrategy: (tries) => Math.min(2000, 50 * 2 ** tries) } });
  const subscriber = publisher.duplicate();
  for (const client of [publisher, subscriber]) client.on('error', onFault);
  const tooLong = new Promise<never>((_, reject) => setTimeout(() => reject(new Error('no answer')), 5000).unref());
  try {
    await Promise.race([Promise.all([publisher.connect(), subscriber.connect()]), tooLong]);
  } catch {
    for (const client of [publisher, subscriber]) client.destroy();
    throw new Error(
      `Redis at ${new URL(url).host} does not answer. Start it, or leave VIATICUM_REDIS_URL away to run one server.`,
    );
  }
  return {
    isShared: true,
    publish(classId, message) {
      if (!publisher.isReady) return;
      publisher.publish(channelOf(classId), JSON.stringify({ self, message })).catch(onFault);
    },
    subscribe(classId, hear) {
      const listener = (text: string) => {
        const { self: from, message } = JSON.parse(text) as { self: string; message: BusMessage };
        if (from !== self) hear(message);
      };
      subscriber.subscribe(channelOf(classId), listener).catch(onFault);
      return () => void subscriber.unsubscribe(channelOf(classId), listener).catch(onFault);
    },
    async close() {
      for (const client of [publisher, subscriber]) if (client.isOpen) await client.close().catch(() => client.destroy());
    },
  };
}
