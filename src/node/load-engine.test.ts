import { readFileSync } from "node:fs";
import { join } from "node:path";
import { Engine } from "../engine/engine";
import { fingerprint, line, stroke, testHeader, testKernels } from "../engine/engine.testing";
import { loadKernels } from "./load-engine";

/** Soft, grained, picture-tipped and smearing strokes under blend modes: most kernels have their say. */
function painted(module: WebAssembly.Module): string {
  const engine = new Engine(module);
  const work = engine.open(testHeader({ ground: "#d8c9a0" }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  ["round-soft", "pencil-2b", "sponge", "round-soft"].forEach((brush, i) => {
    const mode = i === 3 ? "blend" : "paint";
    const samples = line([20, 30 + i * 30], [230, 60 + i * 25]);
    work.apply(stroke(samples, { brush, mode, size: 40, colour: "#a03828", seed: i + 1 }));
  });
  work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  work.apply({ do: "layer.set", id: "b", blend: "soft-light", opacity: 0.7 });
  work.apply(stroke(line([30, 150], [220, 40]), { layer: "b", brush: "round-soft", size: 90 }));
  return fingerprint(engine, work);
}

it("both builds of the kernels paint the same pixels", async () => {
  const quickest = await loadKernels();
  const relaxed = readFileSync(join(process.cwd(), "kernels", "build", "kernels-relaxed.wasm"));
  expect(WebAssembly.validate(relaxed)).toBe(true);
  expect(painted(quickest)).toBe(painted(testKernels("kernels.wasm")));
});
