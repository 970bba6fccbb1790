"use client";

import { useEffect, useRef } from "react";
import { type Eyes } from "../../../worker/crit";
import { toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { later } from "../../later/later";
import { useCrit } from "./crit-store";
import { WipeOverlay } from "./WipeOverlay";

const Charts = later(
  "The charts",
  () => import("./Charts").then(({ Charts }) => Charts),
  () => useCrit.setState({ charts: null }),
);

/** A map over the picture: the more it pulls, the more of the picture is left clear. */
function Pull({ session, eyes }: { session: Session; eyes: Eyes }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useTable((state) => state.view);
  const picture = useTable((state) => state.picture);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    const image = context.createImageData(eyes.width, eyes.height);
    eyes.pull.forEach((v, i) => {
      image.data[i * 4] = image.data[i * 4 + 1] = image.data[i * 4 + 2] = 20;
      image.data[i * 4 + 3] = Math.round(225 * (1 - Math.min(1, v * 1.6)));
    });
    context.putImageData(image, 0, 0);
  }, [eyes]);
  if (!picture) return null;
  const ratio = window.devicePixelRatio;
  const [a, b, c, d, e, f] = viewMatrix(view, session.screen);
  const [sx, sy] = [picture.width / eyes.width, picture.height / eyes.height];
  const matrix = [a * sx, b * sx, c * sy, d * sy, e, f].map((v) => v / ratio).join(",");
  return (
    <canvas
      ref={canvas}
      className="region-look smooth"
      data-testid="eye-pull"
      aria-hidden="true"
      width={eyes.width}
      height={eyes.height}
      style={{ transform: `matrix(${matrix})` }}
    />
  );
}

/** Smallest ring around a hole, CSS px. */
const LEAST_RING = 9;

/** What the checks show over the picture. */
export function CritOverlay({ session }: { session: Session }) {
  const { charts, eyes, holes, wipe } = useCrit();
  const view = useTable((state) => state.view);
  const ratio = typeof window === "undefined" ? 1 : window.devicePixelRatio;
  const matrix = viewMatrix(view, session.screen);
  return (
    <>
      {eyes && <Pull session={session} eyes={eyes} />}
      {holes && (
        <svg className="box-overlay" aria-hidden="true">
          {holes.map(({ left, top, right, bottom }) => {
            const [x, y] = toScreen(matrix, (left + right) / 2, (top + bottom) / 2);
            const across = (Math.hypot(right - left, bottom - top) / 2) * (view.zoom / ratio) + 4;
            return (
              <g key={`${left} ${top}`} className="escape" data-testid="hole">
                <circle
                  className="ring"
                  cx={x / ratio}
                  cy={y / ratio}
                  r={Math.max(LEAST_RING, across)}
                />
              </g>
            );
          })}
        </svg>
      )}
      {wipe && <WipeOverlay session={session} wipe={wipe} />}
      {charts && <Charts session={session} charts={charts} />}
    </>
  );
}
