/** CSV in and out for one part of the box. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useAskAgain } from '../queries/api'
import { answer, client } from '../api/client'
import { FileDoor } from '../ui/FileDoor'
import { Trouble } from '../ui/Notice'

type Part = 'flies' | 'lines' | 'leaders'

const IN = {
  flies: '/api/fly-files',
  lines: '/api/line-files',
  leaders: '/api/leader-files',
} as const

/** What has to be asked again when a part of the box has changed. */
export function useBoxChanged(part: Part) {
  const again = useAskAgain()
  return () => again(`/api/${part}`, '/api/choices', '/api/weighings')
}

export function CsvDoor({ part, className = '' }: { part: Part; className?: string }) {
  const changed = useBoxChanged(part)
  const [report, setReport] = useState<string | null>(null)
  const bring = useMutation({
    mutationFn: (file: File) => {
      const body = new FormData()
      body.append('file', file, file.name)
      return answer(
        client.POST(IN[part], {
          body: body as unknown as { file: string },
          bodySerializer: (value) => value as unknown as FormData,
        }),
      )
    },
    onSuccess: async (told) => {
      setReport(`${told.added} ${part} added, ${told.changed} changed.`)
      await changed()
    },
  })
  const door = 'flex h-11 items-center border-2 border-ink bg-sheet px-3 font-semibold whitespace-nowrap'
  return (
    <div className={className}>
      <div className="flex gap-2">
        <FileDoor
          accept=".csv,text/csv"
          className="whitespace-nowrap"
          onFile={(file) => {
            setReport(null)
            bring.mutate(file)
          }}
        >
          CSV in<span className="sr-only">: {part}</span>
        </FileDoor>
        <a className={door} href={`/api/${part}.csv`} download>
          CSV out<span className="sr-only">: {part}</span>
        </a>
      </div>
      {report && <p role="status">{report}</p>}
      {bring.error && <Trouble error={bring.error} />}
    </div>
  )
}
