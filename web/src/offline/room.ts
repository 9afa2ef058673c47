/** How much the device can still keep, and whether it promises to. */
import { useEffect, useState } from 'react'
import { useKeeping } from './store'

/** What a long day of taps needs, many times over. */
const TIGHT_BYTES = 5_000_000

export interface Room {
  leftBytes: number | null
  /** The browser has promised not to clear it when it needs room itself. */
  promised: boolean
}

/** Ask the browser not to clear what is logged here. */
export async function askToKeep(): Promise<void> {
  if (!('storage' in navigator)) return
  if (!(await navigator.storage.persisted())) await navigator.storage.persist()
}

async function roomLeft(): Promise<Room | null> {
  // A page that is not served safely is not told.
  if (!('storage' in navigator)) return null
  const [{ quota, usage }, promised] = await Promise.all([
    navigator.storage.estimate(),
    navigator.storage.persisted(),
  ])
  return { leftBytes: quota === undefined ? null : Math.max(0, quota - (usage ?? 0)), promised }
}

export const isTight = (room: Room | null) => room?.leftBytes != null && room.leftBytes < TIGHT_BYTES

export function useRoom(): Room | null {
  const kept = useKeeping()
  const [room, setRoom] = useState<Room | null>(null)
  useEffect(() => {
    let gone = false
    void roomLeft().then(
      (told) => {
        if (!gone) setRoom(told)
      },
      () => undefined,
    )
    return () => {
      gone = true
    }
  }, [kept])
  return room
}
