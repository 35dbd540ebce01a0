const fileName = (name: string): string => name.replaceAll(/[^\p{L}\p{N}.]+/gu, '-').toLowerCase();

/** Gives the browser a file to keep. */
export function saved(name: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName(name);
  link.click();
  URL.revokeObjectURL(url);
}
