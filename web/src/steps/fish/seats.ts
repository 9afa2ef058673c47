/** Where on the leader a fly sits, in a word: the point first. */
export function seatWord(seat: number, flies: number): string {
  if (seat === 0) return 'Point'
  return seat === flies - 1 ? 'Top' : 'Middle'
}
