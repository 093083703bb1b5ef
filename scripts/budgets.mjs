/** Compares the bundles of the built interface with their budgets in scripts/budgets.json. */
import { readdirSync, readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { root } from './setup.mjs'

const { bundles, firstPage } = JSON.parse(readFileSync(`${root}scripts/budgets.json`, 'utf8'))
const folder = `${root}app/dist/assets`

const packed = (bytes) => gzipSync(bytes).length / 1024

/** Scripts that the page asks for at once, whatever bundles they were divided into, KB. */
function firstPageSize() {
  const page = readFileSync(`${root}app/dist/index.html`, 'utf8')
  const names = new Set([...page.matchAll(/assets\/([^"]+\.js)/g)].map((m) => m[1]))
  return [...names].reduce((sum, name) => sum + packed(readFileSync(`${folder}/${name}`)), 0)
}

/** A pattern with one star, as in `index-*.js`. */
const matches = (pattern, name) => {
  const [start, end] = pattern.split('*')
  return name.startsWith(start) && name.endsWith(end)
}

/** Prints what is too large or has no budget; returns whether everything fits. */
export function checkBudgets() {
  let fits = true
  for (const name of readdirSync(folder).sort()) {
    const pattern = Object.keys(bundles).find((p) => matches(p, name))
    const bytes = readFileSync(`${folder}/${name}`)
    // Fonts are compressed already.
    const size = name.endsWith('.woff2') ? bytes.length / 1024 : packed(bytes)
    if (pattern === undefined && size < 2) continue
    if (pattern !== undefined && size <= bundles[pattern]) continue
    fits = false
    const budget = pattern === undefined ? 'has no budget' : `its budget is ${bundles[pattern]} KB`
    console.log(`${name} has ${size.toFixed(1)} KB compressed, ${budget}`)
  }
  const first = firstPageSize()
  if (first > firstPage) {
    fits = false
    console.log(`The first page loads ${first.toFixed(1)} KB of scripts, its budget is ${firstPage} KB`)
  }
  return fits
}
