/** Settings of the brush for weights, over the stage. */
import type { BrushMode } from '@marionette/core/artwork/weightBrush'
import { useSession, useTool } from '../state/session'
import { useDocument } from '../state/document'
import { lockWeights, useWeigh } from '../state/weigh'
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

export function WeighBar() {
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'bones')
  const selection = useSession((s) => s.selection)
  const bone = selection.kind === 'bone' ? selection.ids[0] : undefined
  const name = useDocument((s) => (bone === undefined ? undefined : s.puppet?.bones[bone]?.name))
  const { mode, radius, strength, value, falloff, locked, mirrored } = useWeigh()
  if (bench !== 'bones' || tool !== 'weigh') return null
  return (
    <StageBar label="Brush for weights">
      <Segments label="What the brush does" value={mode} options={MODES} onChange={(m) => useWeigh.setState({ mode: m })} />
      <SmallNumber label="Radius" value={radius} max={1000} onChange={(v) => useWeigh.setState({ radius: Math.max(2, v) })} />
      <SmallNumber label="Strength" value={strength} max={100} onChange={(v) => useWeigh.setState({ strength: v })} />
      {mode === 'replace' && <SmallNumber label="Weight" value={value} max={100} onChange={(v) => useWeigh.setState({ value: v })} />}
      <SmallNumber label="Fade" value={falloff} max={100} onChange={(v) => useWeigh.setState({ falloff: v })} />
      <Tick label="Mirror" checked={mirrored} onChange={(on) => useWeigh.setState({ mirrored: on })} />
      {bone !== undefined && name !== undefined && (
        <Tick label={`Lock ${name}`} checked={locked.has(bone)} onChange={(on) => lockWeights(bone, on)} />
      )}
    </StageBar>
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
