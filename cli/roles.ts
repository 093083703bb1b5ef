/** `rig roles FILE [--json] [--naming CONVENTION]`: what each name means, and how sure that is. */
import { matchRoles, type Named, type RoleMatch } from '@marionette/core/roles/match'
import { guessNaming, namedParts } from '@marionette/core/roles/naming'
import { roleLabel } from '@marionette/core/roles/roles'
import { keyOf } from '@marionette/core/roles/match'
import { decodeText } from '@marionette/formats/text'
import { readBytes, readInput } from './files'
import type { Naming } from '@marionette/core/roles/records'

interface Row extends Partial<Omit<RoleMatch, 'id'>> {
  readonly name: string
  readonly role?: string
}

/** Names of a text file, one a line; of artwork, those of its layers. */
async function namesOf(file: string): Promise<Named[]> {
  if (!/\.(txt|text|list|csv)$/i.test(file) && !isPlainText(file)) return namedParts((await readInput(file)).puppet)
  return decodeText(readBytes(file))
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .map((name, i) => ({ id: String(i), name, within: [], x: null }))
}

/** Whether a file holds neither a known kind of artwork nor XML. */
function isPlainText(file: string): boolean {
  const bytes = readBytes(file).subarray(0, 512)
  return !bytes.includes(0) && !/^\s*[<\x89]|^PK|^8BPS|^RIFF/.test(String.fromCharCode(...bytes))
}

export async function roles(file: string, json: boolean, naming: Naming | null): Promise<string> {
  const items = await namesOf(file)
  const convention = naming ?? guessNaming(items) ?? 'character-side'
  const matches = new Map(matchRoles(items, { naming: convention }).map((m) => [m.id, m]))
  const rows = items.map(({ id, name }): Row => {
    const match = matches.get(id)
    if (!match) return { name }
    const { role, side, certainty, grade, doubt } = match
    return { name, role, side, certainty, grade, doubt }
  })
  if (json)
    return JSON.stringify(
      { naming: convention, roles: rows.map((r) => ({ role: null, side: null, certainty: 0, grade: null, doubt: '', ...r })) },
      null,
      2,
    )
  return rows
    .map((r) =>
      r.role
        ? `${r.name}: ${roleLabel(keyOf({ role: r.role, side: r.side ?? null }))}, ${r.certainty} (${r.grade}${r.doubt ? `, ${r.doubt}` : ''})`
        : `${r.name}: no role`,
    )
    .join('\n')
}
