/**
 * compile(puppet) -> Rig: the document as typed arrays, made once per structural change.
 *
 * Documents share what an edit did not touch, so fields that are the same object are as they were. A stage is made anew where the edit
 * touched what it reads, where its key differs, or where a stage before it was made anew; all others keep their tables. What takes
 * long is remembered under the drawing or bind that it depends on besides.
 */
import type { Puppet } from './schema'
import type { Rig } from './rig'
import { STAGES } from './stages'
import { isSameBut, touchedBetween, type Fields } from './touched'

/** Whether an edit changed what a stage takes from the puppet itself. A drag touches the pose at every step: keys of all else rest. */
function isChangedFor({ reads = [], keys = [] }: (typeof STAGES)[number], before: Puppet, after: Puppet, touched: Fields): boolean {
  const isTouched = (fields: readonly (keyof Puppet)[]): boolean => fields.some((field) => touched.has(field))
  return isTouched(reads) || keys.some((key) => isTouched(key.reads) && key.of(after) !== key.of(before))
}

/**
 * Makes a rig.
 *
 * @param previous a rig of the same puppet before an edit; given back where the edit changed nothing but the pose and clips, which no table holds
 */
export function compile(puppet: Puppet, previous?: Rig): Rig {
  const touched = previous && touchedBetween(previous.puppet, puppet)
  const stale = new Set<string>()
  const rig: Partial<Rig> & { puppet: Puppet } = { ...previous, puppet }
  for (const stage of STAGES) {
    if (!stage.compile) continue
    const isStale = !previous || stage.after?.some((name) => stale.has(name)) || isChangedFor(stage, previous.puppet, puppet, touched!)
    if (!isStale) continue
    stale.add(stage.name)
    Object.assign(rig, stage.compile(puppet, rig as Rig))
  }
  // Clips are made ready by whoever shows one (playing/clips.ts).
  const isKept = previous && stale.size === 0 && isSameBut(previous.puppet, puppet, 'pose', 'clips')
  return isKept ? previous : (rig as Rig)
}
