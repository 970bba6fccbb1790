"use client";

import { useEffect, useRef } from "react";
import { madeSets } from "../../../engine/strew/sets";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { collectPicture, openStrew, useStrew } from "./strew-store";

/** The kit in whose place the sets to strew lie. */
export const STREW_KIT = "Strew";

/** A set's pictures, with its name under them. */
function SetCard({ session, set, name }: { session: Session; set: number; name: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const isChosen = useTable((state) => state.tool === "strew" && state.strewSet === set);
  const isOwn = madeSets[set] === undefined;
  const renewed = useStrew((state) => (isOwn ? state.renewed : 0));
  useEffect(() => {
    let gone = false;
    void session.link.api.setCard(set).then((card) => {
      if (gone || !card.ok) return;
      const { data, width, height } = card.value;
      canvas.current?.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
    });
    return () => {
      gone = true;
    };
  }, [session, set, renewed]);
  return (
    <button
      type="button"
      className="brush-card"
      role="radio"
      aria-checked={isChosen}
      onClick={() => void openStrew(session, set)}
    >
      <canvas ref={canvas} width={188} height={96} aria-hidden="true" />
      <span>{name}</span>
    </button>
  );
}

/** Cards of all sets that can be strewn, and the way to a set of one's own. */
export function SetCards({ session }: { session: Session }) {
  const own = useTable((state) => state.picture?.strewn);
  const selection = useTable((state) => state.picture?.selection ?? false);
  return (
    <>
      {madeSets.map(({ name }, set) => (
        <SetCard key={set} session={session} set={set} name={name} />
      ))}
      {own?.map(({ number, name }) => (
        <SetCard key={number} session={session} set={number} name={name} />
      ))}
      <button
        type="button"
        className="btn btn-sm collect"
        disabled={!selection}
        title={
          selection
            ? "The working layer's paint in the selection becomes a picture to strew"
            : "Select some paint first: it becomes a picture to strew"
        }
        onClick={() => void collectPicture(session)}
      >
        Collect from
        <br />
        the selection
      </button>
    </>
  );
}
