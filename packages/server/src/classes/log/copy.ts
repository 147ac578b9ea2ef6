import type { ClassEvent } from '@viaticum/contract';
import { type ClassState, type Eye, fold, newClass, seenBy } from '@viaticum/core/class';

/** What a stretch of a log shows to somebody. */
export type Stretch = { from: number; to: number; events: ClassEvent[] };

/**
 * The events of a class in memory and the state folded from them. Events are taken before they are written, so that the next command is
 * decided on them; {@link LogCopy.rewind} goes back to what is surely committed.
 */
export class LogCopy {
  state: ClassState = newClass();
  /** All events in their order; those after `committed` are being written and nobody has seen them. */
  private readonly events: ClassEvent[] = [];
  private committed = 0;

  /** The highest sequence that is surely committed. */
  get head(): number {
    return this.committed;
  }
  take(event: ClassEvent): void {
    fold(this.state, event);
    this.events.push(event);
  }
  /** All that was taken is in the database. */
  commit(): void {
    this.committed = this.events.length;
  }
  /** Takes those of committed events that are new here; gives them. */
  hear(list: readonly ClassEvent[]): ClassEvent[] {
    const fresh = list.filter((event) => event.seq > this.state.seq);
    for (const event of fresh) this.take(event);
    this.commit();
    return fresh;
  }
  rewind(): void {
    this.events.length = this.committed;
    this.state = newClass();
    for (const event of this.events) fold(this.state, event);
  }
  /** The class time (ms) of an event; of the nearest there is. */
  at(seq: number): number {
    return this.events[Math.min(this.events.length, Math.max(1, seq)) - 1]?.at ?? this.state.at;
  }
  /** What an eye sees of the committed events after a sequence number, at most so many of them. */
  after(seq: number, most: number, eye: Eye): Stretch {
    const events: ClassEvent[] = [];
    let to = seq;
    for (; to < this.committed && events.length < most; to++) {
      const seen = seenBy(eye, this.events[to] as ClassEvent);
      if (seen) events.push(seen);
    }
    return { from: seq + 1, to, events };
  }
}
