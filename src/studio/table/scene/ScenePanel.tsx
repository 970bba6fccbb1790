"use client";

import { Copy, FlipHorizontal2, Group, Pipette, Trash2, Ungroup } from "lucide-react";
import { nanoid } from "nanoid";
import { useState } from "react";
import { type CommandInput } from "../../../engine/command/commands";
import { cameraFrom, vanishingPoints } from "../../../engine/scene/camera";
import { type Layer } from "../../../engine/picture/picture";
import { passKinds, type PassKind, type Scene, type SceneLight } from "../../../engine/scene/scene";
import { type Solid, solidKinds, type SolidKind } from "../../../engine/scene/solid";
import { length, minus } from "../../../engine/scene/vector";
import { inWords, wrapped } from "../../../engine/sun/sun-pin";
import { tell } from "../../notices/notices";
import { Choice } from "../panel/Choice";
import { FloatingPanel } from "../panel/FloatingPanel";
import { NumberField } from "../panel/NumberField";
import { Tick } from "../panel/Tick";
import { WideSlide } from "../panel/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { atDistance, atHeight, turnedUpright, turnOf } from "./handles";
import {
  addSolid,
  chooseSolid,
  chosenSolids,
  closeScene,
  copyChosen,
  groupChosen,
  keptScene,
  mirrorChosen,
  putSolids,
  removeChosen,
  type SceneTab,
  setCamera,
  setLight,
  useScene,
  withDraft,
} from "./scene-store";
import { pinFromScene, sceneFromPin } from "./sun-and-scene";

const DEGREE = Math.PI / 180;
/** Farthest that a vanishing point is handed to the guides, px. */
const FARTHEST_POINT = 200_000;

const TABS: readonly (readonly [SceneTab, string])[] = [
  ["solids", "Solids"],
  ["camera", "Camera"],
  ["light", "Light"],
  ["layers", "Layers"],
];

const none: readonly Layer[] = [];

type Part = { session: Session; scene: Scene };

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

function Solids({ session, scene }: Part) {
  const colour = useTable((state) => state.colour);
  // Renders when other solids are chosen.
  useScene((state) => state.chosen);
  const own = chosenSolids(scene);
  const first = own[0];
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
      </div>
      <SolidList scene={scene} />
      {first && (
        <>
          <div className="acts">
            <button
              type="button"
              className="icon-button"
              aria-label="Give them the colour in hand"
              title="Give them the colour in hand"
              onClick={() =>
                void putSolids(
                  session,
                  own.map((solid) => ({ ...solid, colour })),
                )
              }
            >
              <Pipette size={16} />
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label="Copy the chosen solids"
              title="Copy"
              onClick={() => void copyChosen(session)}
            >
              <Copy size={16} />
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label="Mirror the chosen solids"
              title="Mirror"
              onClick={() => void mirrorChosen(session)}
            >
              <FlipHorizontal2 size={16} />
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label={
                own.every(({ group }) => group)
                  ? "Free the chosen solids"
                  : "Group the chosen solids"
              }
              title={own.every(({ group }) => group) ? "Free" : "Group"}
              disabled={own.length < 2}
              onClick={() => void groupChosen(session)}
            >
              {own.every(({ group }) => group) ? <Ungroup size={16} /> : <Group size={16} />}
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label="Take the chosen solids out"
              title="Take out"
              onClick={() => void removeChosen(session)}
            >
              <Trash2 size={16} />
            </button>
          </div>
          <Shape session={session} solid={first} />
        </>
      )}
    </>
  );
}

function CameraPart({ session, scene }: Part) {
  const guides = useTable((state) => state.picture?.guides);
  const { camera } = scene;
  const far = length(minus(camera.at, camera.to));
  const draft = (next: typeof camera): void => useScene.setState({ draft: { camera: next } });
  const points = guides?.find((guide) => guide.kind === "vanishing points");
  const fromGuides = (): void => {
    const [a, b] = points?.kind === "vanishing points" ? points.points : [];
    const next = a && b && cameraFrom(camera, [a, b]);
    if (next) void setCamera(session, next);
    else
      tell("No camera sees two such vanishing points. Set one to the left and one to the right.");
  };
  const toGuides = (): void => {
    const found = vanishingPoints(camera, FARTHEST_POINT);
    if (found.length === 0)
      return tell("The camera looks along the scene: nothing vanishes near enough.");
    const others = (guides ?? []).filter((guide) => guide.kind !== "vanishing points");
    void session.setGuides([...others, { kind: "vanishing points", points: found }]);
  };
  return (
    <>
      <WideSlide
        label="Lens, mm"
        least={14}
        most={200}
        step={1}
        value={camera.lens}
        set={(lens) => draft({ ...camera, lens })}
      />
      <WideSlide
        label="Distance, m"
        least={1}
        most={60}
        step={0.1}
        value={far}
        set={(v) => draft(atDistance(camera, v))}
      />
      <WideSlide
        label="Eye height, m"
        least={0.1}
        most={30}
        step={0.05}
        value={camera.at[1]}
        set={(v) => draft(atHeight(camera, v))}
      />
      <WideSlide
        label="Tilt, degrees"
        least={-45}
        most={45}
        step={0.5}
        value={camera.roll / DEGREE}
        set={(v) => draft({ ...camera, roll: v * DEGREE })}
      />
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={points?.kind !== "vanishing points" || points.points.length < 2}
          onClick={fromGuides}
        >
          From the guides
        </button>
        <button type="button" className="btn btn-sm" onClick={toGuides}>
          To the guides
        </button>
      </div>
      <p className="quiet mb-0">
        Focal length on a frame 36 mm wide. The guides take the scene’s vanishing points, or give
        theirs: lens, heading and tilt follow.
      </p>
    </>
  );
}

function LightPart({ session, scene }: Part) {
  const colour = useTable((state) => state.colour);
  const sun = useTable((state) => state.picture?.sun ?? null);
  const { light } = scene;
  const draft = (changes: Partial<SceneLight>): void =>
    useScene.setState({ draft: { light: { ...light, ...changes } } });
  const set = (changes: Partial<SceneLight>): void =>
    void setLight(session, { ...light, ...changes });
  return (
    <>
      <p className="quiet mb-0">Sun {inWords(pinFromScene(scene))}.</p>
      <WideSlide
        label="Round, degrees"
        least={-180}
        most={180}
        step={1}
        value={light.azimuth / DEGREE}
        set={(v) => draft({ azimuth: wrapped(v * DEGREE) })}
      />
      <WideSlide
        label="Height, degrees"
        least={0}
        most={90}
        step={1}
        value={light.height / DEGREE}
        set={(v) => draft({ height: v * DEGREE })}
      />
      <WideSlide
        label="Sun"
        least={0}
        most={2}
        value={light.strength}
        set={(strength) => draft({ strength })}
      />
      <WideSlide
        label="Fill light"
        least={0}
        most={1}
        value={light.fillStrength}
        set={(fillStrength) => draft({ fillStrength })}
      />
      <Tick on={light.shadows} set={(shadows) => set({ shadows })}>
        Solids throw shadows
      </Tick>
      <Tick
        on={scene.ground !== null}
        set={(on) => void session.apply({ do: "scene.set", ground: on ? colour : null })}
        title="The ground takes the colour in hand"
      >
        A ground
      </Tick>
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={!sun}
          onClick={() => sun && void setLight(session, sceneFromPin(scene, sun))}
        >
          From the sun pin
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void session.setSun({ at: scene.camera.frame, ...pinFromScene(scene) })}
        >
          To the sun pin
        </button>
      </div>
      <div className="steps">
        <button type="button" className="btn btn-sm" onClick={() => set({ sun: colour })}>
          <i className="spot" style={{ background: light.sun }} /> Sun in this colour
        </button>
        <button type="button" className="btn btn-sm" onClick={() => set({ fill: colour })}>
          <i className="spot" style={{ background: light.fill }} /> Fill in this colour
        </button>
      </div>
    </>
  );
}

const PASSES: Record<PassKind, string> = {
  colour: "Colour and shadows",
  line: "Lines",
  depth: "Depth, near dark and far light",
  id: "A colour a solid",
  normal: "Where surfaces face",
};

function LayersPart({ session, scene }: Part) {
  const layers = useTable((state) => state.picture?.layers ?? none);
  const working = useTable((state) => state.selected[0] ?? null);
  const [wanted, setWanted] = useState<readonly PassKind[]>(["colour", "line"]);
  const [lineWidth, setLineWidth] = useState(2);
  const chosen = useScene((state) => state.chosen);
  const layerOf = (kind: PassKind) => layers.find(({ pass }) => pass?.kind === kind);
  const depth = layerOf("depth");
  const again = wanted.filter(layerOf).length;
  const paint = async (): Promise<void> => {
    const passes = passKinds
      .filter((kind) => wanted.includes(kind))
      .map((pass) => ({ pass, layer: layerOf(pass)?.id ?? nanoid() }));
    await session.apply({ do: "scene.paint", passes, above: working, lineWidth });
  };
  const haze = async (): Promise<void> => {
    if (!depth) return;
    const id = nanoid();
    const steps: Extract<CommandInput, { do: "together" }>["steps"] = [
      {
        ...{ do: "layer.add", id, name: "Haze", above: layers.at(-1)?.id ?? null, kind: "fill" },
        paint: { kind: "colour", colour: scene.light.fill },
      },
      { do: "mask.add", id, from: { kind: "layer", layer: depth.id, by: "light" } },
      { do: "layer.set", id, opacity: 0.8 },
    ];
    await session.apply({ do: "together", label: "haze by distance", steps });
  };
  return (
    <>
      {passKinds.map((kind) => (
        <Tick
          key={kind}
          on={wanted.includes(kind)}
          set={(on) => setWanted(on ? [...wanted, kind] : wanted.filter((one) => one !== kind))}
        >
          {PASSES[kind]}
          {layerOf(kind) && <small className="quiet"> · has its layer</small>}
        </Tick>
      ))}
      <WideSlide
        label="Lines, px"
        least={1}
        most={16}
        step={0.5}
        value={lineWidth}
        set={setLineWidth}
      />
      <p className="quiet mb-0">
        {again > 0
          ? `${again === 1 ? "One layer is" : `${again} layers are`} painted again. A layer that you painted on is yours, and stays as it is.`
          : "Each becomes a layer above the one you work on. What you paint on stays yours."}
      </p>
      <button
        type="button"
        className="btn btn-strong"
        disabled={wanted.length === 0 || scene.solids.length === 0}
        onClick={() => void paint()}
      >
        {again > 0 ? "Paint the layers again" : "Paint as layers"}
      </button>
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          disabled={chosen.length === 0}
          onClick={() =>
            void session.apply({ do: "select", shape: { kind: "solids", ids: [...chosen] } })
          }
        >
          Select the chosen
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!depth}
          title={depth ? undefined : "Paint the depth as a layer first"}
          onClick={() => void haze()}
        >
          Haze by distance
        </button>
      </div>
    </>
  );
}

/** The scene of solids that a place is blocked out with. */
export function ScenePanel({ session }: { session: Session }) {
  const { open, tab, draft, through } = useScene();
  const picture = useTable((state) => state.picture);
  if (!open || !picture) return null;
  const scene = withDraft(keptScene(picture), draft);
  // Sliders try out; what they stand at is kept when they are let go.
  const keep = (): void => {
    const made = useScene.getState().draft;
    if (made?.camera) void setCamera(session, made.camera);
    else if (made?.light) void setLight(session, made.light);
    else if (made?.solids) void putSolids(session, made.solids);
  };
  return (
    <FloatingPanel title="Scene" className="adjust-panel sheet-panel scene-panel">
      <Choice
        label="Part of the scene"
        of={TABS}
        value={tab}
        choose={(next) => useScene.setState({ tab: next })}
      />
      <div className="scene-part" onPointerUp={keep} onKeyUp={keep}>
        {tab === "solids" && <Solids session={session} scene={scene} />}
        {tab === "camera" && <CameraPart session={session} scene={scene} />}
        {tab === "light" && <LightPart session={session} scene={scene} />}
        {tab === "layers" && <LayersPart session={session} scene={scene} />}
      </div>
      <WideSlide
        label="Picture shows through"
        least={0}
        most={1}
        value={through}
        set={(v) => useScene.setState({ through: v })}
      />
      <footer>
        <button type="button" className="btn" onClick={closeScene}>
          Back to painting
        </button>
      </footer>
    </FloatingPanel>
  );
}
