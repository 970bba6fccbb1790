import { readFileSync, writeFileSync } from "node:fs";
import { Engine } from "./src/engine/engine";
import { newHeader } from "./src/engine/picture/header";
import { writePicturePng } from "./src/engine/file/render";
const engine = new Engine(new WebAssembly.Module(readFileSync("kernels/build/kernels.wasm")));
const work = engine.open(newHeader({width:1200,height:760,ppi:200,ground:"#efe6d6",paper:{kind:"canvas",scale:1}}));
work.apply({do:"layer.add",id:"a",name:"A",above:null});
const S=(x0:number,y0:number,x1:number,y1:number,c:any)=>work.apply({do:"stroke",layer:"a",seed:3,...c,samples:Array.from({length:50},(_,k)=>[k*12,x0+(x1-x0)*k/49,y0+(y1-y0)*k/49,0.6,1.57,0,0] as any)});
let i=0;
for (const t of [0.3,0.5,0.7,0.85]) { S(40,90+i*170,340,90+i*170,{brush:"oil-flat",size:90,colour:"#2a4fc0",thinner:t}); i++; }
S(420,60,420,700,{brush:"oil-house",size:120,colour:"#e8d9b0"}); 
i=0; for (const t of [0.3,0.5,0.7,0.85]) { S(380,90+i*170,640,90+i*170,{brush:"oil-round",size:50,colour:"#8a2018",thinner:t}); i++; }
S(700,120,1150,120,{brush:"oil-house",size:150,colour:"#334a2c",thinner:0.75});
S(700,250,1150,250,{brush:"oil-house",size:150,colour:"#c08a30",thinner:0.75});
S(700,520,1150,520,{brush:"oil-flat",size:90,colour:"#2a4fc0"});
S(720,560,1130,480,{brush:"oil-flat",size:60,colour:"#ffffff",thinner:1});
let steps=0; const t0=performance.now(); const marks:number[]=[];
while(work.advance(10)){steps+=10; marks.push(performance.now());}
console.log(steps,"steps",((performance.now()-t0)/steps).toFixed(1),"ms a step; first 10:",((marks[0]!-t0)/10).toFixed(1));
writeFileSync("/tmp/thin.png",writePicturePng(engine,work,{depth:8,ground:true}));
