import { type Guide, horizonOf, type Place } from "../../../engine/guides/guide";

/** What is drawn of a guide, in picture px: lines, and handles that can be taken. */
export type GuideLine = { points: Place[]; faint: boolean };
export type Handle = { at: Place; label: string; move: (to: Place) => Guide };

const FAR = 60_000;
/** Lines that fan out from a vanishing point. */
const FAN = 24;
const PARALLELS = 9;
const ELLIPSE_POINTS = 72;

const ray = (at: Place, angle: number, length: number): Place => ({
  x: at.x + Math.cos(angle) * length,
  y: at.y + Math.sin(angle) * length,
});

const through = (at: Place, angle: number): Place[] => [ray(at, angle, -FAR), ray(at, angle, FAR)];

/** The lines of a guide. @param spread distance between parallel lines, picture px */
export function linesOf(guide: Guide, spread: number): GuideLine[] {
  switch (guide.kind) {
    case "vanishing points": {
      const fans = guide.points.flatMap((point) =>
        Array.from({ length: FAN }, (_, i): GuideLine => ({
          faint: true,
          points: [point, ray(point, (i / FAN) * 2 * Math.PI, FAR)],
        })),
      );
      const [first] = guide.points;
      const horizon: GuideLine[] = first
        ? [{ faint: false, points: through(first, horizonOf(guide.points)) }]
        : [];
      return [...fans, ...horizon];
    }
    case "straightedge":
      return [
        {
          faint: false,
          points: through(
            guide.from,
            Math.atan2(guide.to.y - guide.from.y, guide.to.x - guide.from.x),
          ),
        },
      ];
    case "parallel":
      return Array.from({ length: PARALLELS }, (_, i): GuideLine => {
        const off = (i - (PARALLELS - 1) / 2) * spread;
        return {
          faint: off !== 0,
          points: through(ray(guide.at, guide.angle + Math.PI / 2, off), guide.angle),
        };
      });
    case "ellipse":
      return [
        {
          faint: false,
          points: Array.from({ length: ELLIPSE_POINTS + 1 }, (_, i) => {
            const t = (i / ELLIPSE_POINTS) * 2 * Math.PI;
            const x = Math.cos(t) * guide.across;
            const y = Math.sin(t) * guide.down;
            const cos = Math.cos(guide.angle);
            const sin = Math.sin(guide.angle);
            return { x: guide.at.x + x * cos - y * sin, y: guide.at.y + x * sin + y * cos };
          }),
        },
      ];
  }
}

/** The handles of a guide, and what it becomes when one is moved. */
export function handlesOf(guide: Guide, spread: number): Handle[] {
  switch (guide.kind) {
    case "vanishing points":
      return guide.points.map((at, i) => ({
        at,
        label: `Vanishing point ${i + 1}`,
        move: (to) => ({ ...guide, points: guide.points.map((p, j) => (i === j ? to : p)) }),
      }));
    case "straightedge":
      return [
        { at: guide.from, label: "Straightedge, one end", move: (from) => ({ ...guide, from }) },
        { at: guide.to, label: "Straightedge, other end", move: (to) => ({ ...guide, to }) },
      ];
    case "parallel":
      return [
        { at: guide.at, label: "Parallel lines, place", move: (at) => ({ ...guide, at }) },
        {
          at: ray(guide.at, guide.angle, spread * 2),
          label: "Parallel lines, direction",
          move: (to) => ({
            ...guide,
            angle: Math.atan2(to.y - guide.at.y, to.x - guide.at.x),
          }),
        },
      ];
    case "ellipse":
      return [
        { at: guide.at, label: "Ellipse, middle", move: (at) => ({ ...guide, at }) },
        {
          at: ray(guide.at, guide.angle, guide.across),
          label: "Ellipse, long axis",
          move: (to) => ({
            ...guide,
            angle: Math.atan2(to.y - guide.at.y, to.x - guide.at.x),
            across: Math.max(1, Math.hypot(to.x - guide.at.x, to.y - guide.at.y)),
          }),
        },
        {
          at: ray(guide.at, guide.angle + Math.PI / 2, guide.down),
          label: "Ellipse, short axis",
          move: (to) => ({
            ...guide,
            down: Math.max(1, Math.hypot(to.x - guide.at.x, to.y - guide.at.y)),
          }),
        },
      ];
  }
}

export type GuideKind =
  "one point" | "two points" | "three points" | Exclude<Guide["kind"], "vanishing points">;

/** A new guide where it can be seen and taken. */
export function newGuide(kind: GuideKind, width: number, height: number): Guide {
  const at = (x: number, y: number): Place => ({
    x: Math.round(width * x),
    y: Math.round(height * y),
  });
  switch (kind) {
    case "one point":
      return { kind: "vanishing points", points: [at(0.5, 0.42)] };
    case "two points":
      return { kind: "vanishing points", points: [at(0.04, 0.4), at(0.96, 0.4)] };
    case "three points":
      return { kind: "vanishing points", points: [at(0.04, 0.3), at(0.96, 0.3), at(0.5, 0.97)] };
    case "straightedge":
      return { kind, from: at(0.2, 0.6), to: at(0.8, 0.4) };
    case "parallel":
      return { kind, angle: -Math.PI / 6, at: at(0.5, 0.5) };
    case "ellipse":
      return { kind, at: at(0.5, 0.5), across: width * 0.22, down: height * 0.12, angle: 0 };
  }
}
