"use client";

import { Layers2, Pin } from "lucide-react";
import { type ReactNode, useCallback, useState } from "react";
import { useDroppedFiles } from "../files/dropped";
import { tell } from "../notices/notices";
import { pinFile } from "./pins/pinboard";
import { type Session } from "./session";

type TakeFile = (session: Session, file: File) => Promise<void>;

const asLayer: TakeFile = (session, file) => session.bringIn(file);

async function takeAll(session: Session, files: FileList, take: TakeFile): Promise<void> {
  for (const file of files) await take(session, file);
}

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
  const dropped = useCallback(
    (files: FileList, { target }: DragEvent) => {
      const inZone = target instanceof Element && target.closest(".drop-zone");
      if (!inZone) void takeAll(session, files, asLayer);
    },
    [session],
  );
  const pasted = useCallback(
    (files: FileList, { target }: ClipboardEvent) => {
      if (files.length > 0) void takeAll(session, files, asLayer);
      else if (!(target instanceof HTMLInputElement)) tell("There is no picture on the clipboard.");
    },
    [session],
  );
  const dragging = useDroppedFiles(dropped, pasted);
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
