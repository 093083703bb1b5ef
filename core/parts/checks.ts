/** What must hold of parts. */
import type { Problem } from '../kernel/problem'
import type { Check } from '../kernel/records'
import { treeProblems } from '../kernel/trees'
import { drawingBy, pictureBy } from '../artwork/art'

/** How deep parts may lie in groups: far more than anyone needs, and far less than breaks a walk. */
export const DEEPEST_PART = 1024

/** What must hold of every part. */
export const partChecks: readonly Check[] = [
  { stage: 'trees', needs: ['parts', 'root'], find: ({ parts, root }) => treeProblems('parts', parts, [root], DEEPEST_PART) },
  {
    stage: 'records',
    needs: ['parts', 'views', 'drawings', 'pictures'],
    find({ parts, drawings, pictures }) {
      const out: Problem[] = []
      for (const { id, merged, content, art } of Object.values(parts)) {
        if (merged !== null && (content.kind !== 'group' || !pictures[merged]))
          out.push({ path: `parts.${id}.merged`, message: 'is merged into a picture that is not there' })
        for (const [view, shown] of Object.entries(art)) {
          const exists = content.kind === 'picture' ? pictureBy({ pictures }, shown) : drawingBy({ drawings }, shown)
          if (!exists) out.push({ path: `parts.${id}.art.${view}`, message: `shows the missing ${content.kind} "${shown}"` })
        }
      }
      return out
    },
  },
]
