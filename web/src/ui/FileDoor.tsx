/** A button that takes a file in. */
interface FileDoorProps {
  accept: string
  onFile(file: File): void
  children: React.ReactNode
  className?: string
}

export function FileDoor({ accept, onFile, children, className = '' }: FileDoorProps) {
  return (
    <label
      className={`inline-flex min-h-11 cursor-pointer items-center border-2 border-ink bg-sheet px-3 font-semibold focus-within:outline-3 focus-within:outline-hot ${className}`}
    >
      {children}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0]
          // The same file may be chosen again once it was put right.
          event.target.value = ''
          if (file) onFile(file)
        }}
      />
    </label>
  )
}
