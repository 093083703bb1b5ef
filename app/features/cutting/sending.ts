/** Sending what is selected on: to a new part, to one that exists, or as the last piece was sent. */
import { ROLES, roleKey, roleLabel } from '@marionette/core/roles/roles'
import { convertName } from '@marionette/core/roles/naming'
import { freshId } from '@marionette/core/kernel/ids'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { partPath } from '@marionette/core/parts/tree'
import { openPuppet } from '../../editor/document'
import { useCut } from './selection'
import { selectParts } from '../../editor/session'
import { work } from '../../editor/work'
import { whileBusy } from './busy'
import { dropArea } from './selecting'
import { cutSource } from './source'
import { lookAtNew } from './strays'
import type { Editor } from '../../editor/editor'
import { nth, recordOf, sure } from '@marionette/core/kernel/sure'

/** Kept where it is a sheet, or all that the artwork had, one flat figure; a piece is cut. What came out of a cut has no file. */
export function keepsByItself(puppet: Puppet, source: string): boolean {
  if (partPath(puppet, source).some((p) => p.sheet !== null)) return true
  const fromFile = Object.values(puppet.parts).filter((p) => p.source !== null && p.content.kind !== 'group')
  return fromFile.length === 1 && nth(fromFile, 0).id === source
}

/**
 * Parts to which a piece of a part can be sent: those that show something in other views alone, and those to which it
 * can be added in the shown one.
 */
export function targetsOf(puppet: Puppet, source: string): { missing: Part[]; here: Part[] } {
  const kind = puppet.parts[source]?.content.kind
  const drawn = Object.values(puppet.parts).filter((p) => p.id !== source && p.content.kind === kind && p.sheet === null)
  return {
    missing: drawn.filter((p) => p.art[puppet.view] === undefined && Object.keys(p.art).length > 0),
    here: drawn.filter((p) => p.art[puppet.view] !== undefined),
  }
}

/** Names of roles that no part plays yet, in the puppet's own convention. */
export function suggestedNames(puppet: Puppet): { name: string; role: string }[] {
  const taken = new Set(Object.values(puppet.parts).map((p) => p.role))
  return ROLES.flatMap((r) => (r.sided ? [roleKey(r.id, 'left'), roleKey(r.id, 'right')] : [r.id]))
    .filter((role) => !taken.has(role))
    .map((role) => ({ role, name: convertName(roleLabel(role), 'character-side', puppet.naming) }))
}

export interface Sending {
  readonly name: string
  /** A part that exists, or null for a new one. */
  readonly to: string | null
  readonly keep: boolean
}

/** Sends the selected area of the source on. The new part is not selected, so that the next piece comes from the same source. */
export async function sendArea(editor: Editor, sending: Sending): Promise<void> {
  const { area, stretch } = useCut.of(editor).getState()
  const source = stretch?.part ?? cutSource(editor)
  const what = stretch ? { kind: 'stretch' as const, stretch: stretch.stretch } : area ? { kind: 'area' as const, area } : null
  if (!what || source === null) return
  const id = freshId('part')
  const { to, keep } = sending
  const name = sending.name.trim()
  const role = suggestedNames(openPuppet(editor)).find((s) => s.name.toLowerCase() === name.toLowerCase())?.role ?? null
  const { parts } = openPuppet(editor)
  const label = `Cut ${to === null ? name : recordOf(parts, to).name} from ${recordOf(parts, source).name}`
  const isDone = await whileBusy(editor, (signal) =>
    work(editor, label, to === null ? [source] : [source, to], (puppet, assets) =>
      editor.jobs.cut({ puppet, source, what, keep, name, role, to, id }, assets, signal),
    ),
  )
  if (!isDone) return
  dropArea(editor)
  useCut.of(editor).setState({ keep: null, last: sending })
  void lookAtNew(editor, to ?? id)
  if (openPuppet(editor).parts[source] === undefined) selectParts(editor, to ?? id)
}

/** `Hand` becomes `Hand 2`, `Hand 2` becomes `Hand 3`. */
function nextName(name: string): string {
  const [, stem, number] = sure(/^(.*?)(?: (\d+))?$/.exec(name))
  return `${stem} ${Number(number ?? 1) + 1}`
}

/** Sends the selected area as the last one was sent. */
export function repeatSending(editor: Editor): void {
  const { last } = useCut.of(editor).getState()
  if (last) void sendArea(editor, { ...last, name: last.to === null ? nextName(last.name) : last.name })
}
