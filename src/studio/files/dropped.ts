"use client";

import { useEffect, useState } from "react";

const hasFiles = ({ dataTransfer }: DragEvent): boolean =>
  dataTransfer?.types.includes("Files") ?? false;

/**
 * Takes files that are dropped on the window or pasted into it. What is given must stay the
 * same from one drawing of the page to the next.
 * @returns whether files are being dragged over the window
 */
export function useDroppedFiles(
  dropped: (files: FileList, event: DragEvent) => void,
  pasted: (files: FileList, event: ClipboardEvent) => void,
): boolean {
  const [dragging, setDragging] = useState(false);
  useEffect(() => {
    const listeners = new AbortController();
    const { signal } = listeners;
    const over = (event: DragEvent): void => {
      event.preventDefault();
      if (hasFiles(event)) setDragging(true);
    };
    // Without a related target the pointer has left the window.
    const leave = (event: DragEvent): void => {
      if (!event.relatedTarget) setDragging(false);
    };
    const drop = (event: DragEvent): void => {
      event.preventDefault();
      setDragging(false);
      if (event.dataTransfer) dropped(event.dataTransfer.files, event);
    };
    const paste = (event: ClipboardEvent): void => {
      if (event.clipboardData) pasted(event.clipboardData.files, event);
    };
    window.addEventListener("dragover", over, { signal });
    window.addEventListener("dragleave", leave, { signal });
    window.addEventListener("drop", drop, { signal });
    window.addEventListener("paste", paste, { signal });
    return () => listeners.abort();
  }, [dropped, pasted]);
  return dragging;
}
