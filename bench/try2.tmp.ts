import { loadPhotographs } from './src/photographs.ts';
import { damage, damagedPixels } from './src/damage.ts';
import { loadOpenCv, inpaint } from './src/peers.ts';
import { proposeMends, pixelsOf, comparePictures, cloneRaster, emptyRecipe, renderRecipe } from '@fennip/core';
const cv = await loadOpenCv();
for (const kind of ['dust','particles'] as const) {
for (const { name, raster } of await loadPhotographs()) {
  const d = damage(raster, kind, 7);
  const mask = damagedPixels(d);
  const out = cloneRaster(d.seen);
  const t=performance.now();
  const mends = proposeMends(d.faults.map((f,i)=>({id:'m'+i,x:f.x,y:f.y,r:f.r,softness:0.5})), pixelsOf(out));
  const t1=performance.now();
  renderRecipe(out, {...emptyRecipe(out), mends});
  const t2=performance.now();
  const tel = inpaint(cv, d.seen, mask, 'telea'), ns = inpaint(cv,d.seen,mask,'navier-stokes');
  const f=(r:any)=>{const c=comparePictures(r,d.clean,mask);return `${c.psnr!.toFixed(2)} ${c.ssim.toFixed(3)} ${c.texture!.toFixed(2)}`};
  console.log(kind,name,'seen',f(d.seen),'| heal',f(out),'| telea',f(tel),'| ns',f(ns), 'nosrc',mends.filter(m=>!m.source).length, ((t1-t)/mends.length).toFixed(2), ((t2-t1)/mends.length).toFixed(2));
}}
