"use client";

import { Ellipsis, Plus } from "lucide-react";
import { useState } from "react";
import { Dropdown } from "react-bootstrap";
import { hasPixels, type Tab, tabs } from "../../../engine/picture/picture";
import { type Layer } from "../../../worker/protocol";
import { adjustmentNames, beginAdjusting, firstOthers, firstTones } from "../adjust/adjust-store";
import { keepSignature, signPicture } from "../sign/sign";
import { floatSelected } from "../region/clipboard";
import { addFluid } from "./masking-fluid";
import { openPanels } from "../panels/panels-store";
import { openStrew } from "../strew/strew-store";
import { addHalftone } from "../halftone/halftone-store";
import { type Session } from "../session";
import { useParts } from "../table-store";
import { IconMenu, Item, Step } from "./menu-items";

/** New layers: for paint, of layers, of one colour or a gradient, or that change what is below. */
export function AddLayerMenu({ session }: { session: Session }) {
  const { colour, second, picture } = useParts("colour", "second", "picture");
  if (!picture) return null;
  const gradient = {
    kind: "gradient" as const,
    shape: "linear" as const,
    from: [picture.width / 2, picture.height * 0.15] as [number, number],
    to: [picture.width / 2, picture.height * 0.85] as [number, number],
    stops: [
      { at: 0, colour },
      { at: 1, colour: second },
    ],
  };
  return (
    <div className="add-layer">
      <button
        type="button"
        className="icon-button"
        aria-label="Add layer"
        title="Add layer"
        onClick={() => void session.addLayer()}
      >
        <Plus size={18} />
      </button>
      <Dropdown>
        <Dropdown.Toggle
          as="button"
          type="button"
          className="icon-button narrow"
          aria-label="Other layers"
        />
        <Dropdown.Menu className="crit-menu">
          <Item act={() => session.addLayer({ kind: "lines", name: "Lines" })}>
            Lines that stay editable
          </Item>
          <Item act={() => openPanels(session)}>Panels of a comic page</Item>
          <Item act={() => addFluid(session)}>Masking fluid</Item>
          <Item act={() => openStrew(session)}>Pieces to strew</Item>
          <Item act={() => addHalftone(session)}>
            {picture.selection ? "Halftone in the selection" : "Halftone to paint in"}
          </Item>
          <Item act={() => signPicture(session)}>Your signature</Item>
          <Dropdown.Divider />
          <Item act={() => session.addLayer({ kind: "group", name: "Group" })}>Empty group</Item>
          <Item act={() => session.groupLayers()}>Group of the chosen layers</Item>
          <Dropdown.Divider />
          <Item
            act={() =>
              session.addLayer({ kind: "fill", name: "Colour", paint: { kind: "colour", colour } })
            }
          >
            Colour
          </Item>
          <Item act={() => session.addLayer({ kind: "fill", name: "Gradient", paint: gradient })}>
            Gradient
          </Item>
          <Dropdown.Divider />
          {Object.entries({ ...firstTones, ...firstOthers }).map(([kind, tone]) => (
            <Item
              key={kind}
              act={async () => {
                const name = adjustmentNames[tone.kind];
                const id = await session.addLayer({ kind: "adjustment", name, tone });
                if (id) beginAdjusting(session, tone.kind, id, true);
              }}
            >
              {adjustmentNames[tone.kind]}
            </Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
    </div>
  );
}

const MASK_WORDS = { light: "lights", dark: "darks", shape: "shape" };

const TAB_WORDS: Record<Tab, string> = {
  rust: "Rust",
  ochre: "Ochre",
  moss: "Moss",
  teal: "Teal",
  slate: "Slate",
  plum: "Plum",
};

/** A mask that lets through where another layer is light, dark or painted at all. */
function MaskFrom({ session, others }: { session: Session; others: readonly Layer[] }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const layer = others.find(({ id }) => id === chosen) ?? others.at(-1);
  if (!layer) return null;
  return (
    <div className="mask-from">
      <label>
        Mask from
        <select
          className="form-select form-select-sm"
          aria-label="Mask from"
          value={layer.id}
          onChange={(event) => setChosen(event.target.value)}
        >
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <div className="steps" role="group" aria-label="What the mask lets through">
        {(["light", "dark", "shape"] as const).map((by) => (
          <Step
            key={by}
            aria-label={`Mask from its ${MASK_WORDS[by]}`}
            act={() => session.addMask({ kind: "layer", layer: layer.id, by })}
          >
            {MASK_WORDS[by]}
          </Step>
        ))}
      </div>
    </div>
  );
}

/** What else can be done with the chosen layers. */
export function LayerMenu({ session, layer }: { session: Session; layer: Layer }) {
  const { picture, maskView, selected } = useParts("picture", "maskView", "selected");
  if (!picture) return null;
  const others = picture.layers.filter(({ id, kind }) => id !== layer.id && hasPixels(kind));
  return (
    <IconMenu label="More for layers" icon={<Ellipsis size={16} />}>
      <div className="tab-row" role="group" aria-label="Colour tab">
        {tabs.map((tab) => (
          <button
            key={tab}
            type="button"
            className={`tab-mark ${tab}`}
            aria-label={`${TAB_WORDS[tab]} tab`}
            aria-pressed={layer.tab === tab}
            onClick={() => void session.setLayers({ tab: layer.tab === tab ? null : tab })}
          />
        ))}
      </div>
      <Item act={() => session.groupLayers()}>Group</Item>
      {layer.kind === "group" && (
        <>
          <Item act={() => session.ungroupLayers()}>Take the group apart</Item>
          <Item act={() => session.setLayers({ through: !layer.through })}>
            {layer.through ? "Isolate the group" : "Let the group through"}
          </Item>
          <Item act={() => session.mergeLayers([layer.id], layer.name)}>Merge the group</Item>
        </>
      )}
      <Item act={() => session.mergeDown()}>Merge down</Item>
      {selected.length > 1 && (
        <Item act={() => session.mergeSelected()}>Merge the chosen layers</Item>
      )}
      <Item act={() => session.copyMerged()}>New layer from visible</Item>
      {layer.kind === "paint" && (
        <>
          <Item act={() => session.fixPowder()}>Spray fixative</Item>
          <Item act={() => session.traceLines(layer)}>Turn paint into lines</Item>
        </>
      )}
      {layer.kind === "lines" && (
        <>
          <Item act={() => session.apply({ do: "line.to-paint", layer: layer.id })}>
            Turn lines into paint
          </Item>
          <Item act={() => keepSignature(session)}>Keep as signature</Item>
        </>
      )}
      {layer.kind === "strewn" && (
        <Item act={() => session.apply({ do: "strew.place", layer: layer.id })}>
          Place pieces as paint
        </Item>
      )}
      <Item act={() => session.flattenPicture()}>Flatten the picture</Item>
      <Dropdown.Divider />
      {layer.mask ? (
        <>
          <Item act={() => session.setMask({ on: !layer.mask?.on })}>
            {layer.mask.on ? "Put the mask aside" : "Use the mask"}
          </Item>
          <Item act={() => session.setMask({ linked: !layer.mask?.linked })}>
            {layer.mask.linked ? "Unlink the mask" : "Link the mask"}
          </Item>
          <Item act={() => session.invertMask()}>Invert the mask</Item>
          <Item act={() => session.showMask(maskView === "veil" ? "no" : "veil")}>
            {maskView === "veil" ? "Hide the veil" : "Show the mask as a veil"}
          </Item>
          <Item act={() => session.showMask(maskView === "alone" ? "no" : "alone")}>
            {maskView === "alone" ? "Show the picture" : "Show the mask alone"}
          </Item>
          {layer.kind === "paint" && (
            <Item act={() => session.removeMask(true)}>Lay the mask for good</Item>
          )}
          <Item act={() => session.removeMask(false)}>Remove the mask</Item>
        </>
      ) : (
        <>
          <Item act={() => session.addMask()}>
            {picture.selection ? "Mask all but the selection" : "Mask"}
          </Item>
          <Item act={() => session.addMask({ kind: "all" })}>Mask, hide all</Item>
          {others.length > 0 && <MaskFrom session={session} others={others} />}
        </>
      )}
      <Dropdown.Divider />
      <Item act={() => floatSelected(session)} disabled={!picture.selection}>
        Move selection to a new layer
      </Item>
    </IconMenu>
  );
}
