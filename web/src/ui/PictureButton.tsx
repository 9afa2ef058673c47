/** What is on the page as one picture, to send to a friend or to keep: drawn here, sent nowhere by itself. */
import { useMutation } from '@tanstack/react-query'
import type { RefObject } from 'react'
import { Button } from './Button'
import { saveAs } from './saveAs'

interface PictureButtonProps {
  of: RefObject<HTMLElement | null>
  /** Of the file, without its ending. */
  name: string
}

export function PictureButton({ of, name }: PictureButtonProps) {
  const draw = useMutation({
    mutationFn: async () => {
      if (!of.current) return
      const { toBlob } = await import('html-to-image')
      const fontEmbedCSS = await letters()
      const blob = await toBlob(of.current, { pixelRatio: 2, backgroundColor: paper(), fontEmbedCSS })
      if (!blob) throw new Error('nothing drawn')
      const file = new File([blob], `${name}.png`, { type: 'image/png' })
      // A phone has a way to hand it on; elsewhere it is saved.
      if (navigator.maxTouchPoints > 0 && 'canShare' in navigator && navigator.canShare({ files: [file] }))
        await navigator.share({ files: [file] }).catch(saveUnlessLeft(file))
      else saveAs(file.name, file)
    },
  })
  return (
    <>
      <Button disabled={draw.isPending} onClick={() => draw.mutate()}>
        {draw.isPending ? 'Drawing…' : 'As a picture'}
      </Button>
      {draw.error && (
        <p role="alert" className="font-semibold text-hot">
          The picture could not be drawn. Print the page instead.
        </p>
      )}
    </>
  )
}

/** Whoever closes the sheet wants no file; where sharing fails for another reason, it is saved. */
function saveUnlessLeft(file: File) {
  return (error: unknown) => {
    if (!(error instanceof DOMException && error.name === 'AbortError')) saveAs(file.name, file)
  }
}

/** The page's own letters, packed into the picture: one drawn outside the page has no other way to them. */
async function letters(): Promise<string> {
  const faces = [...document.styleSheets].flatMap((sheet) =>
    [...sheet.cssRules]
      .filter((rule) => rule instanceof CSSFontFaceRule)
      // Those of other scripts are large, and not on this page.
      .filter(({ cssText }) => !cssText.includes('unicode-range') || /U\+0+-/i.test(cssText))
      .map((rule) => ({ css: rule.cssText, from: sheet.href ?? document.baseURI })),
  )
  const packed = await Promise.all(
    faces.map(async ({ css, from }) => {
      const url = /url\(["']?([^"')]+)/.exec(css)?.[1]
      if (!url) return ''
      const file = await (await fetch(new URL(url, from))).blob()
      return css.replace(/src:[^;]+/, `src: url(${await dataUrl(file)})`)
    }),
  )
  return packed.join('\n')
}

function dataUrl(file: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(reader.result as string)
    reader.onerror = () => failed(new Error('a font could not be read'))
    reader.readAsDataURL(file)
  })
}

function paper(): string {
  return getComputedStyle(document.documentElement).getPropertyValue('--sheet').trim()
}
