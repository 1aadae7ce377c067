import {start,job,base} from './look.mjs';
const {browser,page}=await start(); const j=await job('Along');
await page.goto(`${base}/jobs/${j.id}`); await page.waitForTimeout(2500); await page.screenshot({path:'/tmp/s0.png'});
await page.getByRole('link',{name:'Series: all frames at once'}).click(); await page.waitForTimeout(1200); await page.screenshot({path:'/tmp/s1.png'}); await browser.close();
