/** What a drag does where pins are worked on: moves them, or paints how stiff their mesh is. */
import type { StiffnessMode } from '@marionette/core/deformers/stiffness'
import { deformerOf, useDeform } from './worked'
import { usePuppet } from '../../editor/document'
import { useSession, useTool } from '../../editor/session'
import { Segments } from '../../ui/Segments'
import { SmallNumber } from '../../ui/SmallNumber'
import { StageBar } from '../../stage/StageBar'
import { useEditor } from '../../editor/editor'

const WAYS = [
  { value: 'handles', label: 'Pins' },
  { value: 'stiffness', label: 'Stiffness' },
] as const

const MODES: readonly { readonly value: StiffnessMode; readonly label: string }[] = [
  { value: 'stiffer', label: 'Stiffer' },
  { value: 'softer', label: 'Softer' },
  { value: 'even', label: 'Even' },
]

export function DeformBar() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'pose')
  const selection = useSession((s) => s.selection)
  const { deformer, way, mode, radius, strength } = useDeform()
  const kind = usePuppet((p) => deformerOf(selection.kind === 'part' ? p.parts[selection.ids[0] ?? ''] : undefined, deformer)?.kind)
  if (bench !== 'shape' || tool !== 'deform' || kind !== 'pins') return null
  return (
    <StageBar label="Pins and stiffness">
      <Segments label="What a drag does" value={way} options={WAYS} onChange={(w) => useDeform.of(editor).setState({ way: w })} />
      {way === 'stiffness' && (
        <>
          <Segments label="What the brush does" value={mode} options={MODES} onChange={(m) => useDeform.of(editor).setState({ mode: m })} />
          <SmallNumber
            label="Radius"
            value={radius}
            max={1000}
            onChange={(v) => useDeform.of(editor).setState({ radius: Math.max(2, v) })}
          />
          <SmallNumber label="Strength" value={strength} max={100} onChange={(v) => useDeform.of(editor).setState({ strength: v })} />
        </>
      )}
    </StageBar>
  )
}
