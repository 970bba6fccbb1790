"use client";

import { ArrowRight } from "lucide-react";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { toValues } from "../../../engine/crit/values";
import { type Study } from "../../../worker/study";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { WorkBar } from "../../progress/WorkBar";
import { useTable } from "../table-store";

const stepNames = ["darks", "dark middles", "middles", "light middles", "lights"];
const STEPS = stepNames.length;

/** A study, painted as large as its place allows, in its colours or its values. */
function Painted({ study, grey }: { study: Study; grey: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const data = new Uint8ClampedArray(study.data);
    if (grey) toValues(data, 0);
    canvas.current
      ?.getContext("2d")
      ?.putImageData(new ImageData(data, study.width, study.height), 0, 0);
  }, [study, grey]);
  return <canvas ref={canvas} width={study.width} height={study.height} />;
}

/** How much of a study lies in each step of value, dark first. */
function ValueBar({ values }: { values: readonly number[] }) {
  const words = values.map((share, i) => `${stepNames[i]} ${Math.round(share * 100)} %`).join(", ");
  return (
    <span className="value-bar" role="img" aria-label={`Values: ${words}`} title={words}>
      {values.map((share, i) => (
        <span
          key={i}
          style={{ flexGrow: share, background: `oklch(${(i / (STEPS - 1)) * 0.92 + 0.05} 0 0)` }}
        />
      ))}
    </span>
  );
}

/** All studies of a sheet: any two of them large, and the way on for the best. */
export function StudiesDialog({ session }: { session: Session }) {
  const set = useTable((state) => state.set);
  const target = useTable((state) => state.picture?.studies?.target ?? null);
  const [studies, setStudies] = useState<Study[]>([]);
  const [chosen, setChosen] = useState<number[]>([0, 1]);
  const [grey, setGrey] = useState(false);
  const [busy, setBusy] = useState(false);
  const share = useTable((state) => state.progress?.share ?? 0.05);
  const router = useRouter();
  const hide = (): void => set({ dialog: null });
  useEffect(() => {
    void session.link.api.lookAtStudies().then((answer) => {
      if (answer.ok) setStudies(answer.value);
      else tell(answer.why);
    });
  }, [session]);
  /** The one pressed comes beside the one that was pressed before it. */
  const choose = (index: number): void => {
    if (!chosen.includes(index)) setChosen([chosen[1] ?? 0, index]);
  };
  const carryOver = async (index: number): Promise<void> => {
    set({ progress: null });
    setBusy(true);
    const answer = await session.link.api.carryOver(index);
    setBusy(false);
    if (!answer.ok) return tell(answer.why);
    hide();
    router.push(`/table?picture=${answer.value}`);
  };
  return (
    <Modal
      show
      onHide={hide}
      animation={false}
      dialogClassName="studies-dialog"
      aria-labelledby="studies-title"
    >
      <Modal.Header closeButton>
        <Modal.Title id="studies-title">Studies</Modal.Title>
        <label className="ms-4">
          <input
            type="checkbox"
            className="form-check-input me-2"
            checked={grey}
            onChange={(event) => setGrey(event.target.checked)}
          />
          In values
        </label>
      </Modal.Header>
      <Modal.Body>
        <div className="compared">
          {chosen.map((index) => {
            const study = studies[index];
            return (
              <section key={index} aria-label={`Study ${index + 1}, large`}>
                {study && <Painted study={study} grey={grey} />}
                <div className="under">
                  <b>{index + 1}</b>
                  {study && <ValueBar values={study.values} />}
                  <button
                    type="button"
                    className="btn btn-sm btn-strong"
                    disabled={busy || !study}
                    aria-label={`Carry study ${index + 1} over`}
                    title={target ? `As a picture of ${target.width} × ${target.height} px` : ""}
                    onClick={() => void carryOver(index)}
                  >
                    Carry over <ArrowRight size={14} />
                  </button>
                </div>
              </section>
            );
          })}
        </div>
        <div className="all" role="group" aria-label="All studies">
          {studies.map((study, i) => (
            <button
              key={i}
              type="button"
              aria-pressed={chosen.includes(i)}
              aria-label={`Study ${i + 1}`}
              onClick={() => choose(i)}
            >
              <Painted study={study} grey={grey} />
              <span className="under">
                {i + 1}
                <ValueBar values={study.values} />
              </span>
            </button>
          ))}
        </div>
        {busy && <WorkBar share={share} label="Carrying the study over" className="mb-2" />}
        <p className="quiet mb-0">
          Press two to see them side by side. What is carried over becomes a picture of its own
          {target ? ` of ${target.width} × ${target.height} px` : ""}; this sheet stays as it is.
        </p>
      </Modal.Body>
    </Modal>
  );
}
