import { strokeTime } from "./bench/brushes";
import { addHelpers } from "./src/node/helpers";
import { loadEngine } from "./src/node/load-engine";
import { brushes } from "./src/engine/media";
const engine = await loadEngine();
const letGo = await addHelpers(engine, 2);
for (const size of [1000,400]) { const r=brushes.map(({id})=>({id,ms:strokeTime(engine,id,size,"blend",1)})).sort((a,b)=>b.ms-a.ms).slice(0,8);
console.log(size, r.map(x=>x.id+" "+Math.round(x.ms)).join(", ")); }
{ const r=brushes.map(({id,size})=>({id,ms:strokeTime(engine,id,size,"blend",1)})).sort((a,b)=>b.ms-a.ms).slice(0,5); console.log("own", r.map(x=>x.id+" "+Math.round(x.ms)).join(", ")); }
await letGo(); process.exit(0);
