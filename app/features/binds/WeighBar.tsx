/** Settings of the brush for weights, over the stage. */
import { pluralOf } from '@marionette/core/kernel/counted'
import type { BrushMode } from '@marionette/core/binds/weightBrush'
import { useSession, useTool } from '../../editor/session'
import { blendedOf } from '@marionette/core/placement/posedWeights'
import { copyPoints, givePoints, pastePoints, smoothPoints } from './pointWeights'
import { useDocument, useRestOf } from '../../editor/document'
import { chosenPoints, lockWeights, useWeigh, type WeighWay } from './brush'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { SmallNumber } from '../../ui/SmallNumber'
import { StageBar } from '../../stage/StageBar'
import { Tick } from '../../ui/Tick'
import { useEditor } from '../../editor/editor'
import { partOf } from '@marionette/core/parts/lookup'

const MODES: readonly { readonly value: BrushMode; readonly label: string }[] = [
  { value: 'add', label: 'Add' },
  { value: 'remove', label: 'Remove' },
  { value: 'smooth', label: 'Smooth' },
  { value: 'replace', label: 'Set' },
  { value: 'sharpen', label: 'Sharpen' },
]

const WAYS: readonly { readonly value: WeighWay; readonly label: string }[] = [
  { value: 'paint', label: 'Paint' },
  { value: 'points', label: 'Points' },
]

export function WeighBar() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'bones')
  const selection = useSession((s) => s.selection)
  const bone = selection.kind === 'bone' ? selection.ids[0] : undefined
  const name = useDocument((s) => (bone === undefined ? undefined : s.puppet?.bones[bone]?.name))
  const { way, mode, radius, strength, value, falloff, locked, mirrored } = useWeigh()
  if (bench !== 'bones' || tool !== 'weigh') return null
  return (
    <StageBar label="Brush for weights">
      <Segments label="What a drag does" value={way} options={WAYS} onChange={(w) => useWeigh.of(editor).setState({ way: w })} />
      {way === 'points' && <PointsBar />}
      {way === 'paint' && (
        <>
          <Segments label="What the brush does" value={mode} options={MODES} onChange={(m) => useWeigh.of(editor).setState({ mode: m })} />
          <SmallNumber
            label="Radius"
            value={radius}
            max={1000}
            onChange={(v) => useWeigh.of(editor).setState({ radius: Math.max(2, v) })}
          />
          <SmallNumber label="Strength" value={strength} max={100} onChange={(v) => useWeigh.of(editor).setState({ strength: v })} />
          {mode === 'replace' && (
            <SmallNumber label="Weight" value={value} max={100} onChange={(v) => useWeigh.of(editor).setState({ value: v })} />
          )}
          <SmallNumber label="Fade" value={falloff} max={100} onChange={(v) => useWeigh.of(editor).setState({ falloff: v })} />
          <Tick small checked={mirrored} onChange={(on) => useWeigh.of(editor).setState({ mirrored: on })}>
            Mirror
          </Tick>
          {bone !== undefined && name !== undefined && (
            <Tick small checked={locked.has(bone)} onChange={(on) => lockWeights(editor, bone, on)}>
              Lock {name}
            </Tick>
          )}
        </>
      )}
    </StageBar>
  )
}

/** How many points are chosen, and what can be done to them at once. */
function PointsBar() {
  const editor = useEditor()
  const puppet = useRestOf()
  const chosen = useWeigh((s) => s.chosen)
  const selection = useSession((s) => s.selection)
  const picked = chosenPoints(editor, puppet, { chosen })
  const bone = selection.kind === 'bone' ? puppet.bones[selection.ids[0] ?? ''] : undefined
  if (bone && !Object.keys(puppet.parts).some((p) => blendedOf(puppet, p)?.bones.includes(bone.id)))
    return <span className="px-2 text-xs whitespace-nowrap text-quiet">Nothing bends with {bone.name}. Bind a part smoothly first.</span>
  if (!picked) return <span className="px-2 text-xs whitespace-nowrap text-quiet">Drag around points. Shift adds, Alt takes out.</span>
  const count = picked.points.length
  return (
    <>
      <span className="px-2 text-xs whitespace-nowrap text-quiet">
        <span className="num text-ink">{count}</span> {pluralOf(count, 'point')} of {partOf(puppet, picked.part).name}
      </span>
      {bone && (
        <Button small kind="ink" onClick={() => givePoints(editor, bone.id)}>
          Give to {bone.name}
        </Button>
      )}
      <Button small onClick={() => smoothPoints(editor)}>
        Smooth
      </Button>
      <Button small onClick={() => copyPoints(editor)}>
        Copy
      </Button>
      <Button small onClick={() => pastePoints(editor)}>
        Paste
      </Button>
    </>
  )
}
