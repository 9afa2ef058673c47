/** Skies that are told apart at a glance, from clear to overcast: how much of them is cloud. */
export const SKIES = [
  { value: '0', text: 'Clear', share: 0 },
  { value: '0.3', text: 'Some', share: 0.3 },
  { value: '0.6', text: 'Broken', share: 0.6 },
  { value: '1', text: 'Overcast', share: 1 },
] as const
