"use client";

import { useEffect, useRef, useState } from "react";
import { type RegionLook } from "../../../worker/region-look";
import { type Matrix, toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Point, useRegion } from "./region-store";

/** The ants wait until the view rests, ms. */
const ANTS_DELAY = 70;

const still: readonly Point[] = [];

/** What is selected, as ants that walk along its edge: a mask over a moving pattern, drawn by the graphics side. */
function Ants({ session }: { session: Session }) {
  const selection = useTable((state) => state.picture?.selection ?? false);
  const view = useTable((state) => state.view);
  const stirred = useRegion((state) => state.stirred);
  const [shown, setShown] = useState<{ url: string; view: typeof view } | null>(null);
  useEffect(() => {
    if (!selection) return;
    let gone = false;
    const timer = setTimeout(() => {
      const { width, height } = session.screen;
      void session.link.api.selectionOutline(view, width, height).then((blob) => {
        if (!gone) setShown(blob && { url: URL.createObjectURL(blob), view });
      });
    }, ANTS_DELAY);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [session, selection, view, stirred]);
  useEffect(() => () => void (shown && URL.revokeObjectURL(shown.url)), [shown]);
  const path = useRegion((state) => (state.selecting === "move" ? state.path : still));
  if (!selection || !shown || shown.view !== view) return null;
  const mask = `url(${shown.url})`;
  const [from, to] = [path[0], path.at(-1)];
  const [a, b, c, d] = viewMatrix(view, session.screen);
  const dx = from && to ? to[0] - from[0] : 0;
  const dy = from && to ? to[1] - from[1] : 0;
  const ratio = window.devicePixelRatio;
  const moved = `translate(${(a * dx + c * dy) / ratio}px, ${(b * dx + d * dy) / ratio}px)`;
  return (
    <div
      className="ants"
      data-testid="ants"
      aria-hidden="true"
      style={{ maskImage: mask, WebkitMaskImage: mask, transform: moved }}
    />
  );
}

/** What would be taken where the pointer rests. */
function Look({ look, matrix, ratio }: { look: RegionLook; matrix: Matrix; ratio: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const colour = useTable((state) => state.colour);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    const image = context.createImageData(look.width, look.height);
    const value = parseInt(colour.slice(1), 16);
    for (let i = 0; i < look.data.length; i++) {
      // Stripes tell it from paint that is there already.
      const stripe = (((i % look.width) + Math.floor(i / look.width)) >> 2) & 1;
      image.data[i * 4] = value >> 16;
      image.data[i * 4 + 1] = (value >> 8) & 255;
      image.data[i * 4 + 2] = value & 255;
      image.data[i * 4 + 3] = look.data[i] ? (stripe ? 150 : 70) : 0;
    }
    context.putImageData(image, 0, 0);
  }, [look, colour]);
  const [a, b, c, d, e, f] = matrix;
  const { left, top, right, bottom } = look.box;
  const sx = (right - left) / look.width;
  const sy = (bottom - top) / look.height;
  const transform = [a * sx, b * sx, c * sy, d * sy, a * left + c * top + e, b * left + d * top + f]
    .map((v) => v / ratio)
    .join(",");
  return (
    <canvas
      ref={canvas}
      className="region-look"
      data-testid="region-look"
      aria-hidden="true"
      width={look.width}
      height={look.height}
      style={{ transform: `matrix(${transform})` }}
    />
  );
}

/** What the tools for regions show over the picture. */
export function RegionOverlay({ session }: { session: Session }) {
  const view = useTable((state) => state.view);
  const tool = useTable((state) => state.tool);
  const { path, look, selecting, what } = useRegion();
  const ratio = typeof window === "undefined" ? 1 : window.devicePixelRatio;
  const matrix = viewMatrix(view, session.screen);
  const onScreen = ([x, y]: Point): string =>
    toScreen(matrix, x, y)
      .map((v) => v / ratio)
      .join(",");
  const isTrail = tool === "fill" && what === "tap";
  const boxed = selecting === "box" || selecting === "ellipse";
  const outline = tool === "select" && boxed ? null : selecting === "move" ? still : path;
  const first = path[0];
  const last = path.at(-1);
  const corner = first && last && !outline ? [first, last] : null;
  return (
    <>
      <Ants session={session} />
      {look && <Look look={look} matrix={matrix} ratio={ratio} />}
      {(path.length > 0 || look?.leak) && (
        <svg className="box-overlay" aria-hidden="true">
          {outline && outline.length > 0 && (
            <>
              <polyline points={outline.map(onScreen).join(" ")} />
              <polyline className="dashes" points={outline.map(onScreen).join(" ")} />
              {!isTrail && selecting === "polygon" && tool === "select" && first && (
                <circle
                  r="4"
                  cx={onScreen(first).split(",")[0]}
                  cy={onScreen(first).split(",")[1]}
                />
              )}
            </>
          )}
          {corner && (
            <Corner
              from={corner[0] as Point}
              to={corner[1] as Point}
              onScreen={onScreen}
              round={selecting === "ellipse"}
            />
          )}
          {look?.leak?.places.map(({ x, y }) => {
            const [cx, cy] = onScreen([x, y]).split(",");
            return (
              <g key={`${x} ${y}`} className="escape" data-testid="escape">
                <circle cx={cx} cy={cy} r="5" />
                <circle className="pulse" cx={cx} cy={cy} r="9" />
              </g>
            );
          })}
        </svg>
      )}
    </>
  );
}

function Corner({
  from,
  to,
  onScreen,
  round,
}: {
  from: Point;
  to: Point;
  onScreen: (point: Point) => string;
  round: boolean;
}) {
  const sides = round ? 48 : 4;
  const points = Array.from({ length: sides }, (_, i) => {
    const turn = ((i + (round ? 0 : 0.5)) / sides) * 2 * Math.PI;
    const reach = round ? 1 : Math.SQRT2;
    const u = (1 + Math.cos(turn) * reach) / 2;
    const v = (1 + Math.sin(turn) * reach) / 2;
    return onScreen([from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * v]);
  }).join(" ");
  return (
    <>
      <polygon points={points} />
      <polygon className="dashes" points={points} />
    </>
  );
}
