/** Send an archive part by part: what came stays, and a part that is sent twice is the same. */
import { answer, client, csrfToken, NoConnection, type Schemas } from '../api/client'

export type Restore = Schemas['RestoreOut']
export type Found = Schemas['FoundOut']
export type Mode = NonNullable<Schemas['LookIn']['mode']>

const PART_BYTES = 4_000_000
const TRIES = 4
const WAIT_MS = 1_500

export async function sendArchive(file: File, onCame: (share: number) => void): Promise<Restore> {
  let restore = await answer(client.POST('/api/restores', { body: { size: file.size } }))
  for (let tries = 0; restore.came < file.size;) {
    const offset = restore.came
    try {
      restore = await sendPart(restore.id, offset, file.slice(offset, offset + PART_BYTES))
      tries = 0
    } catch (error) {
      // A lost connection is waited out; whatever came by then is not sent again.
      if (!(error instanceof NoConnection) || ++tries >= TRIES) throw error
      await new Promise((done) => setTimeout(done, WAIT_MS * tries))
    }
    onCame(restore.came / file.size)
  }
  return restore
}

function sendPart(id: string, offset: number, part: Blob): Promise<Restore> {
  const body = new FormData()
  body.append('file', part, 'part')
  return answer(
    client.POST('/api/restores/{restore_id}/parts', {
      params: { path: { restore_id: id }, query: { offset } },
      body: body as never,
      bodySerializer: (form) => form as unknown as FormData,
      headers: { 'X-CSRFToken': csrfToken() },
    }),
  )
}
