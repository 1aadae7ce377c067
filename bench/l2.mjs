import {start,job,base} from './look.mjs';
const {browser,page}=await start(); const j=await job('Along');
await page.goto(`${base}/jobs/${j.id}/series`); await page.waitForTimeout(1500); await page.getByRole('button',{name:'Start the run'}).click(); const t=Date.now(); await page.waitForTimeout(25000); await page.getByText('Picture by picture').first().click(); await page.waitForTimeout(1000);await page.screenshot({path:'/tmp/s2.png'});
for(let i=0;i<110;i++){await page.waitForTimeout(5000); const l=await page.getByTestId('run-line').first().textContent(); if(i%6===0)console.log(((Date.now()-t)/1000)|0,l); if(!/ of /.test(l)){console.log(((Date.now()-t)/1000)|0,l);break;}}
await page.waitForTimeout(1500);await page.screenshot({path:'/tmp/s3.png'}); await browser.close();
