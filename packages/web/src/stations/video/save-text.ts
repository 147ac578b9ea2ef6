import { saveFile } from '../../ui/save-file.js';

/** Saves a text as a file. */
export const saveText = (name: string, text: string, type = 'text/csv'): void => saveFile(name, new Blob([text], { type }));
