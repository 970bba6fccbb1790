import { chromium } from "@playwright/test";
import { freshTable, middle, openPortfolio, tableReady, settled } from "./e2e/table";
import { swell } from "./e2e/pen";
const b = await chromium.launch({executablePath:"/usr/bin/chromium",chromiumSandbox:false});
const c = await b.newContext({viewport:{width:1280,height:800}, baseURL:"http://localhost:3417"});
// reference: canvas page
async function reference(){ const p = await c.newPage(); const t=performance.now();
 await p.goto("data:text/html,<canvas width=4000 height=3000 style='width:1000px'></canvas><script>const k=document.querySelector('canvas').getContext('2d');k.fillStyle='white';k.fillRect(0,0,4000,3000);onpointermove=e=>{k.fillStyle='black';k.fillRect(e.x*4,e.y*4,20,20)}</script>");
 await p.mouse.move(300,300); await p.mouse.down(); await p.mouse.move(400,300,{steps:4}); await p.mouse.up();
 await p.evaluate(()=>new Promise(r=>requestAnimationFrame(()=>requestAnimationFrame(r)))); const d=performance.now()-t; await p.close(); return d; }
async function ours(){ const c = await b.newContext({viewport:{width:1280,height:800}, baseURL:"http://localhost:3417"}); const p = await c.newPage(); const T0=performance.now(); p.on("request",r=>console.log("   req",Math.round(performance.now()-T0),r.url().slice(-50))); p.on("console",m=>console.log("   log",Math.round(performance.now()-T0),m.text())); await openPortfolio(p);
 await p.getByRole("button", { name: "New picture" }).first().click();
  const dialog = p.getByRole("dialog");
  await dialog.getByRole("radio", { name: /Own size/ }).click();
  await dialog.getByLabel("Unit").selectOption("px");
  await dialog.getByLabel("Width").fill("4000"); await dialog.getByLabel("Height").fill("3000");
 await new Promise(r=>setTimeout(r,1500));
 const t=performance.now();
 console.log("   LAY",Math.round(performance.now()-T0)); await dialog.getByRole("button", { name: "Lay out the sheet" }).click();
 await p.waitForURL(/\/table/); await p.locator("canvas.sheet").waitFor({state:"attached"}); const t1=performance.now();
 const box=await p.getByTestId("view").boundingBox(); const x=box!.x+box!.width/2,y=box!.y+box!.height/2;
 const before = await p.getByTestId("kept").textContent();
 await p.mouse.move(x,y); await p.mouse.down(); await p.mouse.move(x+80,y,{steps:4}); await p.mouse.up();
 await p.waitForFunction(([x,y])=>{const e=document.querySelector("canvas.sheet") as HTMLCanvasElement; const s=document.createElement("canvas"); s.width=60;s.height=60; const r=e.getBoundingClientRect(); const k=s.getContext("2d")!; k.drawImage(e,(x-r.x)*e.width/r.width-5,(y-r.y)*e.height/r.height-30,60,60,0,0,60,60); const d=k.getImageData(0,0,60,60).data; let m=255; for(let i=0;i<d.length;i+=4) if(d[i+3]>0) m=Math.min(m,d[i]); return m<225;},[x+20,y] as const,{polling:"raf"});
 const d=performance.now()-t; 
 await p.close(); return [d,t1-t]; }
for (let i=0;i<3;i++){ const r=await reference(); const o=await ours(); console.log("ref",Math.round(r),"ours",o.map(Math.round).join(" / "),"ratio",(o[0]/r).toFixed(2)); }
await b.close();
