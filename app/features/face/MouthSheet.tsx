/** Building a mouth: which parts are what, how far it opens, and whether the jaw goes along. */
import { useState } from 'react'
import { lipsProblem, mouthEdits } from '@marionette/core/face/mouth/build'
import { builtMouth, foundMouth } from '@marionette/core/face/mouth/find'
import type { MouthParts } from '@marionette/core/face/mouth/plan'
import { freshId } from '@marionette/core/kernel/ids'
import { restBounds } from '@marionette/core/parts/tree'
import { openPuppet, usePuppet } from '../../editor/document'
import { NumberField } from '../../ui/NumberField'
import { build } from './building'
import { BuildSheet } from './BuildSheet'
import { Known } from './Known'
import { JawLine } from './JawLine'
import { RolePick } from './RolePick'
import { foundByName } from './roles'
import { useEditor } from '../../editor/editor'

/** Roles that one part plays each. */
const ROLES = [
  ['Upper teeth', 'teethUpper'],
  ['Lower teeth', 'teethLower'],
  ['Tongue', 'tongue'],
  ['Lower beak', 'lowerBeak'],
] as const
/** Roles that several could play. */
const BESIDE = [
  ['Corners', 'along'],
  ['Below it', 'below'],
] as const

export default function MouthSheet() {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const [parts, setParts] = useState(() => foundMouth(openPuppet(editor)))
  const [opening, setOpening] = useState(55)
  const [face, setFace] = useState(() => foundByName(openPuppet(editor), /face|head|skull|muzzle/i))
  const [jaw, setJaw] = useState(30)
  const [drawnLine, setLine] = useState<number | null>(null)
  const change = (by: Partial<MouthParts>): void => setParts((now) => ({ ...now, ...by }))
  const lips = puppet.parts[parts.lips] ? restBounds(puppet, parts.lips) : null
  const region = face === null ? null : restBounds(puppet, face)
  const isBeak = parts.lowerBeak !== null
  const problem = !lips ? 'Choose the drawing that is the mouth.' : isBeak ? null : lipsProblem(puppet, parts.lips)
  // Through the mouth, until somebody draws it elsewhere.
  const line = drawnLine ?? (lips ? (lips.minY + lips.maxY) / 2 : 0)
  const known = builtMouth(puppet)
  const make = (): void => {
    const now = openPuppet(editor)
    const plan = { parts, jaw: face && jaw > 0 ? { face, line, amount: jaw / 100 } : null, opening: opening / 100 }
    build(editor, mouthEdits(now, plan, known?.id ?? freshId('mouth')), known ? 'Build the mouth anew' : 'Build a mouth')
  }
  return (
    <BuildSheet
      title={known ? 'The mouth' : 'Build a mouth'}
      wide={region !== null}
      problem={problem}
      button={known ? 'Build it anew' : 'Build the mouth'}
      onBuild={make}
      text="Teeth and tongue get masks, the line of the lips goes on top, and sliders open, close, widen and bend it. All of it can be corrected by recording."
    >
      {known && (
        <Known control={known.control}>
          “{puppet.parts[known.lips]?.name ?? 'A part'}” is a mouth already.{' '}
          {known.id === null ? 'Building makes a second one.' : 'Building it anew replaces what its sliders do.'}
        </Known>
      )}
      <div className={region ? 'grid grid-cols-[1fr_250px] gap-6' : ''}>
        <div>
          <RolePick label={isBeak ? 'Upper beak' : 'Mouth'} value={parts.lips} onChange={(id) => change({ lips: id ?? '' })} />
          {ROLES.map(([label, role]) => (
            <RolePick key={role} label={label} value={parts[role]} onChange={(part) => change({ [role]: part })} />
          ))}
          {BESIDE.map(([label, role]) => (
            <RolePick key={role} label={label} value={parts[role][0] ?? null} onChange={(part) => change({ [role]: part ? [part] : [] })} />
          ))}
          <RolePick label="Jaw in" value={face} onChange={setFace} />
          <div className="mt-2">
            <NumberField
              label="Opens by"
              value={opening}
              unit="% of its width"
              min={5}
              max={200}
              digits={0}
              onChange={(v) => v !== null && setOpening(v)}
            />
          </div>
          <NumberField
            label="Jaw takes"
            value={jaw}
            unit="% of it"
            min={0}
            max={100}
            digits={0}
            onChange={(v) => v !== null && setJaw(v)}
          />
        </div>
        {region && jaw > 0 && !isBeak && (
          <div>
            <JawLine region={region} line={line} onChange={setLine} />
            <p className="cap mt-1.5">The line of the jaw: what lies below goes down with the mouth, what lies above stays.</p>
          </div>
        )}
      </div>
    </BuildSheet>
  )
}
