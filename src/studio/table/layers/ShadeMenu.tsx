"use client";

import { Contrast } from "lucide-react";
import { type PaperKind } from "../../../engine/paper/bands";
import { paperKinds } from "../../../engine/paper/paper";
import { hasPixels } from "../../../engine/picture/picture";
import { type Layer } from "../../../worker/protocol";
import { type Session } from "../session";
import { canBeHalftone, openHalftone } from "../halftone/halftone-store";
import { useTable } from "../table-store";
import { IconMenu, Item, Step } from "./menu-items";

/** Widths of edge bands that are offered, px, and numbers of steps. */
const EDGE_WIDTHS = [4, 8, 16, 32];
const SHADE_STEPS = [1, 2, 3, 4];

/** Help with shading what the chosen layers hold: outlines, rims, steps, texture, haze. */
export function ShadeMenu({ session, layer }: { session: Session; layer: Layer }) {
  return (
    <IconMenu
      label="Shading helps"
      title="Contour, fringe, halftone and shading helps"
      icon={<Contrast size={16} />}
    >
      <Item
        act={() =>
          session.setLayers({
            contour: layer.contour ? null : { width: 4, colour: useTable.getState().colour },
          })
        }
      >
        {layer.contour ? "No contour" : "Contour"}
      </Item>
      {hasPixels(layer.kind) && (
        <Item act={() => session.toggleFringe(layer)}>
          {layer.fringe ? "No fringe" : "Fringe, as of a wash"}
        </Item>
      )}
      {canBeHalftone(layer) && (
        <Item act={() => openHalftone(session, layer)}>
          {layer.halftone ? "Change halftone…" : "Halftone…"}
        </Item>
      )}
      {layer.kind === "paint" && (
        <>
          <div className="steps" role="group" aria-label="Edge band">
            <span className="quiet">Edge band, px</span>
            {EDGE_WIDTHS.map((width) => (
              <Step
                key={width}
                aria-label={`Edge band of ${width} px`}
                act={() => session.edgeBand(width, width / 2)}
              >
                {width}
              </Step>
            ))}
          </div>
          <div className="steps" role="group" aria-label="Shade in steps">
            <span className="quiet">Steps of shade</span>
            {SHADE_STEPS.map((steps) => (
              <Step
                key={steps}
                aria-label={`Shade in ${steps} steps`}
                act={() => session.shadeSteps(steps)}
              >
                {steps}
              </Step>
            ))}
          </div>
          <div className="steps" role="group" aria-label="Texture">
            <span className="quiet">Texture</span>
            {(Object.keys(paperKinds) as PaperKind[]).map((kind) => (
              <Step
                key={kind}
                aria-label={`Texture of ${paperKinds[kind].toLowerCase()}`}
                title={paperKinds[kind]}
                act={() => session.texture(kind)}
              >
                {paperKinds[kind].split(/[ -]/)[0]}
              </Step>
            ))}
          </div>
          <div className="steps" role="group" aria-label="Haze by distance">
            <span className="quiet">Haze, far is</span>
            {(["light", "dark"] as const).map((far) => (
              <Step
                key={far}
                aria-label={`Haze by distance: far is ${far}`}
                act={() => session.haze(far)}
              >
                {far}
              </Step>
            ))}
          </div>
        </>
      )}
    </IconMenu>
  );
}
