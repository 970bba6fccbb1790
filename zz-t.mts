import { strokeTime } from "./bench/brushes";
import { addHelpers } from "./src/node/helpers";
import { loadEngine } from "./src/node/load-engine";
const engine = await loadEngine();
const letGo = await addHelpers(engine, 2);
const [mode,size,...ids]=process.argv.slice(2);
for (const id of ids) console.log(id, mode, size, [1,2,3].map(()=>Math.round(strokeTime(engine,id,Number(size),mode as any,1))).join(" "));
await letGo(); process.exit(0);
