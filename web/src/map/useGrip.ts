/** A hand on the map: a tap picks a place, one finger or the mouse drags it, two fingers zoom and turn nothing. */
import { useRef, type PointerEvent } from 'react'
import { zoomed, type Frame, type Point, type View } from './view'

const CLICK_PX = 5

interface Grip {
  /** What was in sight when the fingers that are down came to be. */
  view: View
  /** Their middle [px], and how far apart they were; 0 for one. */
  middle: Point
  apartPx: number
  /** Too far for a tap. */
  far: boolean
}

type MapEvent = PointerEvent<SVGSVGElement>

export function inside(event: {
  clientX: number
  clientY: number
  currentTarget: Element
}): [number, number] {
  const box = event.currentTarget.getBoundingClientRect()
  return [event.clientX - box.left, event.clientY - box.top]
}

export function useGrip(view: View, onMove: (frame: Frame) => void, onPick: (place: Point) => void) {
  const fingers = useRef(new Map<number, Point>())
  const grip = useRef<Grip | null>(null)

  const put = (event: MapEvent) => {
    const [x, y] = inside(event)
    fingers.current.set(event.pointerId, { x, y })
  }
  const take = (far: boolean) => {
    const held = hold([...fingers.current.values()])
    grip.current = held && { ...held, view, far }
  }
  const lift = (event: MapEvent, picks: boolean) => {
    const [x, y] = inside(event)
    if (picks && grip.current && !grip.current.far) onPick(view.place(x, y))
    fingers.current.delete(event.pointerId)
    take(true)
  }
  return {
    onPointerDown: (event: MapEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId)
      put(event)
      take(fingers.current.size > 1)
    },
    onPointerMove: (event: MapEvent) => {
      if (!fingers.current.has(event.pointerId)) return
      put(event)
      const [was, now] = [grip.current, hold([...fingers.current.values()])]
      if (!was || !now) return
      if (!was.far && Math.hypot(now.middle.x - was.middle.x, now.middle.y - was.middle.y) < CLICK_PX) return
      was.far = true
      // The place that was between the fingers stays between them.
      const place = was.view.place(was.middle.x, was.middle.y)
      const { pxPerM, middle } = zoomed(was.view, was.apartPx > 0 ? now.apartPx / was.apartPx : 1, place)
      onMove({
        pxPerM,
        middle: {
          x: middle.x - (now.middle.x - was.middle.x) / pxPerM,
          y: middle.y + (now.middle.y - was.middle.y) / pxPerM,
        },
      })
    },
    onPointerUp: (event: MapEvent) => lift(event, true),
    onPointerCancel: (event: MapEvent) => lift(event, false),
  }
}

/** The middle of the first two fingers and how far apart they are. */
function hold([a, b]: Point[]): Pick<Grip, 'middle' | 'apartPx'> | null {
  if (!a) return null
  if (!b) return { middle: a, apartPx: 0 }
  return {
    middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
    apartPx: Math.max(Math.hypot(a.x - b.x, a.y - b.y), 1),
  }
}
