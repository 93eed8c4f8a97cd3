import type { RunEvent } from './named'

/**
 * Keeps an event stream open while the page is looked at. A browser allows six connections to one server: a hidden
 * page gives its own back, and starts anew when it is seen again.
 */
function follow(
  address: string,
  onData: (data: string) => void,
  onState: (open: boolean) => void,
): () => void {
  let stream: EventSource | null = null
  const start = () => {
    if (stream) return
    stream = new EventSource(address)
    stream.onopen = () => {
      onState(true)
    }
    stream.onerror = () => {
      onState(false)
      // The browser tries again by itself, unless the server said no for good.
      if (stream?.readyState === EventSource.CLOSED) {
        stream = null
        setTimeout(() => {
          if (!document.hidden && !stopped) start()
        }, 3000)
      }
    }
    stream.onmessage = (event: MessageEvent<string>) => {
      onData(event.data)
    }
  }
  const stop = () => {
    stream?.close()
    stream = null
  }
  let stopped = false
  const onVisibility = () => {
    if (document.hidden) stop()
    else start()
  }
  document.addEventListener('visibilitychange', onVisibility)
  start()
  return () => {
    stopped = true
    document.removeEventListener('visibilitychange', onVisibility)
    stop()
  }
}

/** Recomputed rows of a run, as they change. */
export function followRun(run: number, onEvent: (event: RunEvent) => void, onState: (open: boolean) => void) {
  return follow(
    `/api/v1/runs/${run}/events`,
    (data) => {
      onEvent(JSON.parse(data) as RunEvent)
    },
    onState,
  )
}

/** That this device's bench has changed. */
export function followBench(onChange: () => void, onState: (open: boolean) => void) {
  return follow('/api/v1/bench/events', onChange, onState)
}
