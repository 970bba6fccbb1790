import { type ExportedFile } from "../../worker/protocol";

/** Hands a file to the browser's downloads. */
export const download = ({ name, type, bytes }: ExportedFile): void =>
  downloadBlob(name, new Blob([bytes], { type }));

export function downloadBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
