/** Small drawings of what can be seen on and over the water; ours, one line each. */
const WATER = 'M1 15H35'

const DRAWINGS: Record<string, readonly string[]> = {
  'head-and-tail': [WATER, 'M5 15C8 6 16 6 19 15', 'M24 15C25 10 28 9 29 6C30 10 31 12 33 15'],
  sips: [WATER, 'M10 15a8 3 0 0 0 16 0', 'M5 15a13 6 0 0 0 26 0'],
  splashes: [WATER, 'M18 14V3M13 14L9 5M23 14L27 5M9 14L4 10M27 14L32 10'],
  bulges: ['M1 15C8 15 10 8 18 8S28 15 35 15', 'M10 19C14 16 22 16 26 19'],
  swirls: [WATER, 'M18 17C24 17 24 22 18 22S13 18 18 18', 'M8 20h4M25 20h4'],
  swallows: [WATER, 'M6 7C10 3 13 4 18 9C23 4 26 3 30 7', 'M18 9L16 12M18 9L20 12'],
  shucks: [WATER, 'M8 13L14 11L13 14Z', 'M22 13L28 11L27 14Z', 'M15 18L21 17'],
  'diving-birds': [WATER, 'M18 14L14 4L18 7L22 4Z', 'M12 18L18 15L24 18'],
  'small-flies': [WATER, 'M8 8l2 -2l2 2M17 5l2 -2l2 2M25 9l2 -2l2 2M14 11l2 -2l2 2'],
  upwings: [WATER, 'M18 14C16 8 18 4 22 2C23 7 22 11 18 14M18 14L27 12'],
  'caddis-about': [WATER, 'M9 13L22 6L26 13Z', 'M22 6L29 3M22 6L28 7'],
  'damsels-about': ['M12 22V2M18 22V5M24 22V2', 'M12 8L26 10M14 7L18 4M15 9L19 13'],
  'blown-insects': [WATER, 'M13 11a4 3 0 1 0 8 0a4 3 0 1 0 -8 0', 'M13 11L10 8M21 11L24 8M2 5H12M2 9H8'],
  'fry-seen': [WATER, 'M6 19l6 -2l6 2l-6 2ZM18 19l3 -2v4Z', 'M22 22l4 -1l4 1'],
  'flea-clouds': [WATER, 'M8 19h.5M12 21h.5M15 18h.5M19 21h.5M22 19h.5M26 22h.5M28 18h.5M11 17h.5M24 17h.5'],
  nothing: [WATER, 'M1 20H35'],
}

/** A sign that is new here: something on the water. */
const SOMETHING = [WATER, 'M18 15m-5 0a5 3 0 1 0 10 0a5 3 0 1 0 -10 0']

export function SignDrawing({ sign }: { sign: string }) {
  return (
    <svg
      width="36"
      height="24"
      viewBox="0 0 36 24"
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.7"
      strokeLinecap="round"
      strokeLinejoin="round"
      className="shrink-0"
    >
      {(DRAWINGS[sign] ?? SOMETHING).map((d) => (
        <path key={d} d={d} />
      ))}
    </svg>
  )
}
