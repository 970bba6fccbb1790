"use client";

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
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import {
  CopyPlus,
  CornerLeftDown,
  Eye,
  EyeOff,
  Grid2x2Check,
  Lock,
  Plus,
  Trash2,
  PencilRuler,
  PenLine,
} from "lucide-react";
import { type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from "react";
import { type BlendMode, blendModes } from "../../engine/compose/blend-modes";
import { paperName } from "../../engine/paper/paper";
import { type Layer } from "../../worker/protocol";
import { NameField } from "../naming/NameField";
import { type Session } from "./session";
import { AID, isAid, NO_AID } from "./sketch-aid";
import { useTable } from "./table-store";

/** Device px of a layer's small picture. */
const THUMB = { width: 92, height: 68 };
/** A slider is let go of after this long, ms. */
const SLIDE_PAUSE = 350;
/** A thumbnail follows its layer after this long, ms. */
const THUMB_DELAY = 250;

const blendLabel = (mode: BlendMode): string => {
  const words = mode.replace("-", " ").replace("color", "colour");
  return words.charAt(0).toUpperCase() + words.slice(1);
};

function Thumb({ session, id }: { session: Session; id: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const freshness = useTable((state) => state.freshness[id] ?? 0);
  useEffect(() => {
    const timer = setTimeout(
      () => {
        void session.link.api
          .layerThumbnail(id, THUMB.width, THUMB.height)
          .then(({ data, width, height }) => {
            canvas.current
              ?.getContext("2d")
              ?.putImageData(new ImageData(data, width, height), 0, 0);
          });
      },
      freshness === 0 ? 0 : THUMB_DELAY,
    );
    return () => clearTimeout(timer);
  }, [session, id, freshness]);
  return <canvas ref={canvas} {...THUMB} aria-hidden="true" />;
}

function LayerName({ session, layer }: { session: Session; layer: Layer }) {
  const [editing, setEditing] = useState(false);
  if (editing)
    return (
      <NameField
        label="Layer name"
        name={layer.name}
        most={120}
        done={(name) => {
          setEditing(false);
          if (name) void session.apply({ do: "layer.set", id: layer.id, name });
        }}
      />
    );
  return (
    <div
      className="name"
      data-rename={layer.id}
      title={layer.name}
      onDoubleClick={() => setEditing(true)}
      ref={(node) => node?.addEventListener("rename", () => setEditing(true))}
    >
      {layer.name}
    </div>
  );
}

function aboutLayer(layer: Layer): string {
  if (isAid(layer)) return `sketch aid · ${Math.round(layer.opacity * 100)}`;
  const parts = [blendLabel(layer.blend).toLowerCase()];
  if (layer.opacity < 1) parts.push(String(Math.round(layer.opacity * 100)));
  if (layer.lines) parts.push("lines");
  if (layer.locked) parts.push("locked");
  return parts.join(" · ");
}

type RowProps = {
  session: Session;
  layer: Layer;
  hangs: boolean;
  choose: (event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }, id: string) => void;
};

function LayerRow({ session, layer, hangs, choose }: RowProps) {
  const selected = useTable((state) => state.selected.includes(layer.id));
  const working = useTable((state) => state.selected[0] === layer.id);
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: layer.id,
  });
  const row = useRef<HTMLElement | null>(null);
  const classes = [
    "layer-row",
    selected && "selected",
    working && "working",
    hangs && "clip",
    !layer.visible && "hidden-layer",
    isDragging && "dragging",
  ];

  const press = (event: KeyboardEvent<HTMLElement>): void => {
    if (event.target !== event.currentTarget) return;
    if (event.key === "F2")
      row.current?.querySelector("[data-rename]")?.dispatchEvent(new Event("rename"));
    else if (event.key === "Delete") void session.removeLayers();
    else if (event.key === "Enter") choose(event, layer.id);
    else if (
      (event.key === "ArrowUp" || event.key === "ArrowDown") &&
      !event.ctrlKey &&
      !event.metaKey
    ) {
      const next =
        event.key === "ArrowUp"
          ? row.current?.previousElementSibling
          : row.current?.nextElementSibling;
      (next as HTMLElement | null)?.focus();
      const id = (next as HTMLElement | null)?.dataset.layer;
      if (id) choose({ ctrlKey: false, metaKey: false, shiftKey: event.shiftKey }, id);
    } else return;
    event.preventDefault();
  };

  return (
    <div
      ref={(node) => {
        setNodeRef(node);
        row.current = node;
      }}
      className={classes.filter(Boolean).join(" ")}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      role="row"
      aria-selected={selected}
      aria-label={`${layer.name}, ${aboutLayer(layer)}${layer.visible ? "" : ", hidden"}${hangs ? ", clipped" : ""}`}
      tabIndex={working ? 0 : -1}
      data-layer={layer.id}
      onClick={(event: MouseEvent) => choose(event, layer.id)}
      onKeyDown={press}
    >
      {hangs && <span className="thread" aria-hidden="true" />}
      <span
        {...listeners}
        {...attributes}
        role="gridcell"
        aria-roledescription={undefined}
        aria-describedby={undefined}
        aria-disabled={undefined}
        tabIndex={-1}
        style={{
          display: "flex",
          gap: 9,
          flex: 1,
          minWidth: 0,
          alignItems: "center",
          touchAction: "none",
        }}
      >
        <Thumb session={session} id={layer.id} />
        <div className="names">
          <LayerName session={session} layer={layer} />
          <div className="about">
            {aboutLayer(layer)}
            {layer.lockTransparency && <Grid2x2Check size={12} />}
          </div>
        </div>
      </span>
      <span role="gridcell">
        <button
          type="button"
          className="icon-button"
          tabIndex={-1}
          aria-label={`${layer.visible ? "Hide" : "Show"} ${layer.name}`}
          onClick={(event) => {
            event.stopPropagation();
            void session.apply({ do: "layer.set", id: layer.id, visible: !layer.visible });
          }}
        >
          {layer.visible ? <Eye size={17} /> : <EyeOff size={17} />}
        </button>
      </span>
    </div>
  );
}

/** Whether each layer hangs from one below it. */
function hanging(layers: readonly Layer[]): Set<string> {
  const found = new Set<string>();
  layers.forEach((layer, i) => {
    if (layer.clip && i > 0) found.add(layer.id);
  });
  return found;
}

function LayerSettings({ session, layer }: { session: Session; layer: Layer | undefined }) {
  const [sliding, setSliding] = useState<number | null>(null);
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined);
  if (!layer) return <div className="settings quiet">Choose a layer to set how it lies.</div>;
  const opacity = sliding ?? Math.round(layer.opacity * 100);
  // While it slides it is only shown so; the layer is set once, when the hand rests.
  const settle = (value: number): void => {
    clearTimeout(pause.current);
    void session.setLayers({ opacity: value / 100 }).then(() => setSliding(null));
  };
  const slide = (value: number): void => {
    setSliding(value);
    void session.link.api.previewOpacity(useTable.getState().selected, value / 100);
    clearTimeout(pause.current);
    pause.current = setTimeout(() => settle(value), SLIDE_PAUSE);
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
        onChange={(event) => slide(Number(event.target.value))}
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
        <span style={{ flex: 1 }} />
        {toggle("Duplicate layers", false, <CopyPlus size={16} />, () => session.duplicateLayers())}
        {toggle("Remove layers", false, <Trash2 size={16} />, () => session.removeLayers())}
      </div>
    </div>
  );
}

export function Layers({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const selected = useTable((state) => state.selected);
  const set = useTable((state) => state.set);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  if (!picture) return null;
  const layers = [...picture.layers].reverse();
  const clipped = hanging(picture.layers);

  const choose: RowProps["choose"] = (event, id) => {
    if (event.shiftKey && selected[0]) {
      const ids = layers.map((layer) => layer.id);
      const [from, to] = [ids.indexOf(selected[0]), ids.indexOf(id)].sort((a, b) => a - b) as [
        number,
        number,
      ];
      const range = ids.slice(from, to + 1);
      session.select([id, ...range.filter((other) => other !== id)]);
    } else if (event.ctrlKey || event.metaKey) {
      const others = selected.filter((other) => other !== id);
      session.select(selected.includes(id) && others.length > 0 ? others : [id, ...others]);
    } else session.select([id]);
  };

  const dropped = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    const ids = selected.includes(String(active.id)) ? selected : [String(active.id)];
    const order = layers.map(({ id }) => id);
    const upward = order.indexOf(String(active.id)) > order.indexOf(String(over.id));
    void session.moveLayers(ids, String(over.id), upward ? "above" : "below");
  };

  return (
    <aside className="layers-panel" aria-label="Layers">
      <header>
        <h2>Layers</h2>
        <button
          type="button"
          className="icon-button"
          aria-label="Add layer"
          title="Add layer"
          onClick={() => void session.addLayer()}
        >
          <Plus size={18} />
        </button>
      </header>
      <LayerSettings
        session={session}
        layer={picture.layers.find(({ id }) => id === selected[0])}
      />
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={layers.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <div className="layer-list">
            <div role="grid" aria-multiselectable="true" aria-label="Layers, topmost first">
              {layers.map((layer) => (
                <LayerRow
                  key={layer.id}
                  session={session}
                  layer={layer}
                  hangs={clipped.has(layer.id)}
                  choose={choose}
                />
              ))}
            </div>
            <button
              type="button"
              className="layer-row w-100 text-start"
              style={{ color: "inherit" }}
              onClick={() => set({ dialog: "paper" })}
            >
              <span className="ground" style={{ background: picture.ground }} />
              <span className="names">
                <div className="name">Paper</div>
                <div className="about">{paperName(picture.paper).toLowerCase()}</div>
              </span>
            </button>
          </div>
        </SortableContext>
      </DndContext>
    </aside>
  );
}
