"use client";

import { shapeOfBox, type Shape } from "../../../engine/panels/shape";
import { toScreen, viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { bledNow } from "./panel-hand";
import { liveArea, panelsOn, usePanels } from "./panels-store";

/** The corner of a shape that is farthest up and to the left. */
const upperLeft = (corners: readonly number[][]): [x: number, y: number] => {
  let [x, y] = [Infinity, Infinity];
  for (const [cx = 0, cy = 0] of corners) if (cx + cy < x + y) [x, y] = [cx, cy];
  return [x, y];
};

/** Panels while they are cut: their numbers, what the hand is about to do, and the side under it. */
export function PanelsOverlay({ session }: { session: Session }) {
  const isOurs = useTable(({ tool }) => tool === "panels");
  const picture = useTable((state) => state.picture);
  const view = useTable((state) => state.view);
  const { tried, near, act, margin } = usePanels();
  if (!isOurs || !picture) return null;
  const panels = panelsOn(picture);
  const matrix = viewMatrix(view, session.screen);
  const ratio = window.devicePixelRatio;
  const at = (x: number, y: number): number[] => toScreen(matrix, x, y).map((v) => v / ratio);
  const points = (shape: Shape): string => shape.map(([x, y]) => at(x, y).join(" ")).join(" ");
  const own = near && panels[near.of]?.corners;
  const bled = near && act === "bleed" ? bledNow(near) : null;
  return (
    <svg className="panels-overlay" aria-hidden="true" data-testid="panels-overlay">
      {panels.length === 0 && (
        <polygon className="live" points={points(shapeOfBox(liveArea(picture, margin)))} />
      )}
      {panels.map(({ group, corners }, i) => {
        const [x, y] = upperLeft(corners.map(([cx, cy]) => at(cx, cy)));
        return (
          <g key={group} className="number" transform={`translate(${x + 16} ${y + 16})`}>
            <circle r="9" />
            <text dy="4">{i + 1}</text>
          </g>
        );
      })}
      {tried.map((shape, i) => (
        <polygon key={i} className="tried" points={points(shape)} />
      ))}
      {bled && <polygon className="tried" points={points(bled)} />}
      {near && own && (
        <polyline
          className="side"
          points={points([0, 1].map((k) => own[(near.side + k) % own.length] ?? [0, 0]))}
        />
      )}
    </svg>
  );
}
