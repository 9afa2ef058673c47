/** Units, theme, sound, and the way out: switchable on the spot. */
import { Popover } from 'radix-ui'
import { Link } from 'react-router'
import { NoConnection, type Preferences } from '../api/client'
import { useRoom } from '../offline/room'
import { useKeeping } from '../offline/store'
import { useLeave } from '../state/leave'
import { useChangePreferences, usePerson, useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'

const UNIT_CHOICES: { key: keyof Preferences; label: string; options: string[] }[] = [
  { key: 'depth_unit', label: 'Depth', options: ['m', 'ft'] },
  { key: 'temperature_unit', label: 'Temperature', options: ['C', 'F'] },
  { key: 'line_speed_unit', label: 'Sink rate and retrieve', options: ['cm/s', 'in/s'] },
  { key: 'wind_unit', label: 'Wind', options: ['m/s', 'mph', 'kn', 'Bft'] },
  { key: 'fish_length_unit', label: 'Fish length', options: ['cm', 'in'] },
  { key: 'mass_unit', label: 'Fish weight', options: ['kg', 'lb'] },
  { key: 'theme', label: 'Light', options: ['light', 'dusk'] },
]

const YOURS = [
  { to: '/you/log', text: 'Your log, out and in' },
  { to: '/you', text: 'Account' },
] as const

export function AccountMenu() {
  const { username, is_demo } = usePerson()
  const units = useUnits()
  const change = useChangePreferences()
  const { trouble, now } = useLeave()
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button
          className="min-h-14 w-full shrink-0 border-0 text-left text-lg sm:min-h-11 sm:w-auto sm:border-x-2 sm:px-3 sm:text-sm"
          aria-label="Units and you"
        >
          Units &amp; you
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Units and account"
          collisionPadding={8}
          className="z-40 max-h-[82vh] w-[330px] space-y-2 overflow-y-auto border-2 border-ink bg-paper p-4"
        >
          <div className="flex flex-wrap items-center justify-between gap-2">
            <span className="font-semibold [overflow-wrap:anywhere]">{username}</span>
            <Button onClick={() => void now()}>{is_demo ? 'Start with my own water' : 'Sign out'}</Button>
          </div>
          {trouble instanceof NoConnection ? (
            <p role="alert" className="font-semibold text-hot">
              No connection: you are still signed in. Sign out when there is one.
            </p>
          ) : (
            trouble !== null && <Trouble error={trouble} />
          )}
          <nav aria-label="Your account" className="flex gap-x-5 border-b-2 border-ink pb-1">
            {YOURS.map(({ to, text }) => (
              <Popover.Close key={to} asChild>
                <Link to={to} className="flex min-h-11 items-center font-semibold underline">
                  {text}
                </Link>
              </Popover.Close>
            ))}
          </nav>
          {UNIT_CHOICES.map(({ key, label, options }) => (
            <Segments
              key={key}
              label={label}
              value={String(units[key])}
              options={options.map((value) => ({
                value,
                text: value === 'C' || value === 'F' ? `°${value}` : value,
              }))}
              onValueChange={(value) => change.mutate({ [key]: value })}
            />
          ))}
          <Segments
            label="Sound at the count"
            value={units.sound_on ? 'on' : 'off'}
            options={[
              { value: 'on', text: 'on' },
              { value: 'off', text: 'off' },
            ]}
            onValueChange={(value) => change.mutate({ sound_on: value === 'on' })}
          />
          <Segments
            label="Beat of the retrieve"
            value={units.beat_on ? 'on' : 'off'}
            options={[
              { value: 'on', text: 'on' },
              { value: 'off', text: 'off' },
            ]}
            onValueChange={(value) => change.mutate({ beat_on: value === 'on' })}
          />
          <Segments
            label="Hand that taps"
            value={units.left_handed ? 'left' : 'right'}
            options={[
              { value: 'left', text: 'left' },
              { value: 'right', text: 'right' },
            ]}
            onValueChange={(value) => change.mutate({ left_handed: value === 'left' })}
          />
          <Segments
            label="Your log leans the advice"
            value={units.uses_log ? 'on' : 'off'}
            options={[
              { value: 'on', text: 'on' },
              { value: 'off', text: 'off' },
            ]}
            onValueChange={(value) => change.mutate({ uses_log: value === 'on' })}
          />
          <Keeps />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** What this device can still keep of a day without signal. */
function Keeps() {
  const inPage = useKeeping() === 'page'
  const room = useRoom()
  const left = room?.leftBytes == null ? null : Math.floor(room.leftBytes / 1e6)
  return (
    <p className="text-sm text-soft">
      {inPage
        ? 'This device keeps nothing: what you log is sent at once, or stays in this page.'
        : `What you log is kept here until it is sent.${left === null ? '' : ` Room left: ${left >= 1000 ? `${Math.floor(left / 1000)} GB` : `${left} MB`}.`}${room?.promised === false ? ' The browser may clear it when it runs short.' : ''}`}
    </p>
  )
}
