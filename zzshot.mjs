import { launch } from 'puppeteer-core'
const b = await launch({ executablePath: '/usr/bin/chromium', args: ['--headless','--no-sandbox','--disable-gpu'], defaultViewport: {width:1280,height:800} })
const p = await b.newPage()
const errs=[]; p.on('pageerror',e=>errs.push(String(e)))
const wait=(ms)=>new Promise(r=>setTimeout(r,ms))
const click=async(t)=>{const ok=await p.evaluate((t)=>{const e=[...document.querySelectorAll('button,a,label,[role=tab],[role=menuitem],.ant-segmented-item,[role=switch]')].find(o=>o.textContent?.trim()===t||o.getAttribute('aria-label')===t); e?.click(); return !!e},t); console.log('click',t,ok); await wait(1500)}
await p.goto('http://127.0.0.1:4311/lessons/crossing-the-bar', {waitUntil:'load'}); await wait(5000)
await click('Booth'); await wait(1000)
await click('Voice and clean-up…'); await wait(1500); await p.screenshot({path:'/tmp/s1.png'})
console.log(await p.evaluate(()=>[...document.querySelectorAll('[role=tab]')].map(x=>x.textContent).join('|')))
for (const [i,t] of ['Clean-up','Pauses','Reading'].entries()) { await p.evaluate((t)=>[...document.querySelectorAll('[role=tab]')].find(x=>x.textContent.includes(t))?.click(), t); await wait(2500); await p.screenshot({path:`/tmp/t${i}.png`}) }
console.log(errs); await b.close()
