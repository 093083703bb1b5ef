import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/bricolage-grotesque'
import '@fontsource-variable/jetbrains-mono'
import './styles/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { Tooltip } from 'radix-ui'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { Toaster } from 'sonner'
import { LibraryPage } from './library/LibraryPage'
import { SignIn } from './library/SignIn'
import { reloadAfterUpdate } from './state/updated'
import { applyTheme, useSession } from './state/session'

const EditorPage = lazy(() => import('./EditorPage'))
const queries = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: true, retry: 1 } } })

applyTheme(useSession.getState().theme)
reloadAfterUpdate()

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

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
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
    </QueryClientProvider>
  </StrictMode>,
)
