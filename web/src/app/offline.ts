/**
 * Lets the browser keep the pages, so that they open without a network. Only a private connection allows that (TLS, or this
 * machine itself): on plain http there is no such thing, and everything else works all the same.
 */
export function keepPages(): void {
  if (!('serviceWorker' in navigator)) return
  void navigator.serviceWorker
    .register('/service-worker.js')
    .then(() => navigator.serviceWorker.ready)
    .then((registration) => {
      // Told as they arrive: a file asked for before the worker took over, and here only afterwards, passed it by.
      const tell = new PerformanceObserver((seen) => {
        registration.active?.postMessage({ files: seen.getEntries().map((entry) => entry.name) })
      })
      tell.observe({ type: 'resource', buffered: true })
    })
    .catch(() => {
      // A browser that does not allow it loses nothing but the reload without a network.
    })
}
