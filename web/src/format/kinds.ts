/** What happens on the water, in words. */
import type { Schemas } from '../api/client'

export const KIND_WORDS: Record<Schemas['EntryIn']['kind'], string> = {
  cast: 'Cast',
  nothing: 'Nothing',
  knock: 'Knock',
  take: 'Take',
  lost: 'Lost',
  landed: 'Landed',
  follow: 'Follow',
  seen: 'Fish seen',
  told: 'Other rod’s fish',
  catching: 'Others catch',
  place: 'New place',
  touched: 'Bottom',
}
