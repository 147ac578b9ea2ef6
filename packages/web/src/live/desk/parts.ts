import type { ClassAnswer, FollowSheet } from '@viaticum/contract';
import type { LiveConnection, LiveSnapshot } from '../connection.js';

/** What every part of the desk looks at. */
export type DeskParts = {
  connection: LiveConnection;
  /** The class, or the group of it that is looked at. */
  live: LiveSnapshot;
  /** The whole class, where that is looked at in groups. */
  whole?: LiveSnapshot;
  sheet: FollowSheet;
  code: string;
  /** The desk of who teaches beside the instructor: nothing that is the instructor's own. */
  isCo?: boolean;
};

/** Where a class is joined, and whose lesson it is. */
export type DeskAnswer = Pick<ClassAnswer, 'addresses' | 'lessonId'>;
