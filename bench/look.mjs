import { chromium } from '@playwright/test';
const B='http://127.0.0.1:8420';
export async function start(size={width:1280,height:800}){const browser=await chromium.launch({executablePath:'/usr/bin/chromium',args:['--headless','--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync']});const page=await browser.newPage({viewport:size});page.on('pageerror',e=>console.log('PAGEERROR',e.message));page.on('console',m=>{if(m.type()==='error')console.log('CONSOLE',m.text().slice(0,300))});return {browser,page};}
export async function job(name){const jobs=await (await fetch(B+'/api/jobs')).json();return jobs.find(j=>j.name.includes(name));}
export const base=B;
