"use client";

import {
  CopyPlus,
  CornerLeftDown,
  Eye,
  EyeOff,
  Grid2x2Check,
  Lock,
  PencilRuler,
  PenLine,
  Trash2,
  VenetianMask,
} from "lucide-react";
import { useState } from "react";
import { type BlendMode, blendModes } from "../../../engine/compose/blend-modes";
import { MOST_CONTOUR } from "../../../engine/picture/picture";
import { type Layer } from "../../../worker/protocol";
import { adjustmentNames, beginAdjusting } from "../adjust/adjust-store";
import { GradientStrip } from "../gradient/GradientStrip";
import { withShape } from "../gradient/handles";
import { openHalftone } from "../halftone/halftone-store";
import { type Session } from "../session";
import { AID, isAid, NO_AID } from "../sketch-aid";
import { useTable } from "../table-store";
import { blendLabel } from "../../naming/blend-label";
import { AdjustMenu } from "./AdjustMenu";
import { LayerMenu } from "./LayerMenu";
import { WashSettings } from "../water/WashSettings";
import { onceRested } from "../../ui/once-rested";
import { goneOnFrom, RestingSlider } from "../../ui/RestingSlider";
import { SliderLine } from "../../ui/SliderLine";
import { ShadeMenu } from "./ShadeMenu";
import { FringeSettings } from "./FringeSettings";

/** Minutes that a layer may be left alone before its paint is dry. */
const DRIES_AFTER = [1, 5, 15, 60];

/** A colour that takes the one in hand when it is pressed. */
function TakeColour({
  label,
  colour,
  take,
}: {
  label: string;
  colour: string;
  take: (colour: string) => void;
}) {
  return (
    <button
      type="button"
      className="swatch"
      style={{ background: colour }}
      aria-label={`${label}: give it the colour in hand`}
      title={`${label}: press to give it the colour in hand`}
      onClick={() => take(useTable.getState().colour)}
    />
  );
}

/** How paint that stands up is lit, and what there is to do while it is wet. */
function ReliefSettings({ session, layer }: { session: Session; layer: Layer }) {
  const stands = useTable((state) => state.picture?.raised.includes(layer.id) ?? false);
  const isWet = useTable((state) => state.picture?.wet.includes(layer.id) ?? false);
  if (!stands) return null;
  const { relief } = layer;
  return (
    <>
      <SliderLine
        word="Relief"
        id="relief-depth"
        label="Depth of the relief"
        most={1}
        step={0.05}
        value={relief.depth}
        settle={(depth) => session.setLayers({ relief: { ...relief, depth } })}
      />
      <SliderLine
        word="Gloss"
        id="relief-gloss"
        label="Gloss"
        most={1}
        step={0.05}
        value={relief.gloss}
        settle={(gloss) => session.setLayers({ relief: { ...relief, gloss } })}
      />
      <div className="line">
        <label htmlFor="dry-after">Dries</label>
        <select
          id="dry-after"
          className="form-select form-select-sm"
          title="Wet paint that was left alone for so long is dry; it stays wet while it is worked"
          value={layer.dryAfter ?? ""}
          onChange={({ target: { value } }) =>
            void session.setLayers({ dryAfter: value === "" ? null : Number(value) })
          }
        >
          <option value="">when told</option>
          {DRIES_AFTER.map((minutes) => (
            <option key={minutes} value={minutes}>
              after {minutes} min
            </option>
          ))}
        </select>
      </div>
      {isWet && (
        <button type="button" className="btn btn-sm" onClick={() => void session.dryPaint()}>
          Dry now
        </button>
      )}
    </>
  );
}

/** A fill's colour, an outline's width and colour: what a layer of its kind has besides. */
function OwnSettings({ session, layer }: { session: Session; layer: Layer }) {
  const { contour, paint, kind, tone } = layer;
  const setPaint = (next: NonNullable<Layer["paint"]>): void =>
    void session.setLayers({ paint: next }, "fill");
  const tryPaint = (next: Layer["paint"]): void => {
    const layers = useTable.getState().picture?.layers ?? [];
    const tried = layers.map((one) => (one.id === layer.id ? { ...one, paint: next } : one));
    void session.link.api.previewLayers(next ? tried : null, null);
  };
  return (
    <>
      {kind === "fill" && paint?.kind === "colour" && (
        <div className="line">
          Colour
          <TakeColour
            label="Colour of the fill"
            colour={paint.colour}
            take={(colour) => setPaint({ ...paint, colour })}
          />
        </div>
      )}
      {kind === "fill" && paint?.kind === "gradient" && (
        <div className="line">
          <select
            className="form-select form-select-sm"
            aria-label="Shape of the gradient"
            value={paint.shape}
            onChange={(event) => setPaint(withShape(paint, event.target.value))}
          >
            <option value="linear">Linear</option>
            <option value="radial">Radial</option>
            <option value="path">Along a path</option>
          </select>
        </div>
      )}
      {kind === "fill" && paint?.kind === "gradient" && (
        <GradientStrip
          key={layer.id}
          label="Gradient"
          stops={paint.stops}
          clear
          onTry={(stops) => tryPaint({ ...paint, stops })}
          onKeep={(stops) =>
            session.setLayers({ paint: { ...paint, stops } }, "fill").then(() => tryPaint(null))
          }
        />
      )}
      {kind === "adjustment" && tone && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => beginAdjusting(session, tone.kind, layer.id)}
        >
          Change {adjustmentNames[tone.kind].toLowerCase()}…
        </button>
      )}
      <ReliefSettings session={session} layer={layer} />
      <WashSettings session={session} layer={layer} />
      <FringeSettings session={session} layer={layer} />
      {layer.halftone && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void openHalftone(session, layer)}
        >
          Change halftone…
        </button>
      )}
      {contour && (
        <div className="line">
          <label htmlFor="contour-width">Contour</label>
          <RestingSlider
            id="contour-width"
            label="Width of the contour"
            least={1}
            most={MOST_CONTOUR}
            value={contour.width}
            settle={(width) => session.setLayers({ contour: { ...contour, width } })}
          />
          <TakeColour
            label="Colour of the contour"
            colour={contour.colour}
            take={(colour) => void session.setLayers({ contour: { ...contour, colour } })}
          />
        </div>
      )}
    </>
  );
}

/** How the working layer lies, and what its kind has besides. */
export function LayerSettings({ session, layer }: { session: Session; layer: Layer | undefined }) {
  const [sliding, setSliding] = useState<number | null>(null);
  const paintOn = useTable((state) => state.paintOn);
  if (!layer) return <div className="settings quiet">Select a layer to change its settings.</div>;
  const opacity = sliding ?? Math.round(layer.opacity * 100);
  // While it slides it is only shown so; the layer is set once, when the hand rests.
  const settle = (value: number): void => {
    void session.setLayers({ opacity: value / 100 }).then(() => setSliding(goneOnFrom(value)));
  };
  const slide = (slider: HTMLElement, value: number): void => {
    setSliding(value);
    void session.link.api.previewOpacity(useTable.getState().selected, value / 100);
    onceRested(slider, () => settle(value));
  };
  const toggle = (label: string, pressed: boolean, icon: React.ReactNode, act: () => unknown) => (
    <button
      type="button"
      className="icon-button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      onClick={() => void act()}
    >
      {icon}
    </button>
  );
  return (
    <div className="settings">
      <select
        className="form-select form-select-sm"
        aria-label="Blend mode"
        value={layer.blend}
        onChange={(event) => void session.setLayers({ blend: event.target.value as BlendMode })}
      >
        {blendModes.map((mode) => (
          <option key={mode} value={mode}>
            {blendLabel(mode)}
          </option>
        ))}
      </select>
      <div className="line">
        <label htmlFor="layer-opacity">Opacity</label>
        <output>{opacity}</output>
      </div>
      <input
        id="layer-opacity"
        type="range"
        className="swell even"
        style={
          {
            "--track": "linear-gradient(90deg, var(--sunken), var(--quiet))",
          } as React.CSSProperties
        }
        min={0}
        max={100}
        value={opacity}
        onChange={(event) => slide(event.target, Number(event.target.value))}
      />
      <div className="locks" role="group" aria-label="Layer settings">
        {toggle(
          layer.visible ? "Hide" : "Show",
          !layer.visible,
          layer.visible ? <Eye size={16} /> : <EyeOff size={16} />,
          () => session.setLayers({ visible: !layer.visible }),
        )}
        {toggle(layer.locked ? "Unlock" : "Lock", layer.locked, <Lock size={16} />, () =>
          session.setLayers({ locked: !layer.locked }),
        )}
        {toggle("Lock transparency", layer.lockTransparency, <Grid2x2Check size={16} />, () =>
          session.setLayers({ lockTransparency: !layer.lockTransparency }),
        )}
        {toggle("Clip to the layer below", layer.clip, <CornerLeftDown size={16} />, () =>
          session.setLayers({ clip: !layer.clip }),
        )}
        {toggle("Line source", layer.lines, <PenLine size={16} />, () =>
          session.setLayers({ lines: !layer.lines }),
        )}
        {toggle(
          isAid(layer) ? "No longer a sketch aid" : "Sketch aid: dim, tinted, locked",
          isAid(layer),
          <PencilRuler size={16} />,
          () => session.setLayers(isAid(layer) ? NO_AID : AID),
        )}
        {toggle(
          "Edit mask: Paint hides, Lift reveals",
          layer.mask !== null,
          <VenetianMask size={16} />,
          () =>
            layer.mask
              ? useTable.setState({ paintOn: paintOn === "mask" ? "colour" : "mask" })
              : session.addMask(),
        )}
        {toggle("Duplicate layers", false, <CopyPlus size={16} />, () => session.duplicateLayers())}
        {toggle("Remove layers", false, <Trash2 size={16} />, () => session.removeLayers())}
        <AdjustMenu session={session} />
        <ShadeMenu session={session} layer={layer} />
        <LayerMenu session={session} layer={layer} />
      </div>
      <OwnSettings session={session} layer={layer} />
    </div>
  );
}
