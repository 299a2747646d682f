import { useEffect, useRef, useState } from 'react'
import { hears, snapshotOf } from '@fulgor/core/board'
import { readMidiMessage } from '@fulgor/core/formats'
import type { Preset } from '@fulgor/core/preset'

/** What a MIDI device tells the stage view. */
export interface Heard {
  /** Positions of sources, 0–1, by id. */
  readonly positions: Readonly<Record<string, number>>
  readonly inputs: number
}

/**
 * Listens to every MIDI input: a snapshot that the device has loaded, and where its pedals stand.
 * @param onSnapshot hears the id of a snapshot of the preset
 */
export function useStageMidi(preset: Preset | null, onSnapshot: (snapshot: string) => void): Heard {
  const [heard, setHeard] = useState<Heard>({ positions: {}, inputs: 0 })
  const now = useRef({ preset, onSnapshot })
  useEffect(() => {
    now.current = { preset, onSnapshot }
  })
  useEffect(() => {
    if (!('requestMIDIAccess' in navigator)) return
    let access: MIDIAccess | null = null
    let left = false
    const listen = (found: MIDIAccess) => {
      for (const input of found.inputs.values())
        input.onmidimessage = ({ data }) => {
          const message = data ? readMidiMessage(data) : null
          const { preset: own, onSnapshot: tell } = now.current
          if (!message || !own) return
          const snapshot = snapshotOf(own, message)
          if (snapshot) tell(snapshot.id)
          const moved = (own.controls ?? []).filter((c) => hears(c.midi, message))
          if (moved.length > 0)
            setHeard((h) => ({ ...h, positions: { ...h.positions, ...Object.fromEntries(moved.map((c) => [c.id, message.value / 127])) } }))
        }
      setHeard((h) => (h.inputs === found.inputs.size ? h : { ...h, inputs: found.inputs.size }))
    }
    navigator.requestMIDIAccess().then(
      (found) => {
        if (left) return
        access = found
        found.onstatechange = () => listen(found)
        listen(found)
      },
      // without MIDI the keys and the glass are left
      () => undefined,
    )
    return () => {
      left = true
      if (!access) return
      access.onstatechange = null
      for (const input of access.inputs.values()) input.onmidimessage = null
    }
  }, [])
  return heard
}
