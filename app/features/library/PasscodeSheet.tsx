/** The door: asks for the passcode where the library has one. It lies over the page, so that nothing on it is lost by signing in again. */
import { useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { signIn } from '../../storage/api'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'

export default function PasscodeSheet({ onSignedIn }: { onSignedIn: () => void }) {
  const [passcode, setPasscode] = useState('')
  const [trouble, setTrouble] = useState<string | null>(null)
  const queries = useQueryClient()
  const enter = async (event: FormEvent): Promise<void> => {
    event.preventDefault()
    try {
      await signIn(passcode)
      onSignedIn()
      // What saves goes on by itself; what only looked is asked again.
      window.dispatchEvent(new Event('online'))
      await queries.invalidateQueries()
    } catch (error) {
      setTrouble((error as Error).message)
    }
  }
  return (
    <Sheet open title="This library asks for its passcode" text="Whoever set it up can tell you. What is open on this page stays.">
      <form onSubmit={(e) => void enter(e)} className="flex flex-col gap-2 p-1">
        <label className="cap" htmlFor="passcode">
          Passcode
        </label>
        <input
          id="passcode"
          type="password"
          autoComplete="current-password"
          autoFocus
          value={passcode}
          onChange={(e) => setPasscode(e.target.value)}
          className="h-9 rounded-lg border border-hair bg-transparent px-3"
        />
        {trouble && (
          <p role="alert" className="text-cord">
            {trouble}
          </p>
        )}
        <div className="mt-2 flex justify-end">
          <Button kind="ink" type="submit" disabled={passcode === ''}>
            Sign in
          </Button>
        </div>
      </form>
    </Sheet>
  )
}
