/** A page from before an update asks for files that are gone: it is loaded again, once. What was not saved yet is kept by the browser. */
const KEY = 'reloaded-after-update'
/** A page that fails again this soon is not helped by loading it again, ms. */
const SOON = 60_000

export function reloadAfterUpdate(): void {
  window.addEventListener('vite:preloadError', (event) => {
    const last = Number(sessionStorage.getItem(KEY) ?? 0)
    if (Date.now() - last < SOON) return
    event.preventDefault()
    sessionStorage.setItem(KEY, String(Date.now()))
    location.reload()
  })
}
