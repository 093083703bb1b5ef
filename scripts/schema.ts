/** Writes docs/format/puppet.schema.json from the document's own types; with --check compares instead. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { Puppet } from '@marionette/core/puppet/schema'

const path = fileURLToPath(new URL('../docs/format/puppet.schema.json', import.meta.url))
const text = `${JSON.stringify({ title: 'Puppet', ...z.toJSONSchema(Puppet) }, null, 2)}\n`

if (process.argv.includes('--check')) {
  let current = ''
  try {
    current = readFileSync(path, 'utf8')
  } catch {
    // A missing file is out of date, too.
  }
  if (current !== text) {
    console.error('docs/format/puppet.schema.json is out of date; run "npm run schema".')
    process.exit(1)
  }
} else {
  mkdirSync(dirname(path), { recursive: true })
  writeFileSync(path, text)
}
