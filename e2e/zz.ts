import { DEMOS } from '../demo/demos'
import { readFileSync, writeFileSync } from 'node:fs'
import { loadCanvasKit } from '../render/node'
import { rangeTest } from '../authoring/rangeTest'
import { readArchive } from '../formats/archive/archive'
const CK = await loadCanvasKit()
const [, , who] = process.argv
const demo = who!.endsWith('.marionette') ? readArchive(new Uint8Array(readFileSync(who!))) as any : DEMOS[who!]!()
const t = performance.now()
const report = rangeTest(CK, demo.puppet, { assets: (h) => demo.assets.get(h) })
console.log(who, report.poses, 'poses', ((performance.now()-t)/1000).toFixed(1),'s', 'broken', report.runs.filter(r=>r.grade==='broken').length, 'look', report.runs.filter(r=>r.grade==='look').length, 'of', report.runs.length)
for (const r of report.runs.filter(r=>r.grade!=='good')) { const f = r.samples[r.worst]!; console.log(r.grade, r.kind, r.name, '@', f.said, '|', f.faults.slice(0,3).map(x=>x.said+' '+x.severity.toFixed(1)).join('; '), '|', r.samples.filter(s=>s.faults.length).length, 'of', r.samples.length) }
import { rangeSheet, rangeFilm } from '../authoring/rangeSheet'
const font = readFileSync('node_modules/@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2')
let t2 = performance.now(); writeFileSync('/tmp/sheet.png', rangeSheet(CK, demo.puppet, report, { font, assets: (h) => demo.assets.get(h) })); console.log('sheet', performance.now()-t2); t2=performance.now()
writeFileSync('/tmp/film.gif', rangeFilm(CK, demo.puppet, report, { font, assets: (h) => demo.assets.get(h) })); console.log('film', performance.now()-t2)
