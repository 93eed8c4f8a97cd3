import { useEffect, useRef, useState } from 'react'
import { draftOf, keepDraft } from './outbox/device'

/** Digits being typed, kept on the device with every key, so that a reload loses none of them. */
export function useDraft(key: string): [string, (text: string) => void] {
  const [text, setText] = useState('')
  const touched = useRef(false)
  useEffect(() => {
    let current = true
    void draftOf(key).then((kept) => {
      // What has been typed in the meantime is newer.
      if (current && !touched.current) setText(kept)
    })
    return () => {
      current = false
    }
  }, [key])
  return [
    text,
    (next) => {
      touched.current = true
      setText(next)
      void keepDraft(key, next)
    },
  ]
}
