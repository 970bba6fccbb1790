"use client";

import { useEffect, useState } from "react";
import { type LineLook } from "../../../worker/lines";
import { viewMatrix } from "../../../worker/view";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Turn, turnTransform } from "../turn";
import { TurnHandle } from "../TurnHandle";
import { middleOf, turnedLines } from "./chosen";
import { chooseNoLines, lookAgain, type Point, useLines } from "./lines-store";

/** A curve as an SVG path. */
function pathOf({ points }: LineLook): string {
  const parts = [`M${points[0]} ${points[1]}`];
  for (let i = 2; i + 5 < points.length + 1; i += 6)
    parts.push(`C${points.slice(i, i + 6).join(" ")}`);
  return parts.join("");
}

const wayPath = (way: readonly Point[]): string =>
  `M${way.map((point) => point.join(" ")).join("L")}`;

/** The middles of the lines that are chosen or under the hand, and the hand's way. */
export function LinesOverlay({ session }: { session: Session }) {
  const tool = useTable((state) => state.tool);
  const working = useTable((state) => state.selected[0]);
  const view = useTable((state) => state.view);
  const fresh = useTable((state) => (working ? state.freshness[working] : 0));
  const { looks, hovered, way, act, touched, radius } = useLines();
  const [turn, setTurn] = useState<Turn | null>(null);
  useEffect(() => chooseNoLines(), [working]);
  useEffect(() => {
    if (tool === "lines") void lookAgain(session);
  }, [session, tool, fresh]);
  if (tool !== "lines") return null;
  const ratio = window.devicePixelRatio;
  const [a, b, c, d, e, f] = viewMatrix(view, session.screen).map((v) => v / ratio);
  const ends = hovered && (act === "join" || act === "pull") && !hovered.closed ? hovered : null;
  const mark = (5 * ratio) / view.zoom;
  const shows = way.length > 1 && ["redraw", "choose", "join", "repeat"].includes(act);
  const sweep = way.length > 0 && (act === "weight" || act === "erase");
  const across = ((act === "erase" ? radius : 2 * radius) * ratio) / view.zoom;
  const middle = middleOf(looks);
  const turnedBy = turn ? turnTransform(middle.at, turn) : undefined;
  const isChosen = act === "choose" && looks.length > 0;
  return (
    <>
      <svg className="lines-overlay" aria-hidden="true" data-testid="lines-overlay">
        <g transform={`matrix(${[a, b, c, d, e, f].join(" ")})`}>
          {looks.map((look) => (
            <path key={look.id} className="chosen" transform={turnedBy} d={pathOf(look)} />
          ))}
          {touched.map((look) => (
            <path key={look.id} className="chosen" d={pathOf(look)} />
          ))}
          {hovered && <path className="hovered" d={pathOf(hovered)} />}
          {ends && (
            <>
              <circle className="end" cx={ends.points[0]} cy={ends.points[1]} r={mark} />
              <circle className="end" cx={ends.points.at(-2)} cy={ends.points.at(-1)} r={mark} />
            </>
          )}
          {sweep && <path className="sweep" d={wayPath(way)} style={{ strokeWidth: across }} />}
          {shows && <path className="way" d={wayPath(way)} />}
        </g>
      </svg>
      {isChosen && (
        <TurnHandle
          session={session}
          what="the chosen lines"
          {...middle}
          commandFor={turnedLines}
          turns={setTurn}
          done={() => lookAgain(session)}
        />
      )}
    </>
  );
}
