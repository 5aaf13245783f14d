/** Gives a text, or what was written otherwise, to the person as a file. */
export function saveText(name: string, text: string | Blob, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name.replace(/[^A-Za-z0-9._ -]+/g, '');
  link.click();
  URL.revokeObjectURL(url);
}
