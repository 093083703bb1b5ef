/** Right: what is selected, in numbers. */
import { useDocument } from '../state/document'
import { useSession } from '../state/session'
import { SendDetails } from '../send/SendDetails'
import { BoneDetails } from './BoneDetails'
import { PartDetails } from './PartDetails'
import { PuppetDetails } from './PuppetDetails'

export function Details() {
  const selection = useSession((s) => s.selection)
  const bench = useSession((s) => s.bench)
  const first = selection.ids[0]
  const exists = useDocument(
    (s) => first !== undefined && s.puppet !== null && (selection.kind === 'part' ? first in s.puppet.parts : first in s.puppet.bones),
  )
  return (
    <aside aria-label="Details" className="scroll-thin flex min-h-0 flex-col overflow-y-auto pt-2 pr-4 pb-3 pl-5">
      {bench === 'send' ? (
        <SendDetails />
      ) : !exists ? (
        <PuppetDetails />
      ) : selection.kind === 'part' ? (
        <PartDetails id={first!} />
      ) : (
        <BoneDetails id={first!} />
      )}
      {selection.ids.length > 1 && bench !== 'send' && <p className="cap mt-1">and {selection.ids.length - 1} more selected</p>}
    </aside>
  )
}
