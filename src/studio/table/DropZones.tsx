"use client";

import { Layers2, Pin } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { tell } from "../notices/notices";
import { pinFile } from "./pins/pinboard";
import { type Session } from "./session";

type TakeFile = (session: Session, file: File) => Promise<void>;

const asLayer: TakeFile = (session, file) => session.bringIn(file);

async function takeAll(session: Session, files: FileList, take: TakeFile): Promise<void> {
  for (const file of files) await take(session, file);
}

const hasFiles = ({ dataTransfer }: DragEvent): boolean =>
  dataTransfer?.types.includes("Files") ?? false;

function Zone({
  session,
  take,
  children,
}: {
  session: Session;
  take: TakeFile;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <div
      className="drop-zone"
      data-over={over || undefined}
      onDragEnter={() => setOver(true)}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => void takeAll(session, event.dataTransfer.files, take)}
    >
      {children}
    </div>
  );
}

/**
 * Takes in files that are dropped on the table or pasted. While files are dragged over it, two
 * places show: one brings them in as layers, the other pins them beside the work.
 */
export function DropZones({ session }: { session: Session }) {
  const [dragging, setDragging] = useState(false);
  useEffect(() => {
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
      const inZone = event.target instanceof Element && event.target.closest(".drop-zone");
      const files = event.dataTransfer?.files;
      if (!inZone && files) void takeAll(session, files, asLayer);
    };
    const paste = (event: ClipboardEvent): void => {
      const files = event.clipboardData?.files;
      if (files?.length) void takeAll(session, files, asLayer);
      else if (!(event.target instanceof HTMLInputElement))
        tell("There is no picture on the clipboard.");
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    window.addEventListener("paste", paste);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
      window.removeEventListener("paste", paste);
    };
  }, [session]);
  if (!dragging) return null;
  return (
    <div className="drop-zones" data-testid="drop-zones">
      <Zone session={session} take={asLayer}>
        <Layers2 size={30} aria-hidden="true" />
        <b>Bring in as a layer</b>
        <span>It becomes part of the picture.</span>
      </Zone>
      <Zone session={session} take={pinFile}>
        <Pin size={30} aria-hidden="true" />
        <b>Pin beside the work</b>
        <span>A reference to look at; it is never exported.</span>
      </Zone>
    </div>
  );
}
