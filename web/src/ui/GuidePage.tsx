/** One page of docs/guide.md, with what holds on every one of them: safety. */
import Markdown from 'react-markdown'
import guide from '../../../docs/guide.md?raw'

export function GuidePage({ title }: { title: string }) {
  const pages = guide.split(/^## /m)
  const of = (name: string) => pages.find((page) => page.startsWith(`${name}\n`))?.slice(name.length) ?? ''
  return (
    <div className="space-y-2.5 [&_code]:bg-sheet [&_li]:mb-1 [&_ol]:list-decimal [&_ol]:pl-6">
      {/* The pictures are of the screen that lies behind this page. */}
      <Markdown disallowedElements={['img']}>{of(title)}</Markdown>
      <h3 className="plate text-xl font-bold">Safety</h3>
      <Markdown>{of('Safety')}</Markdown>
    </div>
  )
}
