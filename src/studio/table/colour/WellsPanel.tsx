"use client";

import { whyOf } from "../../notices/why";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  rectSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Ellipsis, Plus } from "lucide-react";
import { type ChangeEvent, useRef, useState } from "react";
import { Dropdown } from "react-bootstrap";
import { type Wells, withMoved } from "../../../engine/colour/wells";
import { type PaletteFormat, readPalette, writePalette } from "../../../engine/file/palette";
import { download } from "../../files/download";
import { NameField } from "../../naming/NameField";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { Step } from "../layers/menu-items";
import { useTable } from "../table-store";
import {
  addWells,
  allWells,
  changeWells,
  moveWells,
  type Place,
  useWells,
  wellsOfFile,
} from "./wells-store";

const none: readonly Wells[] = [];
const COUNTS = [5, 8, 16, 24];
const formats: [PaletteFormat, string, string, string][] = [
  ["tokens", "Design tokens", "json", "application/json"],
  ["list", "List of hex", "txt", "text/plain"],
  ["svg", "SVG of swatches", "svg", "image/svg+xml"],
];

function Well({ id, hex, name }: { id: string; hex: string; name: string }) {
  const chooseColour = useTable((state) => state.chooseColour);
  const isChosen = useTable((state) => state.colour === hex);
  const { setNodeRef, attributes, listeners, transform, transition } = useSortable({ id });
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...attributes}
      {...listeners}
      style={{ background: hex, transform: CSS.Translate.toString(transform), transition }}
      aria-label={`Well ${name || hex}`}
      aria-pressed={isChosen}
      title={name ? `${name} ${hex}` : hex}
      onClick={() => chooseColour(hex)}
    />
  );
}

/** Pictures whose colours can be taken. */
const PICTURES = ".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff";
const isPicture = ({ name, type }: File): boolean =>
  (type.startsWith("image/") && type !== "image/svg+xml") ||
  PICTURES.split(",").some((extension) => name.toLowerCase().endsWith(extension));

function WellsMenu({
  session,
  open,
}: {
  session: Session;
  open: { wells: Wells; place: Place } | null;
}) {
  const file = useRef<HTMLInputElement>(null);
  const bring = async (event: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const [chosen] = event.target.files ?? [];
    event.target.value = "";
    if (!chosen) return;
    if (isPicture(chosen))
      return tell(`“${chosen.name}” is a picture, not a palette.`, {
        label: "Colours from it",
        act: () =>
          void chosen
            .arrayBuffer()
            .then((bytes) => wellsOfFile(session, chosen.name, new Uint8Array(bytes))),
      });
    try {
      const { name, colours } = readPalette(await chosen.text(), chosen.name);
      await addWells(session, name, colours);
    } catch (error) {
      tell(`“${chosen.name}” was not brought in: ${whyOf(error)}.`);
    }
  };
  const fromPicture = async (count: number): Promise<void> => {
    const answer = await session.link.api.paletteFrom(count);
    if (!answer.ok) return tell(answer.why);
    await addWells(
      session,
      `From the picture, ${count}`,
      answer.value.map((hex) => ({ hex, name: "" })),
    );
  };
  const save = (format: PaletteFormat, extension: string, type: string): void => {
    if (!open) return;
    const bytes = new TextEncoder().encode(writePalette(open.wells, format));
    download({ name: `${open.wells.name}.${extension}`, type, bytes: new Uint8Array(bytes) });
  };
  const openFile = (): void => file.current?.click();
  const item = (words: string, act: () => unknown) => (
    <Dropdown.Item key={words} as="button" type="button" onClick={() => void act()}>
      {words}
    </Dropdown.Item>
  );
  return (
    <Dropdown align="end">
      <Dropdown.Toggle
        as="button"
        type="button"
        className="icon-button no-caret"
        aria-label="More for wells"
      >
        <Ellipsis size={16} />
      </Dropdown.Toggle>
      <input
        ref={file}
        type="file"
        accept={`.json,.txt,.svg,.hex,${PICTURES}`}
        hidden
        aria-label="Palette file"
        onChange={(event) => void bring(event)}
      />
      <Dropdown.Menu className="crit-menu layer-menu">
        {item("New wells", () => addWells(session, "Wells", []))}
        <div className="steps" role="group" aria-label="Wells from the picture">
          {COUNTS.map((count) => (
            <Step
              key={count}
              aria-label={`${count} colours from the picture`}
              act={() => fromPicture(count)}
            >
              {count}
            </Step>
          ))}
          <span className="quiet">from the picture</span>
        </div>
        <Dropdown.Item as="button" type="button" onClick={openFile}>
          Bring in a palette, or a picture’s colours…
        </Dropdown.Item>
        {open && (
          <>
            <Dropdown.Divider />
            {formats.map(([format, words, extension, type]) =>
              item(`Save as ${words}`, () => save(format, extension, type)),
            )}
            <Dropdown.Divider />
            {item(
              open.place === "picture" ? "Keep for all pictures" : "Keep with this picture only",
              () => moveWells(session, open.place, open.wells),
            )}
            {item("Throw these wells away", () =>
              changeWells(session, open.place, open.wells.id, null),
            )}
          </>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** Named sets of colours: pressed to take one, dragged to order them. */
export function WellsPanel({ session }: { session: Session }) {
  const own = useTable((state) => state.picture?.wells ?? none);
  const colour = useTable((state) => state.colour);
  const { shared, open: openId } = useWells();
  const [naming, setNaming] = useState(false);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const all = allWells(own, shared);
  const open = all.find(({ wells }) => wells.id === openId) ?? all[0] ?? null;
  const change = (next: (wells: Wells) => Wells): void => {
    if (open) void changeWells(session, open.place, open.wells.id, next);
  };
  const add = (): void => {
    if (!open) return void addWells(session, "Wells", [{ hex: colour, name: "" }]);
    change((wells) => ({ ...wells, colours: [...wells.colours, { hex: colour, name: "" }] }));
  };
  const ids = open?.wells.colours.map((_, i) => `well-${i}`) ?? [];
  const dropped = ({ active, over }: DragEndEvent): void => {
    const from = ids.indexOf(String(active.id));
    if (!over) return change((wells) => withoutColour(wells, from));
    const to = ids.indexOf(String(over.id));
    if (from !== to) change((wells) => withMoved(wells, from, to));
  };
  return (
    <div className="wells">
      <div className="line">
        {open && naming ? (
          <NameField
            label="Name of the wells"
            name={open.wells.name}
            most={80}
            done={(name) => {
              setNaming(false);
              if (name) change((wells) => ({ ...wells, name }));
            }}
          />
        ) : (
          open && (
            <select
              className="form-select form-select-sm"
              aria-label="Wells"
              value={open.wells.id}
              onChange={(event) =>
                event.target.value === "rename"
                  ? setNaming(true)
                  : useWells.setState({ open: event.target.value })
              }
            >
              {all.map(({ wells, place }) => (
                <option key={wells.id} value={wells.id}>
                  {wells.name}
                  {place === "shared" ? " · all pictures" : ""}
                </option>
              ))}
              <option value="rename">Rename…</option>
            </select>
          )
        )}
        <button
          type="button"
          className="icon-button"
          aria-label="Keep the colour in hand in these wells"
          title="Keep the colour in hand"
          onClick={add}
        >
          <Plus size={16} />
        </button>
        <WellsMenu session={session} open={open} />
      </div>
      {open && open.wells.colours.length > 0 ? (
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
          <SortableContext items={ids} strategy={rectSortingStrategy}>
            <div className="recent" role="group" aria-label="Colours in the wells">
              {open.wells.colours.map(({ hex, name }, i) => (
                <Well key={`well-${i}`} id={`well-${i}`} hex={hex} name={name} />
              ))}
            </div>
          </SortableContext>
        </DndContext>
      ) : (
        <span className="quiet">
          Press + to keep the colour in hand, or take colours from the picture.
        </span>
      )}
    </div>
  );
}

const withoutColour = (wells: Wells, index: number): Wells => ({
  ...wells,
  colours: wells.colours.filter((_, i) => i !== index),
});
