import { useEffect } from 'react'

/** Single keys that do something on this page, unless somebody is typing. */
export function useKeys(keys: Readonly<Record<string, () => void>>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null
      const typing = target?.closest('input, textarea, select, [contenteditable]')
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return
      const act = keys[event.key]
      if (act) {
        event.preventDefault()
        act()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => {
      window.removeEventListener('keydown', onKey)
    }
  }, [keys])
}
