/** How much of a recording has been listened to, and how to stop that. */
import { Button } from './Button'

export const Listening = ({ heard, onCancel }: { heard: number; onCancel: () => void }) => (
  <div className="mt-2 flex items-center gap-2">
    <progress aria-label="Listening" className="h-1.5 min-w-0 flex-1" value={heard} />
    <span className="cap">Listening… {Math.round(100 * heard)}%</span>
    <Button small onClick={onCancel}>
      Cancel
    </Button>
  </div>
)
