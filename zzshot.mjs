import { launch } from 'puppeteer-core'
import { writeFileSync } from 'node:fs'
const url='http://127.0.0.1:4311/lessons/'+process.argv[2]
const b = await launch({ executablePath: '/usr/bin/chromium', args: ['--headless','--no-sandbox','--disable-gpu'], defaultViewport: {width:1280,height:800} })
const p = await b.newPage()
await p.goto(url); await p.waitForSelector('[data-word]'); const rest=ms=>new Promise(r=>setTimeout(r,ms)); await rest(7000)
const c = await p.createCDPSession(); await c.send('Profiler.enable'); await c.send('Profiler.setSamplingInterval',{interval:200}); 
await p.keyboard.press('Home'); for (let i = 0; i < 4; i++) await p.keyboard.press('ArrowDown'); for (let i = 0; i < 6; i++) await p.keyboard.press('ArrowRight'); await rest(1000)
const m0=await p.metrics(); const t0=Date.now()
await c.send('Profiler.start')
for (let i=0;i<12;i++){ await p.keyboard.press('Enter'); await rest(900); await p.keyboard.down('Control'); await p.keyboard.press('z'); await p.keyboard.up('Control'); await rest(900) }
const {profile}=await c.send('Profiler.stop'); const m1=await p.metrics()
console.log(Object.fromEntries(Object.keys(m0).map(k=>[k,Math.round(1000*(m1[k]-m0[k]))/1000])))
writeFileSync('/tmp/page.cpuprofile', JSON.stringify(profile))
await b.close()
