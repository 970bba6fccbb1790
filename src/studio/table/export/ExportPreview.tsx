"use client";

import { type PointerEvent, useEffect, useRef, useState } from "react";
import { type ExportChoice, type ExportedFile } from "../../../worker/protocol";
import { sizeInWords } from "../../files/lengths";
import { type Session } from "../session";
import { lookOf } from "./export-form";

/** A file is made to be looked at once the choice has rested so long, ms. */
const REST = 350;
/** Pictures of more px are looked at when they are asked for: their file takes its time. */
const AT_ONCE = 6_000_000;
/** CSS px of the piece at 1:1, and most of the whole. */
const PIECE = { width: 514, height: 230 };
const WHOLE = { width: 180, height: 150 };

type Made = { choice: string; file: ExportedFile; bitmap: ImageBitmap | null };

/** Whether what is asked for is the picture at a size at which its file is made in a moment. */
const isQuick = (choice: ExportChoice, pixels: number): boolean =>
  choice.format !== "ora" && choice.format !== "log" && pixels <= AT_ONCE;

/**
 * The very pixels of the file that would be written: a piece at 1:1, to be pulled about, and the whole; and its bytes.
 * `made` is given the file, which is what is written then.
 */
export function ExportPreview({
  session,
  choice,
  pixels,
  made,
}: {
  session: Session;
  choice: ExportChoice;
  pixels: number;
  made: (choice: string, file: ExportedFile) => void;
}) {
  const [shown, setShown] = useState<Made | null>(null);
  const [asked, setAsked] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const name = JSON.stringify(choice);
  const isAtOnce = isQuick(choice, pixels) || asked;
  useEffect(() => {
    if (!isAtOnce) return;
    let isOld = false;
    const timer = setTimeout(() => {
      void (async () => {
        const answer = await session.link.api.exportFile(choice);
        if (isOld) return;
        setFailed(answer.ok ? null : answer.why);
        if (!answer.ok) return;
        const look = lookOf(choice);
        const seen =
          look === choice ? answer : look ? await session.link.api.exportFile(look) : null;
        const bitmap = seen?.ok
          ? await createImageBitmap(new Blob([seen.value.bytes], { type: seen.value.type }))
          : null;
        if (isOld) return bitmap?.close();
        made(name, answer.value);
        setShown({ choice: name, file: answer.value, bitmap });
      })();
    }, REST);
    return () => {
      isOld = true;
      clearTimeout(timer);
    };
    // The name says all that the choice does.
  }, [name, isAtOnce, session]); // eslint-disable-line react-hooks/exhaustive-deps
  const isCurrent = shown?.choice === name;
  return (
    <section className="export-preview" aria-label="What will be written">
      {shown?.bitmap ? (
        <Pixels bitmap={shown.bitmap} isCurrent={isCurrent} />
      ) : (
        <div className="nothing quiet">
          {isAtOnce ? "Making the file…" : "Not made yet, to save time."}
        </div>
      )}
      <p className="mb-0" aria-live="polite">
        {failed ? (
          failed
        ) : isCurrent ? (
          <>
            <b>{sizeInWords(shown.file.bytes.length)}</b>
            {shown.bitmap && ` · ${shown.bitmap.width} × ${shown.bitmap.height} px`}
          </>
        ) : isAtOnce ? (
          "Weighing it…"
        ) : (
          <button type="button" className="btn btn-sm" onClick={() => setAsked(true)}>
            Look at the pixels
          </button>
        )}
      </p>
    </section>
  );
}

/** A piece of a bitmap at 1:1 and the whole of it with the piece marked; pulled or pressed, the piece moves. */
function Pixels({ bitmap, isCurrent }: { bitmap: ImageBitmap; isCurrent: boolean }) {
  const piece = useRef<HTMLCanvasElement>(null);
  const whole = useRef<HTMLCanvasElement>(null);
  const [middle, setMiddle] = useState<readonly [number, number]>([0.5, 0.5]);
  const [grip, setGrip] = useState<readonly [number, number] | null>(null);
  const ratio = typeof window === "undefined" ? 1 : window.devicePixelRatio;
  const wide = Math.min(bitmap.width, Math.round(PIECE.width * ratio));
  const high = Math.min(bitmap.height, Math.round(PIECE.height * ratio));
  const fit = Math.min(WHOLE.width / bitmap.width, WHOLE.height / bitmap.height);
  const size = {
    width: Math.max(1, Math.round(bitmap.width * fit)),
    height: Math.max(1, Math.round(bitmap.height * fit)),
  };
  const left = Math.round(middle[0] * bitmap.width - wide / 2);
  const top = Math.round(middle[1] * bitmap.height - high / 2);
  useEffect(() => {
    const context = piece.current?.getContext("2d");
    context?.clearRect(0, 0, wide, high);
    context?.drawImage(bitmap, left, top, wide, high, 0, 0, wide, high);
  }, [bitmap, left, top, wide, high]);
  useEffect(() => {
    const canvas = whole.current;
    const context = canvas?.getContext("2d");
    if (!canvas || !context) return;
    context.imageSmoothingQuality = "high";
    context.clearRect(0, 0, canvas.width, canvas.height);
    context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  }, [bitmap, size.width, size.height]);
  /** The piece stays on the picture. */
  const put = (x: number, y: number): void => {
    const [w, h] = [wide / bitmap.width / 2, high / bitmap.height / 2];
    setMiddle([Math.min(1 - w, Math.max(w, x)), Math.min(1 - h, Math.max(h, y))]);
  };
  const pull = (event: PointerEvent): void => {
    if (!grip) return;
    const dx = ((event.clientX - grip[0]) * ratio) / bitmap.width;
    const dy = ((event.clientY - grip[1]) * ratio) / bitmap.height;
    put(middle[0] - dx, middle[1] - dy);
    setGrip([event.clientX, event.clientY]);
  };
  return (
    <div className={isCurrent ? "pixels" : "pixels old"}>
      <canvas
        ref={piece}
        className="piece"
        width={wide}
        height={high}
        style={{ width: wide / ratio, height: high / ratio }}
        aria-label="A piece of the file, pixel for pixel. Drag to see another"
        role="img"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setGrip([event.clientX, event.clientY]);
        }}
        onPointerMove={pull}
        onPointerUp={() => setGrip(null)}
        onPointerCancel={() => setGrip(null)}
      />
      <button
        type="button"
        className="whole"
        aria-label="The whole picture: press where the piece is to be"
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          put((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
        }}
      >
        <canvas ref={whole} {...size} aria-hidden="true" />
        <span
          style={{
            left: `${(left / bitmap.width) * 100}%`,
            top: `${(top / bitmap.height) * 100}%`,
            width: `${(wide / bitmap.width) * 100}%`,
            height: `${(high / bitmap.height) * 100}%`,
          }}
        />
      </button>
    </div>
  );
}
