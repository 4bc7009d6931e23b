/** Hands bytes to the browser as a file to save. */
export function saveFile(name: string, bytes: BlobPart, type: string): void {
  const address = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has begun to save by then; the bytes need not stay in memory.
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}
