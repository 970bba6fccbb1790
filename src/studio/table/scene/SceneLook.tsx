"use client";

import { useEffect, useRef } from "react";
import { type Scene } from "../../../engine/scene/scene";
import { toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { useScene } from "./scene-store";

/**
 * The scene as it is seen, painted by the engine over the picture: at once and roughly while something moves, then with
 * its shadows.
 */
export function SceneLook({
  session,
  scene,
  width,
  height,
}: {
  session: Session;
  scene: Scene;
  /** Of the sheet, px. */
  width: number;
  height: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useTable((state) => state.view);
  const isMoving = useScene((state) => state.draft !== null);
  const through = useScene((state) => state.through);
  const busy = useRef(false);
  const wanted = useRef<(() => void) | null>(null);

  // What lies beside the sheet is not painted.
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const sheet = (
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ] as const
  ).map(([u, v]) => {
    const [x, y] = toScreen(matrix, u * width, v * height);
    return `${x / ratio}px ${y / ratio}px`;
  });

  useEffect(() => {
    let over = false;
    const look = async (fine: boolean): Promise<void> => {
      const { screen } = session;
      const choice = { ...screen, onto: viewMatrix(view, screen), fine };
      const seen = await session.link.api.lookAtScene(scene, choice);
      const node = canvas.current;
      if (over || !node || !seen.ok) return;
      if (node.width !== screen.width || node.height !== screen.height) Object.assign(node, screen);
      const image = new ImageData(seen.value, screen.width, screen.height);
      node.getContext("2d")?.putImageData(image, 0, 0);
      node.dataset.fine = String(fine);
    };
    // One look at a time; of those that wait only the newest is taken.
    const run = async (): Promise<void> => {
      busy.current = true;
      await look(false);
      if (!over && !isMoving) await look(true);
      busy.current = false;
      const next = wanted.current;
      wanted.current = null;
      next?.();
    };
    if (busy.current) wanted.current = () => void run();
    else void run();
    return () => {
      over = true;
    };
  }, [session, scene, view, isMoving]);

  return (
    <canvas
      ref={canvas}
      className="scene-look"
      style={{ opacity: 1 - through, clipPath: `polygon(${sheet.join(",")})` }}
      aria-hidden="true"
      data-testid="scene-look"
    />
  );
}
