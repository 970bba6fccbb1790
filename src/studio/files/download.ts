import { type ExportedFile } from "../../worker/protocol";

/** Hands a file to the browser's downloads. */
export function download({ name, type, bytes }: ExportedFile): void {
  const url = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
