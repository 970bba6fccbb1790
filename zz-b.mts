import { loadEngine } from "./src/node/load-engine";
import { strokeTime } from "./bench/brushes";
import { lineRows } from "./bench/lines";
const engine = await loadEngine();
for (const b of ["pen-fine","pen-sprung","pen-brush","pen-even"]) console.log(b, [12,400,1000].map(s=>strokeTime(engine,b,s,"paint",3).toFixed(0)).join(" "));
for (const r of lineRows(engine)) console.log(r.what, "| ratio", r.ratio.toFixed(4), JSON.stringify(r.wanted), r.note, r.reference);
