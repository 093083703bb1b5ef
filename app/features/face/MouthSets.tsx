/** Which set of mouth shapes is used, where a puppet has a few. */
import { nth } from '@marionette/core/kernel/sure'
import { usePuppet } from '../../editor/document'
import { Segments } from '../../ui/Segments'

export function MouthSets({ mood, onChange }: { mood: string; onChange: (mood: string) => void }) {
  const names = usePuppet((p) => [...new Set(Object.values(p.parts).flatMap((q) => (q.swap?.sets ?? []).map((s) => s.name)))].join('\n'))
  const list = names === '' ? [] : names.split('\n')
  if (list.length < 2 || list.length > 4) return null
  return (
    <div className="mt-2">
      <Segments
        label="Set of mouth shapes"
        value={list.includes(mood) ? mood : nth(list, 0)}
        options={list.map((name) => ({ value: name, label: name }))}
        onChange={onChange}
      />
    </div>
  )
}
