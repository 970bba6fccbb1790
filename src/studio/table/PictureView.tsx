"use client";

import * as Comlink from "comlink";
import { useEffect, useRef } from "react";
import { brushById } from "../brushes/brush-box";
import { leans as leansOver } from "../../engine/stroke/brush";
import { rooms } from "../rooms";
import { viewMatrix } from "../../worker/view";
import { later } from "../later/later";
import { FavouriteShelf } from "../brushes/FavouriteShelf";
import { BoxOverlay } from "./BoxOverlay";
import { DropZones } from "./DropZones";
import { GuidesOverlay } from "./guides/GuidesOverlay";
import { Hand } from "./hand";
import { endAdjusting, useAdjust } from "./adjust/adjust-store";
import { CritOverlay } from "./crit/CritOverlay";
import { GradientHandles } from "./gradient/GradientHandles";
import { HalftoneHandles } from "./halftone/HalftoneHandles";
import { HalftonePanel } from "./halftone/HalftonePanel";
import { LinesOverlay } from "./lines/LinesOverlay";
import { PanelsOverlay } from "./panels/PanelsOverlay";
import { LongWork } from "./LongWork";
import { listenToKeys } from "./keys/listen";
import { Options } from "./Options";
import { Pinboard } from "./pins/Pinboard";
import { useRegion } from "./region/region-store";
import { RegionOverlay } from "./region/RegionOverlay";
import { type Session } from "./session";
import { SlabPanel } from "./slab/SlabPanel";
import { StencilsOverlay } from "./stencils/StencilsOverlay";
import { FramesOverlay } from "./studies/FramesOverlay";
import { SheetOverlay } from "./sheet/SheetOverlay";
import { SheetPanel } from "./sheet/SheetPanel";
import { useSheet } from "./sheet/sheet-store";
import { StrewOverlay } from "./strew/StrewOverlay";
import { StrewPanel } from "./strew/StrewPanel";
import { useStrew } from "./strew/strew-store";
import { closeScene, useScene } from "./scene/scene-store";
import { SunOverlay } from "./sun/SunOverlay";
import { amountsNow, useTable } from "./table-store";
import { TransformOverlay } from "./transform/TransformOverlay";

const AdjustPanel = later(
  "The adjustments",
  () => import("./adjust/AdjustPanel").then((all) => all.AdjustPanel),
  ({ session }) => void endAdjusting(session, false),
);
const SceneOverlay = later(
  "The scene",
  () => import("./scene/SceneOverlay").then((all) => all.SceneOverlay),
  closeScene,
);
const ScenePanel = later(
  "The panel of the scene",
  () => import("./scene/ScenePanel").then((all) => all.ScenePanel),
  closeScene,
);

/** Below this size on the screen a ring would hide the mark: a cross stands for it, CSS px. */
const SMALLEST_RING = 5;

/** A card in the other hand as it is seen, CSS px. */
const CARD = { deep: 130, long: 300 };
/** Where the pen came down last, CSS px of the window: a card stays there while it draws. */
let cardAt = { x: 0, y: 0 };

function placeCard(svg: SVGSVGElement, { clientX: x, clientY: y, buttons }: PointerEvent): void {
  const card = svg.querySelector<SVGRectElement>(".card-held");
  const { card: turn, tool } = useTable.getState();
  if (!card) return;
  card.style.display = turn === null || tool !== "brush" ? "none" : "";
  if (buttons === 0) cardAt = { x, y };
  card.setAttribute("transform", `translate(${cardAt.x - x} ${cardAt.y - y}) rotate(${turn ?? 0})`);
}

/** The cursor: the mark's true outline, leaning with the pen. */
function placeCursor(svg: SVGSVGElement, event: PointerEvent | null, element: HTMLElement): void {
  if (!event || event.pointerType === "touch") {
    svg.style.display = "none";
    return;
  }
  const state = useTable.getState();
  const box = element.getBoundingClientRect();
  const picks = state.tool === "pick";
  const size = picks ? 2 * state.pickRadius + 1 : amountsNow(state).size;
  const brush = brushById(state.brush);
  const across = (size * state.view.zoom) / window.devicePixelRatio;
  const lean =
    event.pointerType === "pen" ? 1 - (event.altitudeAngle ?? Math.PI / 2) / (Math.PI / 2) : 0;
  const leans =
    !picks && state.tool !== "strew" && brush !== undefined && leansOver(brush) && lean > 0.1;
  const long = leans ? across * (1 + lean * 5) : across;
  const turn = leans ? ((event.azimuthAngle ?? 0) * 180) / Math.PI : 0;
  svg.style.display = "block";
  svg.style.transform = `translate(${event.clientX - box.left}px, ${event.clientY - box.top}px)`;
  const isBrush =
    picks ||
    state.tool === "brush" ||
    (state.tool === "strew" && useStrew.getState().act !== "choose") ||
    (state.tool === "select" && useRegion.getState().selecting === "brush");
  const isCross = !isBrush || across < SMALLEST_RING;
  svg.dataset.shape = isCross ? "cross" : "ring";
  for (const ellipse of svg.querySelectorAll("ellipse")) {
    ellipse.setAttribute("rx", String(long / 2));
    ellipse.setAttribute("ry", String(across / 2));
    ellipse.setAttribute("transform", `rotate(${turn})`);
    ellipse.style.display = isCross ? "none" : "";
  }
  for (const cross of svg.querySelectorAll("path")) cross.style.display = isCross ? "" : "none";
  placeCard(svg, event);
}

/** The picture itself, drawn by the engine's thread on a canvas of its own. */
export function PictureView({ session }: { session: Session }) {
  const element = useRef<HTMLDivElement>(null);
  const cursor = useRef<SVGSVGElement>(null);
  const bare = useTable((state) => state.bare);
  const hand = useTable((state) => state.tool === "hand");
  const view = useTable((state) => state.view);
  const squint = useTable((state) => state.squint);
  const values = useTable((state) => state.values);
  const shine = useTable((state) => state.shine);

  useEffect(() => {
    const node = element.current;
    const svg = cursor.current;
    if (!node || !svg) return;
    // A canvas can be handed over once only, so it is made here and not by React.
    const canvas = document.createElement("canvas");
    canvas.className = "sheet";
    canvas.setAttribute("aria-hidden", "true");
    node.prepend(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const { api } = session.link;
    void api.attach(transferred(offscreen), rooms[useTable.getState().room].surround);
    const observer = new ResizeObserver(() => {
      const ratio = window.devicePixelRatio;
      session.resize(Math.round(node.clientWidth * ratio), Math.round(node.clientHeight * ratio));
      session.refit();
    });
    observer.observe(node);
    const pen = new Hand(session, node, (event) => placeCursor(svg, event, node));
    const stopKeys = listenToKeys(session, pen);
    return () => {
      observer.disconnect();
      pen.stop();
      stopKeys();
      canvas.remove();
    };
  }, [session]);

  useEffect(() => {
    void session.link.api.setLooking({ values, shine });
  }, [session, values, shine]);

  // Pins would lie over the frame's handles.
  const isCutting = useSheet((state) => state.way === "cut");
  const inScene = useScene((state) => state.open);
  const isAdjusting = useAdjust(({ adjustment }) => adjustment !== null);
  return (
    <main
      ref={element as React.RefObject<HTMLDivElement>}
      className={`view${hand ? " panning" : ""}${squint ? " squint" : ""}`}
      tabIndex={0}
      aria-label="Picture: draw with pen, mouse or finger"
      data-testid="view"
      data-matrix={viewMatrix(view, session.screen).join(" ")}
    >
      <svg
        ref={cursor}
        className="cursor"
        width="1"
        height="1"
        style={{ display: "none" }}
        aria-hidden="true"
      >
        <rect
          className="card-held"
          x={-CARD.deep}
          y={-CARD.long / 2}
          width={CARD.deep}
          height={CARD.long}
        />
        <ellipse fill="none" stroke="#fff" strokeWidth="2.2" opacity="0.75" />
        <ellipse fill="none" stroke="#111" strokeWidth="1" />
        <path d="M-7 0H-2M2 0H7M0-7V-2M0 2V7" stroke="#fff" strokeWidth="2.6" />
        <path d="M-7 0H-2M2 0H7M0-7V-2M0 2V7" stroke="#111" strokeWidth="1.1" />
      </svg>
      {inScene && <SceneOverlay session={session} />}
      <FramesOverlay session={session} />
      <GuidesOverlay session={session} />
      <SunOverlay session={session} />
      <BoxOverlay session={session} />
      <RegionOverlay session={session} />
      <LinesOverlay session={session} />
      <PanelsOverlay session={session} />
      <StrewOverlay session={session} />
      <StencilsOverlay session={session} />
      <FavouriteShelf session={session} />
      <TransformOverlay session={session} />
      {!bare && !isCutting && !inScene && <Pinboard session={session} />}
      <CritOverlay session={session} />
      <GradientHandles session={session} />
      <SheetOverlay session={session} />
      <SheetPanel session={session} />
      {inScene && <ScenePanel session={session} />}
      <StrewPanel session={session} />
      <HalftoneHandles session={session} />
      <HalftonePanel session={session} />
      {isAdjusting && <AdjustPanel session={session} />}
      {!bare && <SlabPanel session={session} />}
      <LongWork session={session} />
      {!bare && <Options session={session} />}
      <DropZones session={session} />
    </main>
  );
}

function transferred(canvas: OffscreenCanvas): OffscreenCanvas {
  return Comlink.transfer(canvas, [canvas]);
}
