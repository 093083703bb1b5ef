/** Building a mouth: which parts are what, how far it opens, and whether the jaw goes along. */
import { useState } from 'react'
import { lipsProblem, mouthEdits, type MouthParts } from '@marionette/core/face/mouth'
import { freshId } from '@marionette/core/kernel/ids'
import { restBounds } from '@marionette/core/parts/tree'
import { openPuppet, usePuppet } from '../../editor/document'
import { NumberField } from '../../ui/NumberField'
import { build } from './building'
import { BuildSheet } from './BuildSheet'
import { JawLine } from './JawLine'
import { RolePick } from './RolePick'
import { foundByName } from './roles'
import { useEditor } from '../../editor/editor'

export default function MouthSheet() {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const [parts, setParts] = useState<MouthParts | null>(null)
  const [opening, setOpening] = useState(55)
  const [face, setFace] = useState(() => foundByName(openPuppet(editor), /face|head|skull|muzzle/i))
  const [jaw, setJaw] = useState(30)
  const [drawnLine, setLine] = useState<number | null>(null)
  const found = parts ?? {
    lips: foundByName(puppet, /lips?\b|mouth/i) ?? '',
    teethUpper: foundByName(puppet, /teeth(?!.*lower)|upper.*teeth/i),
    teethLower: foundByName(puppet, /lower.*teeth|teeth.*lower/i),
    tongue: foundByName(puppet, /tongue/i),
    along: [],
    below: [],
  }
  const change = (by: Partial<MouthParts>): void => setParts({ ...found, ...by })
  const problem = found.lips === '' ? 'Choose the drawing that is the mouth.' : lipsProblem(puppet, found.lips)
  const lips = found.lips === '' ? null : restBounds(puppet, found.lips)
  const region = face === null ? null : restBounds(puppet, face)
  // Through the mouth, until somebody draws it elsewhere.
  const line = drawnLine ?? (lips ? (lips.minY + lips.maxY) / 2 : 0)
  const make = (): void => {
    const now = openPuppet(editor)
    const plan = { parts: found, jaw: face && jaw > 0 ? { face, line, amount: jaw / 100 } : null, opening: opening / 100 }
    build(editor, mouthEdits(now, plan, freshId('mouth')), 'Build a mouth')
  }
  return (
    <BuildSheet
      title="Build a mouth"
      wide={region !== null}
      problem={problem}
      button="Build the mouth"
      onBuild={make}
      text="Teeth and tongue get masks, the line of the lips goes on top, and sliders open, widen and bend it. All of it can be corrected by recording."
    >
      <div className={region ? 'grid grid-cols-[1fr_250px] gap-6' : ''}>
        <div>
          <RolePick label="Mouth" value={found.lips} onChange={(lips) => change({ lips: lips ?? '' })} />
          <RolePick label="Upper teeth" value={found.teethUpper} onChange={(teethUpper) => change({ teethUpper })} />
          <RolePick label="Lower teeth" value={found.teethLower} onChange={(teethLower) => change({ teethLower })} />
          <RolePick label="Tongue" value={found.tongue} onChange={(tongue) => change({ tongue })} />
          <RolePick label="Corners" value={found.along[0] ?? null} onChange={(part) => change({ along: part ? [part] : [] })} />
          <RolePick label="Below it" value={found.below[0] ?? null} onChange={(part) => change({ below: part ? [part] : [] })} />
          <RolePick label="Jaw in" value={face} onChange={setFace} />
          <div className="mt-2 flex gap-6">
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
        {region && jaw > 0 && (
          <div>
            <JawLine region={region} line={line} onChange={setLine} />
            <p className="cap mt-1.5">The line of the jaw: what lies below goes down with the mouth, what lies above stays.</p>
          </div>
        )}
      </div>
    </BuildSheet>
  )
}
