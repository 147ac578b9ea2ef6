import type { ClassEvent } from '@viaticum/contract';

/** What server processes tell each other about a class. */
export type BusMessage =
  | { type: 'events'; events: ClassEvent[] }
  /** Who is connected to one server; said again now and then, so that a server that is gone is forgotten. */
  | { type: 'presence'; server: string; students: string[] }
  | { type: 'camera'; at: number; simulated: boolean };

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
