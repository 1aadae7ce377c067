import {start,job,base} from './look.mjs';
const {browser,page}=await start(); const j=await job('Along');
await page.goto(`${base}/jobs/${j.id}/series`); await page.waitForTimeout(1500); await page.getByRole('link',{name:'Halden M2'}).click(); await page.waitForTimeout(2500); await page.keyboard.press('ArrowDown'); await page.keyboard.press('ArrowDown'); await page.waitForTimeout(1500); await page.screenshot({path:'/tmp/s4.png'});
await page.goto(`${base}/jobs/${j.id}/doubts`); await page.waitForTimeout(6000); await page.keyboard.press('ArrowRight'); await page.waitForTimeout(5000);await page.screenshot({path:'/tmp/s5.png'}); await browser.close();
