/** What can be done to the weights of a blended part as a whole. */
import { blendedOf } from '@marionette/core/placement/posedWeights'
import { useRestOf } from '../../editor/document'
import { Button } from '../../ui/Button'
import { Field } from '../../panels/Group'
import { Pick } from '../../ui/Pick'
import {
  copyWeights,
  hasCopiedWeights,
  mirrorWeights,
  pasteWeights,
  pruneWeights,
  reachWeights,
  shareBorder,
  smoothWeights,
  takeWeights,
} from './weightMaking'
import { useEditor } from '../../editor/editor'

export function WeightTools({ id }: { id: string }) {
  const editor = useEditor()
  const puppet = useRestOf()
  const others = Object.values(puppet.parts).filter((p) => p.id !== id && blendedOf(puppet, p.id))
  const options = [{ id: '', label: 'Choose a part' }, ...others.map((p) => ({ id: p.id, label: p.name }))]
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <div className="flex flex-wrap gap-1.5">
        <Button small onClick={() => void smoothWeights(editor, id)}>
          Smooth weights
        </Button>
        <Button small onClick={() => void pruneWeights(editor, id)}>
          Prune
        </Button>
        <Button small onClick={() => void mirrorWeights(editor, id, -1)}>
          Mirror left
        </Button>
        <Button small onClick={() => void mirrorWeights(editor, id, 1)}>
          Mirror right
        </Button>
      </div>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        <Button small onClick={() => copyWeights(editor, id)}>
          Copy
        </Button>
        <Button
          small
          onClick={() => void (hasCopiedWeights(editor) ? pasteWeights(editor, id) : editor.notify('Copy the weights of a part first.'))}
        >
          Paste
        </Button>
        <Button small onClick={() => void reachWeights(editor, id)}>
          Weigh by reach
        </Button>
      </div>
      <p className="mt-1 text-xs text-quiet">Reach goes by each bone’s own influence. Weights of a point always make up 100%.</p>
      {others.length > 0 && (
        <>
          <Field label="Take from">
            <Pick
              label="Part whose weights are taken over"
              value=""
              options={options}
              onChange={(from) => from && void takeWeights(editor, id, from)}
            />
          </Field>
          <Field label="Border with">
            <Pick
              label="Part to share the border with"
              value=""
              options={options}
              onChange={(other) => other && void shareBorder(editor, id, other)}
            />
          </Field>
        </>
      )}
    </div>
  )
}
