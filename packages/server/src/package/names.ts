/** Words as part of a file's name. */
export const slug = (title: string): string =>
  title
    .normalize('NFD')
    .replace(/[^\w]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase()
    .slice(0, 60) || 'lesson';
