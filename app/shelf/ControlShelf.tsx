/** Bottom: the puppet's controls, playable in every bench. Until controls can be made, it holds the way back to rest. */
import { ChevronRight, ChevronDown, RotateCcw } from 'lucide-react'
import { boneChannel, movedChannels } from '@marionette/core/document/channels'
import { edit } from '@marionette/core/edit/command'
import { resetPose } from '@marionette/core/edit/pose'
import { openPuppet, perform, usePuppet } from '../state/document'
import { isRestShown, useSession } from '../state/session'
import { Button, Hint } from '../ui/Button'
import { ChannelField } from '../details/ChannelField'

const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`

/** What the pose moves, in words. */
function movedWords(bones: number, others: number): string {
  if (others === 0) return `${counted(bones, 'bone')} turned.`
  return bones === 0
    ? `${counted(others, 'value')} changed.`
    : `${counted(bones, 'bone')} turned, ${counted(others, 'other value')} changed.`
}

export function ControlShelf() {
  const open = useSession((s) => s.shelfOpen)
  const isRest = useSession(isRestShown)
  const pose = usePuppet((p) => p.pose)
  const bones = usePuppet((p) => p.bones)
  const posed = movedChannels(openPuppet())
  const turned = Object.values(bones).filter((b) => boneChannel(b.id, 'angle') in pose)
  return (
    <section aria-label="Controls" className="flex-none px-3">
      <div className="flex h-12 items-center gap-4">
        <button
          type="button"
          aria-expanded={open}
          onClick={() => useSession.setState({ shelfOpen: !open })}
          className="flex items-center gap-1.5 font-[650]"
        >
          {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />} Controls
        </button>
        <span className="flex-1 truncate text-xs text-quiet">
          {isRest
            ? 'Bones shows the rest; the pose waits in the other benches.'
            : posed.length === 0
              ? 'The puppet is at rest.'
              : movedWords(turned.length, posed.length - turned.length)}
        </span>
        <Hint label="Whole puppet back to rest" keys="Shift 0" side="top">
          <Button small disabled={posed.length === 0} onClick={() => perform([edit(resetPose, { channels: null })])}>
            <RotateCcw size={13} /> Rest
          </Button>
        </Hint>
      </div>
      {open && (
        <div className="scroll-thin grid max-h-36 grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-6 overflow-y-auto pb-3 pl-3">
          {turned.length === 0 && <p className="text-quiet">Bones that are turned show up here with their angle.</p>}
          {turned.map((b) => (
            <ChannelField key={b.id} address={boneChannel(b.id, 'angle')} label={b.name} />
          ))}
        </div>
      )}
    </section>
  )
}
