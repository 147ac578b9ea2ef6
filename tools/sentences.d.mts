/** English keys of all sentences, with the files that say them. */
export function sentences(): Map<string, string[]>;
/** All German catalogues together. */
export function german(): Record<string, string>;
