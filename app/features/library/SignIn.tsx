/** Asks for the passcode of the library when it has one and nobody is signed in. */
import { lazy, Suspense, useEffect, useState } from 'react'
import { onSignedOut, readSession } from '../../storage/api'

const PasscodeSheet = lazy(() => import('./PasscodeSheet'))

export function SignIn() {
  const [isAsked, setAsked] = useState(false)
  useEffect(() => {
    readSession().then(
      ({ signedIn }) => setAsked(!signedIn),
      () => undefined,
    )
    return onSignedOut(() => setAsked(true))
  }, [])
  return <Suspense>{isAsked && <PasscodeSheet onSignedIn={() => setAsked(false)} />}</Suspense>
}
