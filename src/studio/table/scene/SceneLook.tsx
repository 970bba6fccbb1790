"use client";

import { useEffect, useRef } from "react";
import { type Scene } from "../../../engine/scene/scene";
import { toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { useScene } from "./scene-store";

/** A look that moves takes at most so long, ms; else it is drawn at half the size, at most so far. */
const FRAME = 33;
const MOST_COARSE = 4;

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
  const coarser = useRef(1);
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
      // A look that moves keeps up, coarser if need be.
      const by = fine ? 1 : coarser.current;
      const size = { width: Math.ceil(screen.width / by), height: Math.ceil(screen.height / by) };
      const [a, b, c, d, e, f] = viewMatrix(view, screen);
      const onto = [a / by, b / by, c / by, d / by, e / by, f / by] as const;
      const start = performance.now();
      const seen = await session.link.api.lookAtScene(scene, { ...size, onto, fine });
      const ms = performance.now() - start;
      if (!fine && ms > FRAME) coarser.current = Math.min(MOST_COARSE, by * 2);
      if (!fine && ms < FRAME / 6) coarser.current = Math.max(1, by / 2);
      const node = canvas.current;
      if (over || !node || !seen.ok) return;
      if (node.width !== size.width || node.height !== size.height) Object.assign(node, size);
      node.style.width = `${(size.width * by) / window.devicePixelRatio}px`;
      node.style.height = `${(size.height * by) / window.devicePixelRatio}px`;
      const image = new ImageData(seen.value, size.width, size.height);
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
