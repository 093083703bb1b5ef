/** Settings of the brush for weights, over the stage. */
import type { BrushMode } from '@marionette/core/artwork/weightBrush'
import { useSession, useTool } from '../state/session'
import { blendedOf } from '@marionette/core/rig/weights'
import { copyPoints, givePoints, pastePoints, smoothPoints } from '../details/pointWeights'
import { useDocument, useRestOf } from '../state/document'
import { chosenPoints, lockWeights, useWeigh, type WeighWay } from '../state/weigh'
import { Button } from '../ui/Button'
import { Segments } from '../ui/Segments'
import { SmallNumber } from '../ui/SmallNumber'
import { StageBar } from '../ui/StageBar'

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
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'bones')
  const selection = useSession((s) => s.selection)
  const bone = selection.kind === 'bone' ? selection.ids[0] : undefined
  const name = useDocument((s) => (bone === undefined ? undefined : s.puppet?.bones[bone]?.name))
  const { way, mode, radius, strength, value, falloff, locked, mirrored } = useWeigh()
  if (bench !== 'bones' || tool !== 'weigh') return null
  return (
    <StageBar label="Brush for weights">
      <Segments label="What a drag does" value={way} options={WAYS} onChange={(w) => useWeigh.setState({ way: w })} />
      {way === 'points' && <PointsBar />}
      {way === 'paint' && (
        <>
          <Segments label="What the brush does" value={mode} options={MODES} onChange={(m) => useWeigh.setState({ mode: m })} />
          <SmallNumber label="Radius" value={radius} max={1000} onChange={(v) => useWeigh.setState({ radius: Math.max(2, v) })} />
          <SmallNumber label="Strength" value={strength} max={100} onChange={(v) => useWeigh.setState({ strength: v })} />
          {mode === 'replace' && <SmallNumber label="Weight" value={value} max={100} onChange={(v) => useWeigh.setState({ value: v })} />}
          <SmallNumber label="Fade" value={falloff} max={100} onChange={(v) => useWeigh.setState({ falloff: v })} />
          <Tick label="Mirror" checked={mirrored} onChange={(on) => useWeigh.setState({ mirrored: on })} />
          {bone !== undefined && name !== undefined && (
            <Tick label={`Lock ${name}`} checked={locked.has(bone)} onChange={(on) => lockWeights(bone, on)} />
          )}
        </>
      )}
    </StageBar>
  )
}

/** How many points are chosen, and what can be done to them at once. */
function PointsBar() {
  const puppet = useRestOf()
  const chosen = useWeigh((s) => s.chosen)
  const selection = useSession((s) => s.selection)
  const picked = chosenPoints(puppet, { chosen })
  const bone = selection.kind === 'bone' ? puppet.bones[selection.ids[0] ?? ''] : undefined
  if (bone && !Object.keys(puppet.parts).some((p) => blendedOf(puppet, p)?.bones.includes(bone.id)))
    return <span className="px-2 text-xs whitespace-nowrap text-quiet">Nothing bends with {bone.name}. Bind a part blended first.</span>
  if (!picked) return <span className="px-2 text-xs whitespace-nowrap text-quiet">Drag around points. Shift adds, Alt takes out.</span>
  const count = picked.points.length
  return (
    <>
      <span className="px-2 text-xs whitespace-nowrap text-quiet">
        <span className="num text-ink">{count}</span> {count === 1 ? 'point' : 'points'} of {puppet.parts[picked.part]!.name}
      </span>
      {bone && (
        <Button small kind="ink" onClick={() => givePoints(bone.id)}>
          Give to {bone.name}
        </Button>
      )}
      <Button small onClick={smoothPoints}>
        Smooth
      </Button>
      <Button small onClick={copyPoints}>
        Copy
      </Button>
      <Button small onClick={pastePoints}>
        Paste
      </Button>
    </>
  )
}

function Tick({ label, checked, onChange }: { label: string; checked: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-1.5 text-xs whitespace-nowrap text-quiet">
      <input type="checkbox" className="size-4 accent-[var(--verdigris)]" checked={checked} onChange={(e) => onChange(e.target.checked)} />
      {label}
    </label>
  )
}
