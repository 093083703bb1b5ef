/** A joint in pictures, the worst angle first; a click poses it so. */
import { useEffect, useState } from 'react'
import { setPose } from '@marionette/core/poses/commands'
import { perform } from '../../editor/document'
import type { SweptJoint } from '../../jobs/cutting'
import { edit } from '@marionette/core/kernel/command'
import { decidingFault, worstFaults } from '@marionette/core/reports/sweepGrade'
import { GradeMark } from './GradeMark'
import { useEditor } from '../../editor/editor'

export function SweepStrip({ swept }: { swept: SweptJoint }) {
  const editor = useEditor()
  const [urls, setUrls] = useState<readonly string[]>([])
  useEffect(() => {
    const made = swept.pictures.map(({ png }) => URL.createObjectURL(new Blob([png as Uint8Array<ArrayBuffer>], { type: 'image/png' })))
    setUrls(made)
    return () => made.forEach((url) => URL.revokeObjectURL(url))
  }, [swept])
  const { angles, channel, scale } = swept.sweep
  return (
    <ul aria-label="The joint at its worst angles" className="mt-3 grid grid-cols-2 gap-1.5">
      {swept.pictures.map(({ angle }, i) => {
        const found = angles.find((a) => a.angle === angle)
        const largest = found && decidingFault(worstFaults([found], scale))
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
                {largest && <GradeMark fault={largest} />}
              </span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}
