import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/jetbrains-mono'
import './styles/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
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
const loadWorkshop = (): Promise<typeof import('./frame/EditorPage')> => {
  void loadSkia().catch(() => undefined)
  return import('./frame/EditorPage')
}
const EditorPage = lazy(loadWorkshop)
// Whoever comes by the address of a puppet need not wait for the first picture of the page before it is fetched.
if (location.pathname.startsWith('/puppet/')) void loadWorkshop().catch(() => undefined)

createRoot(sure(document.getElementById('root'))).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <EditorProvider value={editor}>
        <Tooltip.Provider delayDuration={350} skipDelayDuration={200}>
          <BrowserRouter>
            <Suspense fallback={<div className="grid h-full place-items-center text-quiet">Opening the workshop…</div>}>
              <Routes>
                <Route path="/" element={<LibraryPage />} />
                <Route path="/puppet/:id" element={<Navigate to="parts" replace />} />
                <Route path="/puppet/:id/:bench" element={<EditorPage />} />
                <Route path="*" element={<Navigate to="/" replace />} />
              </Routes>
            </Suspense>
          </BrowserRouter>
          <SignIn />
          <Toasts />
        </Tooltip.Provider>
      </EditorProvider>
    </QueryClientProvider>
  </StrictMode>,
)
