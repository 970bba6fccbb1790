"use client";

import { Pin } from "lucide-react";
import { useRef } from "react";
import { Dropdown } from "react-bootstrap";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { pinFile, usePins } from "./pinboard";

const ACCEPTED = ".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff";

/** Pins what is on the clipboard, where the browser lets it be read. */
async function pinClipboard(session: Session): Promise<void> {
  try {
    for (const item of await navigator.clipboard.read()) {
      const type = item.types.find((name) => name.startsWith("image/"));
      if (!type) continue;
      const blob = await item.getType(type);
      return await pinFile(session, new File([blob], "From the clipboard.png", { type }));
    }
    tell("There is no picture on the clipboard.");
  } catch {
    tell("The browser did not let the clipboard be read. Save the picture and pin its file.");
  }
}

/** Pins: add one, see them or not. */
export function PinsMenu({ session }: { session: Session }) {
  const count = usePins((state) => state.pins.length);
  const shown = useTable((state) => state.pinsShown);
  const set = useTable((state) => state.set);
  const input = useRef<HTMLInputElement>(null);
  return (
    <Dropdown>
      <Dropdown.Toggle
        as="button"
        type="button"
        className="icon-button pins-button"
        aria-label="Pinboard"
      >
        <Pin size={18} />
      </Dropdown.Toggle>
      <Dropdown.Menu align="end">
        <Dropdown.Item as="button" type="button" onClick={() => input.current?.click()}>
          Pin a picture…
        </Dropdown.Item>
        <Dropdown.Item as="button" type="button" onClick={() => void pinClipboard(session)}>
          Pin what is on the clipboard
        </Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={shown}
          disabled={count === 0}
          onClick={() => set({ pinsShown: !shown })}
        >
          {shown ? "Hide the pins" : "Show the pins"}
        </Dropdown.Item>
      </Dropdown.Menu>
      <input
        ref={input}
        type="file"
        hidden
        multiple
        accept={ACCEPTED}
        aria-label="Pictures to pin"
        onChange={(event) => {
          for (const file of event.target.files ?? []) void pinFile(session, file);
          event.target.value = "";
        }}
      />
    </Dropdown>
  );
}
