"use client";

import { Star } from "lucide-react";
import { Dropdown } from "react-bootstrap";
import { LaysSelect } from "../brushes/LaysSelect";
import { brushById, toggleFavourite, useBrushBox } from "../brushes/brush-box";
import { isForWash, isForWet } from "../../engine/stroke/brush";
import { isFluid } from "../../engine/picture/picture";
import { MOST_PICK_RADIUS } from "../../worker/picking";
import { rubOff } from "./layers/masking-fluid";
import { StrewOptions } from "./strew/StrewOptions";
import { LineOptions } from "./lines/LineOptions";
import { PanelOptions } from "./panels/PanelOptions";
import { Choice } from "../ui/Choice";
import { FillOptions, SelectOptions } from "./region/RegionOptions";
import { remember, type Session } from "./session";
import { amountsNow, modeNow, useParts, useTable } from "./table-store";
import { Tick } from "../ui/Tick";
import { WaterCare } from "./water/WaterCare";
import { BrushCare } from "./slab/BrushCare";
import { openSheet } from "./sheet/sheet-store";
import { StencilOptions } from "./stencils/StencilsMenu";
import { useStencils } from "./stencils/stencil-store";
import { TransformOptions } from "./transform/TransformOptions";
import { useTransform } from "./transform/transform-store";

/** What a colour is picked from. It holds for picking while a key is held, too. */
function PickOptions() {
  const { pickFrom, pickRadius, pickShare, set } = useParts(
    "pickFrom",
    "pickRadius",
    "pickShare",
    "set",
  );
  return (
    <>
      <span>Press on the picture to take its colour</span>
      <Choice
        label="Pick from"
        of={[
          ["seen", "All that is seen"],
          ["layer", "This layer"],
        ]}
        value={pickFrom}
        choose={(from) => set({ pickFrom: from })}
      />
      <label title="The mean of a disc of this radius">
        Radius
        <input
          type="range"
          className="swell"
          min={0}
          max={MOST_PICK_RADIUS}
          value={pickRadius}
          aria-label="Radius of picking"
          onChange={(event) => set({ pickRadius: Number(event.target.value) })}
        />
        <output>{pickRadius}</output>
      </label>
      <label title="Below 100 the colour in hand is stirred, as paint, toward the one that is picked">
        Toward it
        <input
          type="range"
          className="swell"
          min={10}
          max={100}
          step={5}
          value={Math.round(pickShare * 100)}
          aria-label="How far toward the picked colour"
          onChange={(event) => set({ pickShare: Number(event.target.value) / 100 })}
        />
        <output>{Math.round(pickShare * 100)}</output>
      </label>
    </>
  );
}

/** A setting that is kept for the next time. */
function Remembered({
  of,
  label,
  hint,
}: {
  of: "standInPen" | "restPicks";
  label: string;
  hint: string;
}) {
  const { [of]: isOn, set } = useParts(of, "set");
  const choose = (next: boolean): void => {
    set({ [of]: next });
    void remember({ [of]: next });
  };
  return (
    <Tick on={isOn} set={choose} title={hint}>
      {label}
    </Tick>
  );
}

/** Whether the working layer is a film of masking fluid. */
const isOnFilm = ({ picture, selected }: ReturnType<typeof useTable.getState>): boolean =>
  picture?.layers.some((layer) => layer.id === selected[0] && isFluid(layer)) ?? false;

/** Options of the tool in hand. */
export function Options({ session }: { session: Session }) {
  const mode = useTable(modeNow);
  const {
    steady,
    set,
    tool,
    picture,
    takes,
    brush,
    paintOn,
    setAmounts,
    holdsInFrame,
    keepsPaint,
  } = useParts(
    "steady",
    "set",
    "tool",
    "picture",
    "takes",
    "brush",
    "paintOn",
    "setAmounts",
    "holdsInFrame",
    "keepsPaint",
  );
  const zoom = useTable(({ view }) => view.zoom);
  // A mask knows no medium.
  const isWet = useTable((state) => {
    const own = brushById(state.brush);
    return own !== undefined && isForWet(own) && state.paintOn === "colour" && !isOnFilm(state);
  });
  const isWash = useTable((state) => {
    const own = brushById(state.brush);
    return own !== undefined && isForWash(own) && state.paintOn === "colour" && !isOnFilm(state);
  });
  const onFilm = useTable(isOnFilm);
  const isFull = isWet && tool === "brush" && keepsPaint;
  const lays = useTable((state) => amountsNow(state).lays);
  const isFavourite = useBrushBox(({ favourites }) => favourites.includes(brush));
  const inHand = useTransform(({ piece }) => piece !== null);
  const stencilInHand = useStencils((state) => state.inHand !== null);
  const percent = Math.round(zoom * 1000) / 10;
  if (inHand)
    return (
      <div className="options" role="group" aria-label="Options">
        <TransformOptions session={session} />
      </div>
    );
  if (stencilInHand)
    return (
      <div className="options" role="group" aria-label="Options">
        <StencilOptions session={session} />
      </div>
    );
  return (
    <div className="options" role="group" aria-label="Options">
      {tool === "transform box" && (
        <>
          <span>Drag a box around what is to be moved</span>
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => set({ tool: "brush", box: null })}
          >
            Leave it
          </button>
        </>
      )}
      {tool === "fill" && <FillOptions session={session} />}
      {tool === "select" && <SelectOptions session={session} />}
      {tool === "lines" && <LineOptions session={session} />}
      {tool === "panels" && <PanelOptions session={session} />}
      {tool === "strew" && <StrewOptions />}
      {tool === "pick" && <PickOptions />}
      {tool === "hand" && <span>Drag to move the sheet</span>}
      {tool === "tip box" && (
        <>
          <span>Drag a box around the paint that the tip is to be made of</span>
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => set({ tool: "brush", dialog: "workshop", box: null })}
          >
            Leave it
          </button>
        </>
      )}
      {tool === "brush" && paintOn === "mask" && (
        <span className="on-mask" role="status">
          Edit mask: {mode === "lift" ? "Lift reveals" : "Paint hides, Lift reveals"}
          <button type="button" className="btn btn-sm" onClick={() => set({ paintOn: "colour" })}>
            Back to paint
          </button>
        </span>
      )}
      {tool === "brush" && (
        <>
          <button
            type="button"
            className="icon-button"
            aria-pressed={isFavourite}
            aria-label="Favourite"
            title="On the shelf that the Q key brings to the pen"
            onClick={() => void toggleFavourite(brush)}
          >
            <Star size={15} fill={isFavourite ? "currentColor" : "none"} />
          </button>
          {isWet && mode === "paint" && <BrushCare session={session} />}
          {isWash && <WaterCare session={session} />}
          {onFilm && (
            <span className="on-mask" role="status">
              Masking fluid: Paint lays it, Lift rubs it off
              <button type="button" className="btn btn-sm" onClick={() => void rubOff(session)}>
                Rub all off
              </button>
            </span>
          )}
          {mode === "paint" && paintOn === "colour" && !isWet && !isWash && !onFilm && (
            <LaysSelect lays={lays} choose={(next) => setAmounts({ lays: next })} />
          )}
          {mode === "blend" && !isWet && !isWash && (
            <Tick
              on={takes === "below"}
              set={(on) => set({ takes: on ? "below" : "layer" })}
              title="Blend takes up what is seen of the layers below too; they stay as they are"
            >
              From layers below
            </Tick>
          )}
          <label>
            Steady
            <input
              type="range"
              className="swell"
              min={0}
              max={10}
              step={1}
              value={Math.round(steady * 10)}
              aria-label="Steady"
              onChange={(event) => set({ steady: Number(event.target.value) / 10 })}
            />
            <output>{Math.round(steady * 10)}</output>
          </label>
          {picture?.studies && (
            <Tick
              on={holdsInFrame}
              set={(on) => set({ holdsInFrame: on })}
              title="A stroke stays in the study that it begins in"
            >
              Keep in frame
            </Tick>
          )}
          <Dropdown drop="up" autoClose="outside">
            <Dropdown.Toggle variant="" size="sm" title="How the pen and the mouse are felt">
              Pen
            </Dropdown.Toggle>
            <Dropdown.Menu className="pen-menu">
              <Remembered
                of="standInPen"
                label="Stand-in pen"
                hint="Mouse speed acts as pressure"
              />
              <Remembered
                of="restPicks"
                label="Rest picks"
                hint="Hold the pen still to take the colour under it"
              />
              <Dropdown.Item as="button" onClick={() => set({ dialog: "pen" })}>
                Pen and hands…
              </Dropdown.Item>
            </Dropdown.Menu>
          </Dropdown>
        </>
      )}
      {tool !== "fill" &&
        tool !== "select" &&
        tool !== "pick" &&
        tool !== "lines" &&
        tool !== "panels" &&
        tool !== "strew" &&
        paintOn === "colour" &&
        !isFull && (
          <>
            <button
              type="button"
              className="btn btn-sm quiet-button"
              title="The sheet: crop, extend, turn, resize, size on paper"
              onClick={() => openSheet("cut")}
            >
              {picture?.width} × {picture?.height} px
            </button>
            <span className="quiet">{percent}%</span>
          </>
        )}
    </div>
  );
}
