/** Saves a file from this page under a name that every system takes. */
export function saveFile(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name.replace(/[\\/:*?"<>|]+/g, ' ').trim() || 'file';
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
