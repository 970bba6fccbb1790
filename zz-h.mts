import { chromium } from "@playwright/test";
import { writeFileSync } from "node:fs";
import { tableReady, settled } from "./e2e/table";
const L:any[]=[{pampas:1,title:"Ten",width:4000,height:3000,ground:"#ffffff"}];
for (let i=0;i<10;i++){ L.push({do:"layer.add",id:"l"+i,name:"L"+i,above:i?"l"+(i-1):null});
 for (let k=0;k<5;k++) L.push({do:"stroke",layer:"l"+i,brush:"round-soft",size:1500,colour:"#"+((i*1234567+k*7654321)&0xffffff|0x404040).toString(16).padStart(6,"0"),samples:[[0,200,300+k*600,0.9,1.2,0,0],[300,2000,350+k*600,1,1.2,0,0],[600,3800,300+k*600,0.9,1.2,0,0]],seed:k});}
writeFileSync("/tmp/ten.jsonl",L.map(x=>JSON.stringify(x)).join("\n"));
const b = await chromium.launch({executablePath:"/usr/bin/chromium",chromiumSandbox:false});
const c = await b.newContext({viewport:{width:1280,height:800}, baseURL:"http://localhost:3417"});
const p = await c.newPage(); await p.route("**/api/samples", (r) => r.fulfill({ json: { samples: [] } }));
await p.goto("/"); await p.getByTestId("bring-in").setInputFiles("/tmp/ten.jsonl");
await p.getByRole("link",{name:"Open Ten"}).click({timeout:120000}); await p.getByTestId("view").waitFor({timeout:120000}); await p.locator("canvas.sheet").waitFor({state:"attached"});
await new Promise(r=>setTimeout(r,4000));
const eye = p.getByRole("row",{name:/^L1/}).getByRole("button").first(); console.log(await eye.getAttribute("aria-label"));
await p.evaluate("window.watch=function(){return new Promise(function(res){var e=document.querySelector(\"canvas.sheet\");var k=document.createElement(\"canvas\");k.width=64;k.height=64;var g=k.getContext(\"2d\",{willReadFrequently:true});function read(){g.clearRect(0,0,64,64);g.drawImage(e,0,0,64,64);return g.getImageData(0,0,64,64).data.join()}var last=read(),changed=0,at=0,t0=performance.now();function f(){var now=read(),t=performance.now()-t0;if(now!==last){if(!changed)changed=t;at=t;last=now}if((changed&&t-at>1500)||t>8000)res([changed,at,window.clicked-t0]);else requestAnimationFrame(f)}requestAnimationFrame(f)})};document.addEventListener(\"click\",function(){window.clicked=performance.now()},true)");
for (let i=0;i<6;i++){ const r = p.evaluate(()=>(window as any).watch()); await new Promise(r=>setTimeout(r,60)); await eye.click(); console.log((await r as number[]).map(Math.round).join(" first/last ")); }
// memcpy reference
const { loadEngine } = await import("./src/node/load-engine"); const e=await loadEngine(); const n=96*1024*1024; const a=e.store.heap.allocate(n), d=e.store.heap.allocate(n); for(let k=0;k<3;k++){const t=performance.now(); for(let i=0;i<10;i++) e.store.kernels.copyBytes(d,a,n); console.log("memcpy",Math.round(performance.now()-t));}
await b.close(); process.exit(0);
