/** Whether a drag lays one bone, or a chain along a curve, and of how many bones. */
import { useDrawBones } from './drawBones'
import { useSession, useTool } from '../../editor/session'
import { Segments } from '../../ui/Segments'
import { SmallNumber } from '../../ui/SmallNumber'
import { StageBar } from '../../stage/StageBar'
import { useEditor } from '../../editor/editor'

const WAYS = [
  { value: 'bone', label: 'One bone' },
  { value: 'curve', label: 'Chain along a curve' },
] as const

export function DrawBonesBar() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, '')
  const { way, count } = useDrawBones()
  if (bench !== 'bones' || tool !== 'draw') return null
  return (
    <StageBar label="Drawing bones">
      <Segments label="What a drag lays" value={way} options={WAYS} onChange={(w) => useDrawBones.of(editor).setState({ way: w })} />
      {way === 'curve' && (
        <SmallNumber
          label="Bones"
          value={count}
          max={64}
          onChange={(v) => useDrawBones.of(editor).setState({ count: Math.max(1, Math.round(v)) })}
        />
      )}
    </StageBar>
  )
}
