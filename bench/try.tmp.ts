import { loadPhotographs } from './src/photographs.ts';
import { damage } from './src/damage.ts';
import { scoreFindings } from './src/find.ts';
import { examinePicture, pixelsOf, EXAMINE_DEFAULTS } from '@fennip/core';
for (const kind of ['dust','particles'] as const) {
for (const { name, raster } of await loadPhotographs()) {
  const d = damage(raster, kind, 7);
  const t=performance.now();
  const all = examinePicture(pixelsOf(d.seen), { ...EXAMINE_DEFAULTS, polarities: kind==='dust'?['dark']:['bright'], sensitivity: 1 });
  const ms=performance.now()-t;
  let best={f1:0,t:0,s:null as any};
  for (let t=0.02;t<1;t+=0.02){ const s=scoreFindings(all.filter(f=>f.confidence>=t), d.faults); if(s.f1>best.f1) best={f1:s.f1,t,s}; }
  const mid=scoreFindings(all.filter(f=>f.confidence>=0.5), d.faults);
  console.log(kind,name, raster.width,raster.height, raster.planes.length,'n',d.faults.length,'cands',all.length, 'mid', mid.f1.toFixed(2), mid.precision.toFixed(2), mid.recall.toFixed(2),'best',best.f1.toFixed(2),'@',best.t.toFixed(2), ms.toFixed(0)+'ms');
}}
