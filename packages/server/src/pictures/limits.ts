/** Of an upload, and of what it may hold. */
export const MOST_BYTES = 25 * 1024 * 1024;
export const MOST_PIXELS = 40_000_000;
