/** What the Face bench shows beside the usual details: the swap at hand, a line to try, masks, flipbooks. */
import type { Part, Puppet, Swap } from '@marionette/core/puppet/schema'
import { partPath } from '@marionette/core/parts/tree'
import { usePuppet } from '../../editor/document'
import { openPanel, useSession } from '../../editor/session'
import { Button } from '../../ui/Button'
import { BoardGroup } from './BoardGroup'
import { FlipbookGroup } from './FlipbookGroup'
import { MaskGroup } from '../layering/MaskGroup'
import { SpeakGroup } from './SpeakGroup'
import { MakeSwap, SwapGroup, SwapOfSelection } from './SwapGroup'
import { useEditor } from '../../editor/editor'

const isSwap = (part: Part | undefined): part is Part & { swap: Swap } => part !== undefined && part.swap !== null

/** The swap that is meant: the nearest one that the selected part is, or is in; without a selection one that speaks. */
function swapAtHand(puppet: Puppet, selected: string | undefined): string | null {
  if (selected !== undefined && puppet.parts[selected]) return partPath(puppet, selected).findLast(isSwap)?.id ?? null
  const all = Object.values(puppet.parts).filter(isSwap)
  return (all.find((p) => p.swap.sets.length > 0) ?? all[0])?.id ?? null
}

export default function FaceDetails() {
  const editor = useEditor()
  const selection = useSession((s) => s.selection)
  const first = selection.kind === 'part' ? selection.ids[0] : undefined
  const id = usePuppet((p) => swapAtHand(p, first))
  const swap = usePuppet((p) => (id === null ? undefined : p.parts[id]))
  const part = usePuppet((p) => (first === undefined || first === p.root ? undefined : p.parts[first]))
  return (
    <>
      {isSwap(swap) && <SwapGroup key={swap.id} part={swap} />}
      <SpeakGroup />
      <BoardGroup />
      {part && <MaskGroup key={part.id} part={part} />}
      {isSwap(swap) && <FlipbookGroup part={swap} />}
      {selection.ids.length > 1 && first !== undefined ? (
        <SwapOfSelection count={selection.ids.length} />
      ) : (
        part && !part.swap && <MakeSwap part={part} />
      )}
      <div className="flex gap-1.5 border-t border-hair py-3">
        <Button small onClick={() => openPanel(editor, 'mouth')}>
          Build a mouth…
        </Button>
        <Button small onClick={() => openPanel(editor, 'eyes')}>
          Build eyes…
        </Button>
      </div>
      {!part && !isSwap(swap) && (
        <p className="cap mt-3">Select a group of mouths, eyes or lids: one of its parts shows at a time once they are alternates.</p>
      )}
    </>
  )
}
