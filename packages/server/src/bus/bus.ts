import type { AtTheDoor, ClassEvent, DeviceRole } from '@viaticum/contract';

/** What server processes tell each other about a class. */
export type BusMessage =
  | { type: 'events'; events: ClassEvent[] }
  /** Who is connected to one server, and who waits at its door; said again now and then, so that a server that is gone is forgotten. */
  | { type: 'presence'; server: string; students: string[]; waiting: AtTheDoor[] }
  /** The desk's answer to those who wait. */
  | { type: 'admit'; ids: string[]; yes: boolean }
  /** The keys of a kind of device were made anew. */
  | { type: 'recalled'; role: DeviceRole }
  /** Said to all servers, on {@link EVERYWHERE}: a session was ended. */
  | { type: 'signedOut'; session: string }
  | { type: 'camera'; at: number; simulated: boolean };

/** The channel of what concerns no single class. */
export const EVERYWHERE = '*';

/** Fan-out between server processes: a message reaches every other process that listens to the class, perhaps late or out of order. */
export type Bus = {
  /** Whether other processes may append to the same classes. */
  readonly isShared: boolean;
  publish(classId: string, message: BusMessage): void;
  subscribe(classId: string, hear: (message: BusMessage) => void): () => void;
  close(): Promise<void>;
};

/** One process alone: there is nobody else to tell. */
export const aloneBus = (): Bus => ({
  isShared: false,
  publish: () => undefined,
  subscribe: () => () => undefined,
  close: async () => undefined,
});
