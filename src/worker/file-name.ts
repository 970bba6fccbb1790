/** A title as the name of a file: what file systems do not take is left out. */
export function fileName(title: string, extension: string): string {
  const plain = title.replace(/[^\p{L}\p{N}_-]+/gu, " ").trim() || "picture";
  return `${plain}.${extension}`;
}
