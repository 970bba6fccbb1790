"use client";

import { Contrast, Eye, EyeOff, Move, Scissors, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { Dropdown } from "react-bootstrap";
import { MOST_STENCILS, type Stencil } from "../../../engine/stencil/stencil";
import { Slide } from "../../ui/Slide";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { FIRST_TURN } from "./card";
import {
  change,
  cutFromFile,
  cutFromLayer,
  cutFromSelection,
  invert,
  layAll,
  letGo,
  takeInHand,
  throwAway,
  useStencils,
} from "./stencil-store";

const ACCEPTED = ".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff";
const none: readonly Stencil[] = [];

function NameField({ session, stencil }: { session: Session; stencil: Stencil }) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = (): void => {
    const name = typed?.trim();
    setTyped(null);
    if (name && name !== stencil.name) void change(session, [stencil.id], { name });
  };
  return (
    <input
      className="form-control form-control-sm"
      aria-label={`Name of ${stencil.name}`}
      value={typed ?? stencil.name}
      maxLength={120}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") done();
      }}
    />
  );
}

/** One stencil: whether it lies on the sheet, what it is called, what it does. */
function Row({ session, stencil }: { session: Session; stencil: Stencil }) {
  const { id, name, on, way } = stencil;
  const inHand = useStencils((state) => state.inHand === id);
  return (
    <li data-on={on || undefined}>
      <button
        type="button"
        className="icon-button"
        aria-pressed={on}
        aria-label={on ? `Put ${name} by` : `Lay ${name} on the sheet`}
        title={on ? "On the sheet: press to put it by" : "Put by: press to lay it on the sheet"}
        onClick={() => {
          if (on && inHand) letGo();
          void change(session, [id], { on: !on });
        }}
      >
        {on ? <Eye size={15} /> : <EyeOff size={15} />}
      </button>
      <NameField session={session} stencil={stencil} />
      <button
        type="button"
        className="way"
        aria-label={`${name} ${way === "holds" ? "holds back" : "lets through"}: turn it round`}
        title="Invert stencil"
        onClick={() => void invert(session, stencil)}
      >
        <Contrast size={14} /> {way === "holds" ? "Holds back" : "Lets through"}
      </button>
      <button
        type="button"
        className="icon-button"
        aria-pressed={inHand}
        aria-label={`Move, turn or scale ${name}`}
        title="Move, turn, scale"
        disabled={!on}
        onClick={() => (inHand ? letGo() : takeInHand(id))}
      >
        <Move size={15} />
      </button>
      <button
        type="button"
        className="icon-button"
        aria-label={`Throw ${name} away`}
        title="Throw away"
        onClick={() => void throwAway(session, id)}
      >
        <Trash2 size={15} />
      </button>
    </li>
  );
}

function Item({
  disabled,
  act,
  children,
}: {
  disabled: boolean;
  act: () => unknown;
  children: string;
}) {
  return (
    <Dropdown.Item as="button" type="button" disabled={disabled} onClick={() => void act()}>
      {children}
    </Dropdown.Item>
  );
}

/** A card in the other hand: whether it is held, and how it is turned. */
function CardSettings() {
  const card = useTable((state) => state.card);
  const set = useTable((state) => state.set);
  return (
    <div className="card-settings">
      <Tick
        on={card !== null}
        set={(on) => set({ card: on ? FIRST_TURN : null })}
        title="Where the pen comes down its edge lies through the stroke, and holds back what comes over it"
      >
        Hold a card
      </Tick>
      {card !== null && (
        <Slide
          label="Turn of the card"
          value={card}
          most={355}
          step={5}
          shown={`${card}°`}
          set={(turn) => set({ card: turn })}
        />
      )}
    </div>
  );
}

/** Stencils: cutting them, laying them on the sheet, putting them by. */
export function StencilsMenu({ session }: { session: Session }) {
  const stencils = useTable((state) => state.picture?.stencils ?? none);
  const selection = useTable((state) => state.picture?.selection ?? false);
  const noLayer = useTable((state) => state.selected.length === 0);
  const veiled = useStencils((state) => state.veiled);
  const isHeld = useTable((state) => state.card !== null);
  const input = useRef<HTMLInputElement>(null);
  const lying = stencils.filter(({ on }) => on).length;
  const isFull = stencils.length >= MOST_STENCILS;
  return (
    <Dropdown drop="up">
      <Dropdown.Toggle
        as="button"
        type="button"
        className="guides-button"
        data-on={lying > 0 || isHeld || undefined}
      >
        <Scissors size={18} />
        Stencils
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu stencils-menu" align="end">
        {stencils.length === 0 && (
          <p className="quiet">
            A stencil holds paint back, or lets it through. Cut one from a selection, from what a
            layer holds or from a picture.
          </p>
        )}
        {stencils.length > 0 && (
          <>
            <ul aria-label="Stencils">
              {stencils.map((stencil) => (
                <Row key={stencil.id} session={session} stencil={stencil} />
              ))}
            </ul>
            <Dropdown.Divider />
            <Item disabled={lying === stencils.length} act={() => layAll(session, true)}>
              Show all
            </Item>
            <Item disabled={lying === 0} act={() => layAll(session, false)}>
              Hide all
            </Item>
            <Dropdown.Item
              as="button"
              type="button"
              aria-pressed={veiled}
              onClick={() => useStencils.setState({ veiled: !veiled })}
            >
              Seen as a veil
            </Dropdown.Item>
            <Dropdown.Divider />
          </>
        )}
        <CardSettings />
        <Dropdown.Divider />
        <Item disabled={isFull || !selection} act={() => cutFromSelection(session)}>
          Cut from the selection
        </Item>
        <Item disabled={isFull || noLayer} act={() => cutFromLayer(session, "shape")}>
          Cut from what this layer holds
        </Item>
        <Item disabled={isFull || noLayer} act={() => cutFromLayer(session, "dark")}>
          Cut from this layer’s darks
        </Item>
        <Item disabled={isFull} act={() => input.current?.click()}>
          Cut from a picture…
        </Item>
      </Dropdown.Menu>
      <input
        ref={input}
        type="file"
        hidden
        accept={ACCEPTED}
        aria-label="Picture of a stencil"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void cutFromFile(session, file);
          event.target.value = "";
        }}
      />
    </Dropdown>
  );
}

/** What can be done with the stencil in hand, in the bar of options. */
export function StencilOptions({ session }: { session: Session }) {
  const inHand = useStencils((state) => state.inHand);
  const stencil = useTable((state) => state.picture?.stencils.find(({ id }) => id === inHand));
  if (!stencil) return null;
  return (
    <>
      <span>
        Drag <b>{stencil.name}</b>; corners scale it, the round grip turns it
      </span>
      <button type="button" className="btn btn-sm" onClick={() => void invert(session, stencil)}>
        <Contrast size={14} /> {stencil.way === "holds" ? "Holds back" : "Lets through"}
      </button>
      <button type="button" className="btn btn-sm btn-strong" onClick={letGo}>
        Done
      </button>
    </>
  );
}
