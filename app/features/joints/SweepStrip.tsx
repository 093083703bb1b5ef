/** A joint in pictures, the worst angle first; a click poses it so. */
import { useEffect, useState } from 'react'
import { setPose } from '@marionette/core/poses/commands'
import { perform } from '../../editor/document'
import type { SweptJoint } from '../../jobs/cutting'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

export function SweepStrip({ swept }: { swept: SweptJoint }) {
  const editor = useEditor()
  const [urls, setUrls] = useState<readonly string[]>([])
  useEffect(() => {
    const made = swept.pictures.map(({ png }) => URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })))
    setUrls(made)
    return () => made.forEach((url) => URL.revokeObjectURL(url))
  }, [swept])
  const { angles, channel } = swept.sweep
  return (
    <ul aria-label="The joint at its worst angles" className="mt-3 grid grid-cols-2 gap-1.5">
      {swept.pictures.map(({ angle }, i) => {
        const found = angles.find((a) => a.angle === angle)
        const faults = found ? found.holes + found.corners + found.doubled : 0
        return (
          <li key={angle}>
            <button
              type="button"
              aria-label={`Pose at ${Math.round(angle)} degrees`}
              onClick={() => perform(editor, [edit(setPose, { values: { [channel]: angle } })], 'Pose joint')}
              className="block w-full overflow-hidden rounded-lg bg-stage outline-offset-1 hover:shadow-[0_0_0_2px_var(--twine)]"
            >
              {urls[i] ? <img src={urls[i]} alt="" className="block aspect-square w-full" /> : <span className="block aspect-square" />}
              <span className="flex justify-between bg-panel px-1 pt-0.5 text-[11px]">
                <span className="num">{Math.round(angle)}°</span>
                <span className={`num ${faults > 0 ? 'text-brass-ink' : 'text-quiet'}`}>{faults > 0 ? `${faults} px` : 'clean'}</span>
              </span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}
