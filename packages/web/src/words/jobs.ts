/** What takes a while, and can be left. */
export const jobWords = { cancel: 'Cancel', left: 'Not worked out.', again: 'Work it out' } as const;
