import { chromium } from '@playwright/test';
export const launch = async (w=1280,h=800, dark=false) => {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--enable-unsafe-swiftshader','--no-first-run','--disable-background-networking'] });
  const page = await browser.newPage({ viewport: { width: w, height: h }, colorScheme: dark?'dark':'light' });
  page.on('console', (m)=>{ if(['error','warning'].includes(m.type())) console.log('console:', m.text().slice(0,300)); });
  page.on('pageerror', (e)=>console.log('pageerror', e.message.slice(0,500)));
  return { browser, page };
};
export const open = async (page: any, project: string, stage='lay-out') => {
  await page.goto(`http://127.0.0.1:4999/project/${project}/${stage}`);
  await page.waitForFunction(()=>document.documentElement.dataset.settled !== undefined);
  await page.waitForTimeout(900);
};
