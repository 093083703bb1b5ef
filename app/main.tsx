import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/jetbrains-mono'
import './styles/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, Outlet, RouterProvider } from 'react-router'
import { LibraryPage } from './features/library/LibraryPage'
import { SignIn } from './features/library/SignIn'
import { waitingNotes } from './editor/notifying'
import { refuseNativeDrags } from './ui/grip'
import { reloadAfterUpdate } from './editor/updated'
import { loadSkia } from './skia/loadSkia'
import { workerJobs } from './jobs/client'
import { createEditor, EditorProvider } from './editor/editor'
import { applyTheme, useSession } from './editor/session'
import { sure } from '@marionette/core/kernel/sure'

const queries = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: true, retry: 1 } } })

const { notify, showWith } = waitingNotes()

/** The editor of this page. */
const editor = createEditor({ jobs: workerJobs, notify })

applyTheme(useSession.of(editor).getState().theme)
reloadAfterUpdate()
refuseNativeDrags(document)

/** The workshop. What draws takes longest to come, and comes beside it. */
const loadWorkshop = (): Promise<typeof import('./frame/EditorPage')> => {
  void loadSkia().catch(() => undefined)
  return import('./frame/EditorPage')
}
const EditorPage = lazy(loadWorkshop)
// Whoever comes by the address of a puppet need not wait for the first picture of the page before it is fetched.
if (location.pathname.startsWith('/puppet/')) void loadWorkshop().catch(() => undefined)

const Notes = lazy(() => import('./frame/Notes'))

function Page() {
  return (
    <Suspense fallback={<div className="grid h-full place-items-center text-quiet">Opening the workshop…</div>}>
      <Outlet />
    </Suspense>
  )
}

const router = createBrowserRouter([
  {
    element: <Page />,
    children: [
      { path: '/', element: <LibraryPage /> },
      { path: '/puppet/:id', element: <Navigate to="parts" replace /> },
      { path: '/puppet/:id/:bench', element: <EditorPage /> },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
])

createRoot(sure(document.getElementById('root'))).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <EditorProvider value={editor}>
        <Tooltip.Provider delayDuration={350} skipDelayDuration={200}>
          <RouterProvider router={router} />
          <SignIn />
          <Suspense>
            <Notes onReady={showWith} />
          </Suspense>
        </Tooltip.Provider>
      </EditorProvider>
    </QueryClientProvider>
  </StrictMode>,
)
