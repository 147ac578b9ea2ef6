import type { FollowSheet } from '@viaticum/contract';
import type { LiveConnection, LiveSnapshot } from '../connection.js';

/** What every part of the desk looks at. */
export type DeskParts = { connection: LiveConnection; live: LiveSnapshot; sheet: FollowSheet; code: string };
