import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/jetbrains-mono'
import './styles/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { type ReactNode, StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router'
import { Toaster, toast } from 'sonner'
import { LibraryPage } from './features/library/LibraryPage'
import { SignIn } from './features/library/SignIn'
import { refuseNativeDrags } from './ui/grip'
import { reloadAfterUpdate } from './editor/updated'
import { loadSkia } from './skia/loadSkia'
import { workerJobs } from './jobs/client'
import { createEditor, EditorProvider } from './editor/editor'
import { applyTheme, useSession } from './editor/session'
import { sure } from '@marionette/core/kernel/sure'

const queries = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: true, retry: 1 } } })

/** The editor of this page. */
const editor = createEditor({ jobs: workerJobs, notify: toast })

applyTheme(useSession.of(editor).getState().theme)
reloadAfterUpdate()
refuseNativeDrags(document)

function Toasts() {
  const theme = useSession((s) => s.theme)
  return (
    <Toaster
      position="bottom-right"
      theme={theme === 'footlights' ? 'dark' : 'light'}
      toastOptions={{ style: { font: '450 13px/18px var(--f-ui)' } }}
    />
  )
}

/** The workshop. What draws takes longest to come, and comes beside it. */
async function loadWorkshop(): Promise<{ Component: () => ReactNode }> {
  void loadSkia().catch(() => undefined)
  return { Component: (await import('./frame/EditorPage')).default }
}

const router = createBrowserRouter([
  {
    HydrateFallback: () => <div className="grid h-full place-items-center text-quiet">Opening the workshop…</div>,
    children: [
      { path: '/', element: <LibraryPage /> },
      { path: '/puppet/:id', element: <Navigate to="parts" replace /> },
      { path: '/puppet/:id/:bench', lazy: loadWorkshop },
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
          <Toasts />
        </Tooltip.Provider>
      </EditorProvider>
    </QueryClientProvider>
  </StrictMode>,
)
