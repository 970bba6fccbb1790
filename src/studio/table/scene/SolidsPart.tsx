"use client";

import { Copy, FlipHorizontal2, Group, Pipette, Trash2, Ungroup } from "lucide-react";
import { type ReactNode } from "react";
import { type Scene } from "../../../engine/scene/scene";
import { type Session } from "../session";
import { type Solid, solidKinds, type SolidKind } from "../../../engine/scene/solid";
import { length } from "../../../engine/scene/vector";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { useTable } from "../table-store";
import { turnedUpright, turnOf } from "./handles";
import {
  addShape,
  addSolid,
  chooseSolid,
  chosenSolids,
  copyChosen,
  groupChosen,
  mirrorChosen,
  putSolids,
  removeChosen,
  useScene,
} from "./scene-store";

const DEGREE = Math.PI / 180;

const madeKinds = solidKinds.filter((kind): kind is Exclude<SolidKind, "mesh"> => kind !== "mesh");

function SolidList({ scene }: { scene: Scene }) {
  const chosen = useScene((state) => state.chosen);
  if (scene.solids.length === 0)
    return (
      <p className="quiet mb-0">
        Put a solid in, then drag it over the ground, or onto another one. Drag beside the solids to
        go round them, with Shift to move across.
      </p>
    );
  return (
    <ul className="solid-list" aria-label="Solids">
      {scene.solids.map((solid) => (
        <li key={solid.id}>
          <button
            type="button"
            aria-pressed={chosen.includes(solid.id)}
            onClick={(event) => chooseSolid(scene, solid, event.shiftKey || event.ctrlKey)}
          >
            <i style={{ background: solid.colour }} />
            {solid.name}
            {solid.row && <small>{solid.row.count} in a row</small>}
            {solid.group && <small>grouped</small>}
          </button>
        </li>
      ))}
    </ul>
  );
}

function Shape({ session, solid }: { session: Session; solid: Solid }) {
  const put = (changes: Partial<Solid>): void =>
    void putSolids(session, [{ ...solid, ...changes }]);
  const draft = (changes: Partial<Solid>): void =>
    useScene.setState({ draft: { solids: [{ ...solid, ...changes }] } });
  const place = (axis: 0 | 1 | 2, v: number): void => {
    const at: [number, number, number] = [...solid.at];
    at[axis] = v;
    put({ at });
  };
  const side = (axis: 0 | 1 | 2, v: number): void => {
    const size: [number, number, number] = [...solid.size];
    size[axis] = Math.max(0.001, v);
    put({ size });
  };
  const isTube = solid.kind === "tube";
  const isFlat = solid.kind === "plane";
  return (
    <>
      <div className="fields three">
        {(["Right", "Up", "Front"] as const).map((label, axis) => (
          <NumberField
            key={label}
            className="field"
            label={label}
            unit="m"
            value={solid.at[axis] ?? 0}
            take={(v) => place(axis as 0 | 1 | 2, v)}
          />
        ))}
        {(isTube ? ["Thick"] : isFlat ? ["Width"] : ["Width", "Height", "Depth"]).map(
          (label, axis) => (
            <NumberField
              key={label}
              className="field"
              label={label}
              unit="m"
              value={solid.size[axis] ?? 1}
              take={(v) => side(axis as 0 | 1 | 2, v)}
            />
          ),
        )}
        {isFlat && (
          <NumberField
            className="field"
            label="Depth"
            unit="m"
            value={solid.size[2]}
            take={(v) => side(2, v)}
          />
        )}
        <NumberField
          className="field"
          label="Turn"
          unit="degrees"
          value={turnOf(solid) / DEGREE}
          take={(v) => put({ turn: turnedUpright(solid, v * DEGREE - turnOf(solid)).turn })}
        />
        <NumberField
          className="field"
          label="In a row"
          value={solid.row?.count ?? 1}
          take={(v) => put({ row: rowOf(solid, Math.round(v)) })}
        />
        {solid.row && (
          <NumberField
            className="field"
            label="Apart"
            unit="m"
            value={length(solid.row.step)}
            take={(v) => solid.row && put({ row: apart(solid.row, v) })}
          />
        )}
      </div>
      {!isFlat && (
        <WideSlide
          label="Taper"
          least={0}
          most={2}
          value={solid.taper}
          set={(taper) => draft({ taper })}
        />
      )}
      {!isTube && !isFlat && (
        <>
          <WideSlide
            label="Bend, degrees"
            least={-180}
            most={180}
            step={1}
            value={solid.bend / DEGREE}
            set={(v) => draft({ bend: v * DEGREE })}
          />
          <WideSlide
            label="Twist, degrees"
            least={-360}
            most={360}
            step={1}
            value={solid.twist / DEGREE}
            set={(v) => draft({ twist: v * DEGREE })}
          />
          <Tick
            on={solid.cut !== null}
            set={(on) => put({ cut: on ? { at: 0.6, slope: 0.4, toward: 0 } : null })}
          >
            Cut by a plane
          </Tick>
        </>
      )}
      {solid.cut && (
        <>
          <WideSlide
            label="Where"
            least={0}
            most={1}
            value={solid.cut.at}
            set={(at) => solid.cut && draft({ cut: { ...solid.cut, at } })}
          />
          <WideSlide
            label="Slope, degrees"
            least={-80}
            most={80}
            step={1}
            value={solid.cut.slope / DEGREE}
            set={(v) => solid.cut && draft({ cut: { ...solid.cut, slope: v * DEGREE } })}
          />
          <WideSlide
            label="Toward, degrees"
            least={-180}
            most={180}
            step={1}
            value={solid.cut.toward / DEGREE}
            set={(v) => solid.cut && draft({ cut: { ...solid.cut, toward: v * DEGREE } })}
          />
        </>
      )}
    </>
  );
}

/** So many copies beside each other: a gap of a fifth between them at first. */
function rowOf(solid: Solid, count: number): Solid["row"] {
  if (count < 2) return null;
  const step: [number, number, number] = [solid.size[0] * 1.2, 0, 0];
  const row = solid.row ?? { step, turn: 0, about: [...solid.at] as [number, number, number] };
  return { ...row, count: Math.min(100, count) };
}

function apart(row: NonNullable<Solid["row"]>, far: number): NonNullable<Solid["row"]> {
  const now = length(row.step);
  const by = now > 0 ? far / now : 1;
  return { ...row, step: [row.step[0] * by, row.step[1] * by, row.step[2] * by] };
}

/** Something that is done to the chosen solids. */
function Act({
  label,
  act,
  disabled = false,
  children,
}: {
  label: string;
  act: () => Promise<void>;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className="icon-button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={() => void act()}
    >
      {children}
    </button>
  );
}

/** What is put in, the list of solids, and the shape of the chosen one. */
export function SolidsPart({ session, scene }: { session: Session; scene: Scene }) {
  const colour = useTable((state) => state.colour);
  // Renders when other solids are chosen.
  useScene((state) => state.chosen);
  const own = chosenSolids(scene);
  const first = own[0];
  const areGrouped = own.every(({ group }) => group);
  return (
    <>
      <div className="put-in" role="group" aria-label="Put in">
        {madeKinds.map((kind) => (
          <button
            key={kind}
            type="button"
            className="btn btn-sm"
            onClick={() => void addSolid(session, kind)}
          >
            {kind}
          </button>
        ))}
        <label className="btn btn-sm" title="A shape from an OBJ or glTF file">
          file…
          <input
            type="file"
            className="visually-hidden"
            accept=".obj,.glb,.gltf"
            aria-label="Shape from an OBJ or glTF file"
            onChange={({ target }) => {
              const file = target.files?.[0];
              target.value = "";
              if (file) void addShape(session, file);
            }}
          />
        </label>
      </div>
      <SolidList scene={scene} />
      {first && (
        <>
          <div className="acts">
            <Act
              label="Give them the colour in hand"
              act={() =>
                putSolids(
                  session,
                  own.map((solid) => ({ ...solid, colour })),
                )
              }
            >
              <Pipette size={16} />
            </Act>
            <Act label="Copy the chosen solids" act={() => copyChosen(session)}>
              <Copy size={16} />
            </Act>
            <Act label="Mirror the chosen solids" act={() => mirrorChosen(session)}>
              <FlipHorizontal2 size={16} />
            </Act>
            <Act
              label={areGrouped ? "Free the chosen solids" : "Group the chosen solids"}
              disabled={own.length < 2}
              act={() => groupChosen(session)}
            >
              {areGrouped ? <Ungroup size={16} /> : <Group size={16} />}
            </Act>
            <Act label="Take the chosen solids out" act={() => removeChosen(session)}>
              <Trash2 size={16} />
            </Act>
          </div>
          <Shape session={session} solid={first} />
        </>
      )}
    </>
  );
}
