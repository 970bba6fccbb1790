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
  ChevronDown,
  ChevronRight,
  Search,
  SlidersHorizontal,
  VenetianMask,
  Trash2,
  PencilRuler,
  PenLine,
} from "lucide-react";
import {
  type KeyboardEvent,
  memo,
  type MouseEvent,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { type BlendMode, blendModes } from "../../engine/compose/blend-modes";
import { paperName } from "../../engine/paper/paper";
import { type Layer } from "../../worker/protocol";
import { MOST_CONTOUR } from "../../engine/picture/picture";
import { GradientStrip } from "./gradient/GradientStrip";
import { withShape } from "./gradient/handles";
import { stripOf } from "./gradient/stops";
import { adjustmentNames, beginAdjusting } from "./adjust/adjust-store";
import { AddLayerMenu, LayerMenu } from "./layers/LayerMenu";
import { landing, rowsOf } from "./layers/rows";
import { NameField } from "../naming/NameField";
import { type Session } from "./session";
import { AID, isAid, NO_AID } from "./sketch-aid";
import { useTable } from "./table-store";

/** Device px of a layer's small picture. */
const THUMB = { width: 92, height: 68 };
/** Drawn so far to the left, a layer leaves its group, px. */
const OUTWARD = 24;
/** A slider is let go of after this long, ms. */
const SLIDE_PAUSE = 350;
/** A thumbnail follows its layer after this long, ms. */
const THUMB_DELAY = 250;

const blendLabel = (mode: BlendMode): string => {
  const words = mode.replace("-", " ").replace("color", "colour");
  return words.charAt(0).toUpperCase() + words.slice(1);
};

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
  const parts = [
    layer.kind === "paint" || layer.blend !== "normal"
      ? blendLabel(layer.blend).toLowerCase()
      : layer.kind === "group" && layer.through
        ? "group, through"
        : layer.kind,
  ];
  if (layer.opacity < 1) parts.push(String(Math.round(layer.opacity * 100)));
  if (layer.lines) parts.push("lines");
  if (layer.locked) parts.push("locked");
  return parts.join(" · ");
}

type RowProps = {
  session: Session;
  layer: Layer;
  hangs: boolean;
  depth: number;
  choose: (event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }, id: string) => void;
};

const LayerRow = memo(function LayerRow({ session, layer, hangs, depth, choose }: RowProps) {
  const selected = useTable((state) => state.selected.includes(layer.id));
  const working = useTable((state) => state.selected[0] === layer.id);
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: layer.id,
  });
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
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        marginLeft: depth * 14,
      }}
      role="row"
      aria-selected={selected}
      aria-label={`${layer.name}, ${aboutLayer(layer)}${layer.visible ? "" : ", hidden"}${hangs ? ", clipped" : ""}`}
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
        {layer.kind === "paint" && <Thumb session={session} id={layer.id} />}
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
            {aboutLayer(layer)}
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
            void session.apply({ do: "layer.set", id: layer.id, visible: !layer.visible });
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

function ContourWidth({
  session,
  contour,
}: {
  session: Session;
  contour: NonNullable<Layer["contour"]>;
}) {
  const [sliding, setSliding] = useState<number | null>(null);
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined);
  const slide = (width: number): void => {
    setSliding(width);
    clearTimeout(pause.current);
    pause.current = setTimeout(() => {
      void session.setLayers({ contour: { ...contour, width } }).then(() => setSliding(null));
    }, SLIDE_PAUSE);
  };
  return (
    <input
      id="contour-width"
      type="range"
      className="swell"
      min={1}
      max={MOST_CONTOUR}
      value={sliding ?? contour.width}
      aria-label="Width of the contour"
      onChange={(event) => slide(Number(event.target.value))}
    />
  );
}

/** A fill's colour, an outline's width and colour: what a layer of its kind has besides. */
function OwnSettings({ session, layer }: { session: Session; layer: Layer }) {
  const { contour, paint, kind, tone } = layer;
  const setPaint = (next: NonNullable<Layer["paint"]>): void =>
    void session.setLayers({ paint: next });
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
          onKeep={(stops) => {
            setPaint({ ...paint, stops });
            tryPaint(null);
          }}
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
      {contour && (
        <div className="line">
          <label htmlFor="contour-width">Contour</label>
          <ContourWidth session={session} contour={contour} />
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

function LayerSettings({ session, layer }: { session: Session; layer: Layer | undefined }) {
  const [sliding, setSliding] = useState<number | null>(null);
  const paintOn = useTable((state) => state.paintOn);
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
        {toggle(
          "Mask: Paint holds back, Lift lets through",
          layer.mask !== null,
          <VenetianMask size={16} />,
          () =>
            layer.mask
              ? useTable.setState({ paintOn: paintOn === "mask" ? "colour" : "mask" })
              : session.addMask(),
        )}
        {toggle("Duplicate layers", false, <CopyPlus size={16} />, () => session.duplicateLayers())}
        {toggle("Remove layers", false, <Trash2 size={16} />, () => session.removeLayers())}
        <LayerMenu session={session} layer={layer} />
      </div>
      <OwnSettings session={session} layer={layer} />
      {paintOn === "mask" && (
        <div className="on-mask" role="status">
          Painting on the mask
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => useTable.setState({ paintOn: "colour" })}
          >
            Back to paint
          </button>
        </div>
      )}
    </div>
  );
}

/** A row is pressed: chosen alone, with what lies between (Shift), or with the others (Ctrl). */
function chooseRow(
  session: Session,
  ids: readonly string[],
  event: Parameters<RowProps["choose"]>[0],
  id: string,
): void {
  const { selected } = useTable.getState();
  if (event.shiftKey && selected[0]) {
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
}

export function Layers({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const selected = useTable((state) => state.selected);
  const set = useTable((state) => state.set);
  const folded = useTable((state) => state.folded);
  const [looked, setLooked] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const known = picture?.layers;
  const rows = useMemo(() => rowsOf(known ?? [], folded, looked ?? ""), [known, folded, looked]);
  const ids = useMemo(() => rows.map(({ layer }) => layer.id), [rows]);
  // Rows are many and seldom change: what they are given stays the same.
  const listed = useRef(ids);
  useEffect(() => {
    listed.current = ids;
  }, [ids]);
  const choose: RowProps["choose"] = useCallback(
    (event, id) => chooseRow(session, listed.current, event, id),
    [session],
  );
  if (!picture) return null;

  const dropped = ({ active, over, delta }: DragEndEvent): void => {
    if (!over) return;
    const moved = selected.includes(String(active.id)) ? selected : [String(active.id)];
    const to = landing(rows, String(active.id), String(over.id), delta.x < -OUTWARD);
    if (to && !moved.includes(to.group ?? "")) void session.moveLayers(moved, to);
  };

  return (
    <aside className="layers-panel" aria-label="Layers">
      <header>
        <h2>Layers</h2>
        <button
          type="button"
          className="icon-button"
          aria-label="Find a layer"
          title="Find a layer"
          aria-pressed={looked !== null}
          onClick={() => setLooked(looked === null ? "" : null)}
        >
          <Search size={16} />
        </button>
        <AddLayerMenu session={session} />
      </header>
      {looked !== null && (
        <input
          className="form-control form-control-sm find-layer"
          aria-label="Name of the layer"
          placeholder="Name of the layer"
          autoFocus
          value={looked}
          onChange={(event) => setLooked(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && setLooked(null)}
        />
      )}
      <LayerSettings
        session={session}
        layer={picture.layers.find(({ id }) => id === selected[0])}
      />
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <div className="layer-list">
            <div role="grid" aria-multiselectable="true" aria-label="Layers, topmost first">
              {rows.map(({ layer, depth, hangs }) => (
                <LayerRow
                  key={layer.id}
                  session={session}
                  layer={layer}
                  depth={depth}
                  hangs={hangs}
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
