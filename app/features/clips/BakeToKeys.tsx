/** How near baked keys keep to what moves by itself, the button that bakes, and whatever else is done with it. */
import { useState, type ReactNode } from 'react'
import { Button } from '../../ui/Button'
import { NumberField } from '../../ui/NumberField'
import { useClip } from './acting'

/** Degrees that are not seen. */
const USUAL = 0.5

export function BakeToKeys({ onBake, children }: { onBake: (tolerance: number) => void; children?: ReactNode }) {
  const clip = useClip()
  const [tolerance, setTolerance] = useState(USUAL)
  if (!clip) return null
  return (
    <>
      <NumberField
        label="Tolerance"
        value={tolerance}
        unit="°"
        min={0}
        max={20}
        digits={1}
        step={0.1}
        onChange={(v) => setTolerance(v ?? USUAL)}
      />
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button small onClick={() => onBake(tolerance)}>
          Bake to keys
        </Button>
        {children}
      </div>
      <p className="cap mt-1">Baked: {clip.range ? 'the range that plays' : 'all of the clip'}, or between the chosen keys.</p>
    </>
  )
}
