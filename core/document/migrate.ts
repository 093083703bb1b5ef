/**
 * Reading puppets of older versions. Each migration takes the raw JSON of version n to n + 1; a document is
 * brought up step by step and then checked as the current version.
 */
import { parsePuppet, PuppetError } from './invariants'
import { CURRENT_VERSION, type Puppet } from './schema'

export type Migration = (raw: Record<string, unknown>) => Record<string, unknown>

/** MIGRATIONS[n] takes version n to version n + 1. */
const MIGRATIONS: Readonly<Record<number, Migration>> = {}

/** Reads a puppet of any known version. Throws PuppetError with what was found, what was expected and what to do. */
export function readPuppet(data: unknown, migrations: Readonly<Record<number, Migration>> = MIGRATIONS): Puppet {
  if (typeof data !== 'object' || data === null) throw new PuppetError([{ path: 'puppet.json', message: 'holds no puppet' }])
  let raw = data as Record<string, unknown>
  if (raw['format'] !== 'eager-marionette/puppet') {
    throw new PuppetError([{ path: 'puppet.json', message: 'is not marked as a puppet of this program' }])
  }
  for (let version = raw['version']; version !== CURRENT_VERSION; version = raw['version']) {
    const migrate = typeof version === 'number' ? migrations[version] : undefined
    if (!migrate) {
      const message = `has version ${String(version)}, this build reads up to ${CURRENT_VERSION}; update the program, or export as ${CURRENT_VERSION}`
      throw new PuppetError([{ path: 'puppet.json', message }])
    }
    raw = migrate(raw)
  }
  return parsePuppet(raw)
}
