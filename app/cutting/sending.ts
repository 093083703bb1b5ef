/** Sending what is selected on: to a new part, to one that exists, or as the last piece was sent. */
import { ROLES, roleKey, roleLabel } from '@marionette/core/roles/roles'
import { convertName } from '@marionette/core/roles/naming'
import { freshId } from '@marionette/core/document/ids'
import type { Puppet } from '@marionette/core/document/schema'
import { openPuppet } from '../state/document'
import { useCut } from '../state/cut'
import { selectParts, useSession } from '../state/session'
import { work } from '../state/work'
import { cutInWorker } from '../workers/client'

/** The part that is cut: the selected one. */
export function cutSource(): string | null {
  const { selection } = useSession.getState()
  const [id] = selection.ids
  return selection.kind === 'part' && id !== undefined && openPuppet().parts[id] ? id : null
}

/** Kept where it is all that the artwork had, one flat figure; a piece is cut. What came out of a cut has no file. */
export function keepsByItself(puppet: Puppet, source: string): boolean {
  const fromFile = Object.values(puppet.parts).filter((p) => p.source !== null && p.content.kind !== 'group')
  return fromFile.length === 1 && fromFile[0]!.id === source
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
export async function sendArea(sending: Sending): Promise<void> {
  const { area, stretch, busy } = useCut.getState()
  const source = stretch?.part ?? cutSource()
  if ((!area && !stretch) || source === null || busy) return
  const id = freshId('part')
  const { name, to, keep } = sending
  const role = suggestedNames(openPuppet()).find((s) => s.name.toLowerCase() === name.trim().toLowerCase())?.role ?? null
  const from = openPuppet().parts[source]!.name
  useCut.setState({ busy: true })
  const isDone = await work(`Cut ${to === null ? name : openPuppet().parts[to]!.name} from ${from}`, (puppet, assets) =>
    cutInWorker({ puppet, source, area, stretch: stretch?.stretch ?? null, keep, name: name.trim(), role, to, id }, assets),
  )
  useCut.setState({ busy: false, ...(isDone && { area: null, stretch: null, keep: null, last: sending }) })
  if (isDone && openPuppet().parts[source] === undefined) selectParts(to ?? id)
}

/** `Hand` becomes `Hand 2`, `Hand 2` becomes `Hand 3`. */
function nextName(name: string): string {
  const [, stem, number] = /^(.*?)(?: (\d+))?$/.exec(name)!
  return `${stem} ${Number(number ?? 1) + 1}`
}

/** Sends the selected area as the last one was sent. */
export function repeatSending(): void {
  const { last } = useCut.getState()
  if (last) void sendArea({ ...last, name: last.to === null ? nextName(last.name) : last.name })
}
