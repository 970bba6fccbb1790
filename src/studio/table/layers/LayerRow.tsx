"use client";

import { isFluid, hasPixels } from "../../../engine/picture/picture";
import { useSortable } from "@dnd-kit/sortable";
import {
  Droplet,
  ChevronDown,
  ChevronRight,
  Eye,
  EyeOff,
  Grid2x2Check,
  SlidersHorizontal,
  VenetianMask,
} from "lucide-react";
import { type KeyboardEvent, memo, type MouseEvent, useEffect, useRef, useState } from "react";
import { type Layer } from "../../../worker/protocol";
import { NameField } from "../../naming/NameField";
import { stripOf } from "../gradient/stops";
import { type Session } from "../session";
import { isAid } from "../sketch-aid";
import { useTable } from "../table-store";
import { blendLabel } from "../../naming/blend-label";
import { INDENT } from "./rows";

/** Device px of a layer's small picture. */
const THUMB = { width: 92, height: 68 };
/** How far a clipped layer is indented under the thread that it hangs from, CSS px. */
const HANGS = 12;
/** A thumbnail follows its layer after this long, ms. */
const THUMB_DELAY = 250;

/** A layer alone, small; drawn when it is in view. */
function Thumb({ session, id }: { session: Session; id: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const freshness = useTable((state) => state.freshness[id] ?? 0);
  const [isSeen, setSeen] = useState(false);
  useEffect(() => {
    const node = canvas.current;
    if (!node) return;
    const watch = new IntersectionObserver(([entry]) => setSeen(entry?.isIntersecting ?? false));
    watch.observe(node);
    return () => watch.disconnect();
  }, []);
  useEffect(() => {
    if (!isSeen) return;
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
  }, [session, id, freshness, isSeen]);
  return <canvas ref={canvas} {...THUMB} aria-hidden="true" />;
}

function LayerName({ session, layer }: { session: Session; layer: Layer }) {
  const [editing, setEditing] = useState(false);
  const label = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const node = label.current;
    const rename = (): void => setEditing(true);
    node?.addEventListener("rename", rename);
    return () => node?.removeEventListener("rename", rename);
  }, [editing]);
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
      ref={label}
    >
      {layer.name}
    </div>
  );
}

function aboutLayer(layer: Layer, isWet: boolean, left = 0): string {
  if (isAid(layer)) return `sketch aid · ${Math.round(layer.opacity * 100)}`;
  const parts = [
    isFluid(layer)
      ? "holds paint off"
      : layer.kind === "paint" || layer.blend !== "normal"
        ? blendLabel(layer.blend).toLowerCase()
        : layer.kind === "group" && layer.through
          ? "group, through"
          : layer.kind,
  ];
  // First, so that it is not cut off: beside the drop the seconds are enough. That it lies as paint does goes without
  // saying meanwhile.
  const isPlain = layer.kind === "paint" && layer.blend === "normal";
  if (isWet) parts.splice(0, isPlain ? 1 : 0, left > 0 ? `${left} s` : "wet");
  if (layer.opacity < 1 && !isFluid(layer)) parts.push(String(Math.round(layer.opacity * 100)));
  if (layer.halftone?.on) parts.unshift("dots");
  if (layer.lines) parts.push("source");
  if (layer.locked) parts.push("locked");
  return parts.join(" · ");
}

export type RowProps = {
  session: Session;
  layer: Layer;
  hangs: boolean;
  depth: number;
  choose: (event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }, id: string) => void;
};

/** A line of the list: pressed to be chosen, dragged to be moved. */
export const LayerRow = memo(function LayerRow({ session, layer, hangs, depth, choose }: RowProps) {
  const selected = useTable((state) => state.selected.includes(layer.id));
  const working = useTable((state) => state.selected[0] === layer.id);
  const isWet = useTable((state) => state.picture?.wet.includes(layer.id) ?? false);
  // In steps that are looked at, not counted.
  const left = useTable(({ dries }) => 5 * Math.ceil((dries[layer.id] ?? 0) / 5));
  const { setNodeRef, attributes, listeners, isDragging } = useSortable({ id: layer.id });
  const row = useRef<HTMLElement | null>(null);
  const folded = useTable((state) => state.folded[layer.id] ?? false);
  const onMask = useTable((state) => state.paintOn === "mask" && state.selected[0] === layer.id);
  const set = useTable((state) => state.set);
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
      style={{ marginLeft: depth * INDENT + (hangs ? HANGS : 0) }}
      role="row"
      aria-selected={selected}
      aria-label={`${layer.name}, ${aboutLayer(layer, isWet)}${layer.visible ? "" : ", hidden"}${hangs ? ", clipped" : ""}`}
      tabIndex={working ? 0 : -1}
      data-layer={layer.id}
      onClick={(event: MouseEvent) => choose(event, layer.id)}
      onKeyDown={press}
    >
      {hangs && <span className="thread" aria-hidden="true" />}
      {layer.tab && <span className={`tab-mark ${layer.tab}`} aria-hidden="true" />}
      {layer.kind === "group" && (
        <span role="gridcell">
          <button
            type="button"
            className="icon-button fold"
            tabIndex={-1}
            aria-label={`${folded ? "Open" : "Close"} ${layer.name}`}
            aria-expanded={!folded}
            onClick={(event) => {
              event.stopPropagation();
              set({ folded: { ...useTable.getState().folded, [layer.id]: !folded } });
            }}
          >
            {folded ? <ChevronRight size={15} /> : <ChevronDown size={15} />}
          </button>
        </span>
      )}
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
        {hasPixels(layer.kind) && <Thumb session={session} id={layer.id} />}
        {layer.kind === "fill" && (
          <span className="ground" style={{ background: paintLook(layer) }} />
        )}
        {layer.kind === "adjustment" && (
          <span className="ground kind">
            <SlidersHorizontal size={16} />
          </span>
        )}
        <div className="names">
          <LayerName session={session} layer={layer} />
          <div className="about">
            {isWet && <Droplet className="drop" size={11} aria-hidden="true" />}
            {aboutLayer(layer, isWet, left)}
            {layer.lockTransparency && <Grid2x2Check size={12} />}
          </div>
        </div>
      </span>
      {layer.mask && (
        <span role="gridcell">
          <button
            type="button"
            className="icon-button mask"
            tabIndex={-1}
            aria-pressed={onMask}
            data-off={!layer.mask.on || undefined}
            aria-label={`Paint on the mask of ${layer.name}`}
            title="Paint holds back, Lift lets through"
            onClick={(event) => {
              event.stopPropagation();
              session.select([layer.id]);
              set({ paintOn: onMask ? "colour" : "mask" });
            }}
          >
            <VenetianMask size={16} />
          </button>
        </span>
      )}
      <span role="gridcell">
        <button
          type="button"
          className="icon-button"
          tabIndex={-1}
          aria-label={`${layer.visible ? "Hide" : "Show"} ${layer.name}`}
          onClick={(event) => {
            event.stopPropagation();
            void session.setVisible(layer.id, !layer.visible);
          }}
        >
          {layer.visible ? <Eye size={17} /> : <EyeOff size={17} />}
        </button>
      </span>
    </div>
  );
});

/** What a fill looks like in the list. */
function paintLook({ paint }: Layer): string {
  if (!paint || paint.kind === "colour") return paint?.colour ?? "none";
  return stripOf(paint.stops);
}
