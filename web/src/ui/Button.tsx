import type { ButtonHTMLAttributes } from 'react'

const LOOKS = {
  hot: 'bg-hot text-on-hot border-hot',
  plain: 'bg-sheet text-ink border-ink hover:bg-paper',
  quiet: 'bg-transparent text-ink border-transparent underline decoration-2 underline-offset-4',
} as const
const SIZES = {
  usual: 'min-h-11 px-4',
  large: 'min-h-14 px-6 text-lg',
  huge: 'min-h-16 px-4 text-xl',
} as const

export interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: keyof typeof LOOKS
  size?: keyof typeof SIZES
}

export function Button({
  look = 'plain',
  size = 'usual',
  className = '',
  type = 'button',
  ...rest
}: ButtonProps) {
  return (
    <button
      type={type}
      className={`border-2 font-semibold enabled:active:bg-ink enabled:active:text-paper disabled:opacity-50 ${LOOKS[look]} ${SIZES[size]} ${className}`}
      {...rest}
    />
  )
}
