"use client";

import { type ReactNode, useState } from "react";
import { Dropdown } from "react-bootstrap";
import { MOST_UNDER } from "../../../engine/fill/region";
import { type Joining } from "../../../engine/command/select";
import { type Borders } from "../../../engine/region/source";
import { GradientStrip } from "../gradient/GradientStrip";
import { Choice } from "../../ui/Choice";
import { Slide } from "../../ui/Slide";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { floatSelected } from "./clipboard";
import { type Filling, type Selecting, idLayerNow, selectingWays, useRegion } from "./region-store";

const selectingNames: Record<Selecting, string> = {
  lasso: "Lasso",
  polygon: "Polygon",
  box: "Box",
  ellipse: "Ellipse",
  region: "Region",
  colour: "Colour everywhere",
  id: "Id picture",
  brush: "Brush",
  move: "Move the outline",
};
const joinings: [Joining, string][] = [
  ["replace", "Anew"],
  ["add", "Add"],
  ["take away", "Take away"],
  ["intersect", "Common"],
];
const fillings: [Filling, string, string][] = [
  ["tap", "Tap", "The regions that are tapped, or dragged across"],
  ["loop", "Loop", "All that a loop holds"],
  ["regions", "Regions", "The closed regions that lie wholly in a loop"],
  ["everywhere", "Everywhere", "All of this layer that has the colour tapped"],
  ["gradient", "Gradient", "The layer, or what is selected of it, from one colour to another"],
  ["flats", "Flats", "Every closed region of the lines, each in a colour of its own"],
];
const bordersNames: [Borders, string][] = [
  ["all", "All that is seen"],
  ["lines", "Line source"],
  ["layer", "This layer"],
];

const bordersOfFlats = bordersNames.filter(([name]) => name !== "layer");

/** Where borders are looked for; flats need more than one layer's own. */
function BordersFrom({ of = bordersNames }: { of?: typeof bordersNames }) {
  const { borders, set } = useRegion();
  return (
    <label>
      Borders
      <select
        className="form-select form-select-sm"
        aria-label="Borders"
        value={of.some(([name]) => name === borders) ? borders : "lines"}
        onChange={(event) => set({ borders: event.target.value as Borders })}
      >
        {of.map(([name, words]) => (
          <option key={name} value={name}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How closely borders are read. */
function Closeness({ withBridge }: { withBridge: boolean }) {
  const { tolerance, bridge, set } = useRegion();
  return (
    <>
      <Slide
        label="Tolerance"
        value={Math.round(tolerance * 100)}
        most={100}
        set={(value) => set({ tolerance: value / 100, look: null })}
      />
      {withBridge && (
        <Slide
          label="Bridge"
          value={bridge}
          most={64}
          shown={`${bridge} px`}
          set={(value) => set({ bridge: value, look: null })}
        />
      )}
    </>
  );
}

/** How far a region goes on under its lines, so that no bare rim is left along them. */
function UnderLines() {
  const { under, set } = useRegion();
  return (
    <Slide
      label="Under lines"
      value={under}
      most={MOST_UNDER}
      shown={`${under} px`}
      set={(value) => set({ under: value })}
    />
  );
}

function WhatIsFilled() {
  const { what, set } = useRegion();
  return (
    <Choice
      label="What is filled"
      of={fillings}
      value={what}
      choose={(next) => set({ what: next, look: null })}
    />
  );
}

const gradientShapes = [
  ["linear", "Straight"],
  ["radial", "Round"],
  ["path", "Along a line"],
] as const;
const gradientEnds = [
  ["second", "Second colour"],
  ["nothing", "Nothing"],
  ["stops", "Own stops"],
] as const;

/** Options of the gradient that is laid by hand. */
function GradientOptions() {
  const { gradientShape, gradientTo, gradientStops, set } = useRegion();
  const setStops = (stops: typeof gradientStops): void => set({ gradientStops: stops });
  const hint =
    gradientShape === "path"
      ? "Draw the line that it follows"
      : "Drag from where it begins to where it ends";
  return (
    <div className="region-options">
      <div className="line">
        <WhatIsFilled />
        <Choice
          label="Shape of the gradient"
          of={gradientShapes}
          value={gradientShape}
          choose={(shape) => set({ gradientShape: shape })}
        />
      </div>
      <div className="line">
        <Choice
          label="The gradient ends in"
          of={gradientEnds}
          value={gradientTo}
          choose={(to) => set({ gradientTo: to })}
        />
        {gradientTo === "stops" ? (
          <GradientStrip
            label="Gradient to lay"
            stops={gradientStops}
            clear
            onTry={setStops}
            onKeep={setStops}
          />
        ) : (
          <span title="Shift holds it to even angles">{hint}</span>
        )}
      </div>
    </div>
  );
}

/** Options of laying flats. */
function FlatsOptions({ session }: { session: Session }) {
  const { hues, bare, set } = useRegion();
  return (
    <div className="region-options">
      <div className="line">
        <WhatIsFilled />
        <BordersFrom of={bordersOfFlats} />
        <button
          type="button"
          className="btn btn-sm btn-strong"
          onClick={() => void session.layFlats()}
        >
          Lay flats
        </button>
      </div>
      <div className="line">
        <Closeness withBridge />
        <label title="How many hues the flats begin with">
          Hues
          <input
            type="number"
            className="form-control form-control-sm"
            aria-label="Hues"
            min={1}
            max={24}
            value={hues}
            onChange={(event) => {
              const next = Math.round(Number(event.target.value));
              if (next >= 1 && next <= 24) set({ hues: next });
            }}
          />
        </label>
        <Tick
          on={bare}
          set={(next) => set({ bare: next })}
          title="Leaves what lies around the figure without a flat"
        >
          Outside bare
        </Tick>
      </div>
    </div>
  );
}

/** Options of replacing a colour. */
function EverywhereOptions() {
  const { alike, set } = useRegion();
  return (
    <div className="region-options">
      <div className="line">
        <WhatIsFilled />
        <Slide
          label="How alike"
          value={Math.round(alike * 100)}
          most={40}
          set={(value) => set({ alike: value / 100 })}
        />
      </div>
      <div className="line">Tap a colour of this layer: all of it takes the colour in hand.</div>
    </div>
  );
}

/** Options of the fill. */
export function FillOptions({ session }: { session: Session }) {
  const { what, joins, look, bridge, set } = useRegion();
  const leak = look?.leak ?? null;
  if (what === "gradient") return <GradientOptions />;
  if (what === "everywhere") return <EverywhereOptions />;
  if (what === "flats") return <FlatsOptions session={session} />;
  return (
    <div className="region-options">
      <div className="line">
        <WhatIsFilled />
        {what !== "loop" && <BordersFrom />}
      </div>
      {what === "loop" ? (
        <div className="line">Draw a loop to fill everything inside it.</div>
      ) : (
        <div className="line">
          <UnderLines />
          <Closeness withBridge />
          {what === "tap" && (
            <Tick
              on={joins}
              set={(next) => set({ joins: next })}
              title="Drag from one flat across others: they take its colour"
            >
              Join flats
            </Tick>
          )}
        </div>
      )}
      {leak && (
        <div className="line leak" role="status">
          It would run out at {leak.places.length === 1 ? "one gap" : `${leak.places.length} gaps`}.
          {leak.bridge > bridge && (
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => set({ bridge: leak.bridge, look: null })}
            >
              Bridge {leak.bridge} px
            </button>
          )}
        </div>
      )}
    </div>
  );
}

type AmountKind = "grow" | "shrink" | "feather" | "smooth" | "border";
const amountKinds: [AmountKind, string][] = [
  ["grow", "Grow"],
  ["shrink", "Shrink"],
  ["feather", "Feather"],
  ["smooth", "Smooth"],
  ["border", "Border"],
];

function Item({ act, children }: { act: () => unknown; children: ReactNode }) {
  return (
    <Dropdown.Item as="button" type="button" onClick={() => void act()}>
      {children}
    </Dropdown.Item>
  );
}

/** What can be done with what is selected. */
function SelectionMenu({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const selected = useTable((state) => state.selected);
  const [by, setBy] = useState(8);
  const [name, setName] = useState("");
  if (!picture) return null;
  const { selection, kept } = picture;
  const [layer] = selected;
  const fromLayer = (how: "shape" | "light" | "dark") => () =>
    layer && session.selectShape({ kind: "layer", layer, by: how });
  return (
    <Dropdown drop="up">
      <Dropdown.Toggle as="button" type="button" className="btn btn-sm">
        Selection
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu selection-menu">
        <Item act={() => session.selectShape({ kind: "all" }, "replace")}>Select all</Item>
        <Item act={fromLayer("shape")}>From the layer’s shape</Item>
        <Item act={fromLayer("dark")}>From the layer’s darks</Item>
        <Item act={fromLayer("light")}>From the layer’s lights</Item>
        {kept.map(({ id, name: called }) => (
          <div key={id} className="kept-selection">
            <Item act={() => session.selectShape({ kind: "kept", id })}>{called}</Item>
            <button
              type="button"
              className="icon-button"
              aria-label={`Forget ${called}`}
              onClick={() => void session.apply({ do: "select.forget", id })}
            >
              ×
            </button>
          </div>
        ))}
        {selection && (
          <>
            <Dropdown.Divider />
            <div className="amount">
              <label>
                By
                <input
                  type="number"
                  className="form-control form-control-sm"
                  aria-label="By, px"
                  min={1}
                  max={128}
                  value={by}
                  onChange={(event) =>
                    setBy(Math.min(128, Math.max(1, Number(event.target.value) || 1)))
                  }
                />
                px
              </label>
              <div className="steps">
                {amountKinds.map(([kind, words]) => (
                  <button
                    key={kind}
                    type="button"
                    onClick={() => void session.changeSelection({ kind, by })}
                  >
                    {words}
                  </button>
                ))}
              </div>
            </div>
            <Item act={() => session.changeSelection({ kind: "invert" })}>Invert</Item>
            <Item act={() => floatSelected(session)}>Move selection to a new layer</Item>
            <form
              className="amount"
              onSubmit={(event) => {
                event.preventDefault();
                void session.keepSelection(name.trim() || `Selection ${kept.length + 1}`);
                setName("");
              }}
            >
              <input
                className="form-control form-control-sm"
                placeholder={`Selection ${kept.length + 1}`}
                aria-label="Name of the selection"
                maxLength={120}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <button type="submit" className="btn btn-sm">
                Keep
              </button>
            </form>
            <Item act={() => session.selectNone()}>Select nothing</Item>
          </>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** Which layer says what belongs together by its flat colours. */
function IdPicture() {
  const layers = useTable((state) => state.picture?.layers);
  const { idLayer, set } = useRegion();
  return (
    <label title="Reads regions from this layer’s flat colours, even when hidden">
      Ids from
      <select
        className="form-select form-select-sm"
        aria-label="Ids from"
        value={idLayer ?? idLayerNow()?.id ?? ""}
        onChange={(event) => set({ idLayer: event.target.value })}
      >
        {layers
          ?.filter(({ kind }) => kind === "paint")
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </label>
  );
}

/** Options of selecting. */
export function SelectOptions({ session }: { session: Session }) {
  const { selecting, joining, path, set } = useRegion();
  const selection = useTable((state) => state.picture?.selection ?? false);
  const mode = useTable((state) => state.mode);
  return (
    <div className="region-options">
      <div className="line">
        <label>
          Select with
          <select
            className="form-select form-select-sm"
            aria-label="Select with"
            value={selecting}
            onChange={(event) =>
              set({ selecting: event.target.value as Selecting, path: [], look: null })
            }
          >
            {selectingWays.map((way) => (
              <option key={way} value={way}>
                {selectingNames[way]}
              </option>
            ))}
          </select>
        </label>
        {selecting === "id" && <IdPicture />}
        {selecting !== "brush" && selecting !== "move" && (
          <Choice
            label="Joins what is selected"
            of={joinings}
            value={joining}
            choose={(next) => set({ joining: next })}
          />
        )}
        <SelectionMenu session={session} />
        {selection && (
          <button type="button" className="btn btn-sm" onClick={() => void session.selectNone()}>
            Select nothing
          </button>
        )}
      </div>
      {(selecting === "region" || selecting === "colour") && (
        <div className="line">
          <BordersFrom />
          {selecting === "region" && <UnderLines />}
          <Closeness withBridge={selecting === "region"} />
        </div>
      )}
      {selecting === "brush" && (
        <div className="line quiet">
          {mode === "lift"
            ? "Lift takes away from what is selected"
            : "Paint selects; Lift takes away"}
        </div>
      )}
      {selecting === "move" && (
        <div className="line quiet">
          {selection ? "Drag: the outline moves, the paint stays" : "Nothing is selected yet"}
        </div>
      )}
      {selecting === "polygon" && (
        <div className="line quiet">
          {path.length < 3
            ? "Press at each corner"
            : "Press twice or Enter to close it, Escape to leave it"}
        </div>
      )}
    </div>
  );
}
